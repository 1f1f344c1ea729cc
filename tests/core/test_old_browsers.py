"""What the pages are made of works on a browser of four years ago (Chromium 108, of November 2022,
the oldest that is promised): nothing newer stands in the files that ship, unless it is asked for
before. The versions in which things came are from memory of the public tables of support.
"""

import re
from pathlib import Path

import pytest

STATIC = Path(__file__).parents[2] / "drill_ladder" / "ui" / "static"
OLDEST = 108
# what -> the version of Chromium that brought it
CALLS = {
    r"\.toSorted\(": 110,
    r"\.toReversed\(": 110,
    r"\.toSpliced\(": 110,
    r"\bObject\.groupBy\(": 117,
    r"\bPromise\.withResolvers\(": 119,
    r"\bAbortSignal\.any\(": 116,
    r"\bURL\.canParse\(": 120,
    r"\bArray\.fromAsync\(": 121,
    r"\.isSubsetOf\(": 122,
    r"\.symmetricDifference\(": 122,
    r"\.showPopover\(": 114,
    r"\bcheckVisibility\(": 105,
    r"\.findLast\(": 97,
    r"\bstructuredClone\(": 98,
}
STYLES = {
    r"@starting-style": 117,
    r"@container\b": 105,
    r"@scope\b": 118,
    r":popover-open": 114,
    r"\blight-dark\(": 123,
    r"\bfield-sizing:": 123,
    r":user-invalid": 119,
    r"\boklch\(": 111,
    r"\bcolor-mix\(": 111,
    r"\bsubgrid\b": 117,
    r":has\(": 105,
    r"@layer\b": 99,
    r"\d+dvh": 108,
    r"[{;]&": 112,
}


def unguarded(source):
    """The styles without what stands behind a question for support."""
    kept, rest = [], source
    while (at := rest.find("@supports")) >= 0:
        kept.append(rest[:at])
        depth, end = 0, rest.index("{", at)
        for end in range(rest.index("{", at), len(rest)):
            depth += (rest[end] == "{") - (rest[end] == "}")
            if depth == 0:
                break
        rest = rest[end + 1 :]
    return "".join([*kept, rest])


def newer(source, known):
    found = {what for what in known if re.search(what, source)}
    return {what: known[what] for what in found if known[what] > OLDEST}


@pytest.mark.parametrize("name", ["app", "card", "floor", "sw", "theme"])
def test_scripts_ask_for_nothing_newer(name):
    source = (STATIC / "js" / f"{name}.js").read_text()
    assert len(source) > 100
    assert newer(source, CALLS) == {}
    # written out by the build for 2020: no later syntax is left
    assert not re.search(r"\?\?=|\|\|=|&&=|\bstatic\s*\{|(?<![\w.])#\w+\s+in\s", source)


def test_styles_ask_before_they_use_what_is_newer():
    """`@supports` keeps it from those that lack it: they have what stands first."""
    source = (STATIC / "css" / "app.css").read_text()
    assert newer(unguarded(source), STYLES) == {}
    assert newer(source, STYLES) != {}  # something is guarded, so the guard is tried


def test_the_check_finds_what_is_too_new():
    assert newer("rows.toSorted()", CALLS) == {r"\.toSorted\(": 110}
    assert newer(unguarded("a{color:oklch(1 0 0)}"), STYLES) == {r"\boklch\(": 111}
    guarded = "@supports (color:oklch(1 0 0)){a{color:oklch(1 0 0)}}"
    assert newer(unguarded(guarded), STYLES) == {}
