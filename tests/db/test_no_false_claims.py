"""No sentence claims more than its statistic: no cause, no certainty, nothing proven; and by its
verdict nothing that the verdict does not carry.
"""

import ast
import re
from pathlib import Path

import pytest

from drill_ladder.apps.progress.panels.one_player import _better_line
from drill_ladder.apps.progress.report.writing import _change
from drill_ladder.charts.scores import Line
from drill_ladder.core.judging import Makes, Time

PRODUCT = Path(__file__).parents[2] / "drill_ladder"
# claimed nowhere; "prove nothing" and "no guarantee" claim less, not more
NOWHERE = re.compile(
    r"\b(because of this|thanks to|due to|caused by|leads to (?:better|more)|the effect of|makes? "
    r"(?:them|you) better|guarantees?|certainly|undoubtedly|statistically|significant(?:ly)?|"
    r"proves?(?! nothing)|proven|always works|never fails|the best rule|the right rule)\b",
    re.IGNORECASE,
)
# what a sentence of this verdict must not say
BY_VERDICT = {
    "flat": r"\b(better|worse|improv|progress|stuck|stalled|declin|no progress)\b",
    "improving": r"\b(worse|harder|declin|no change)\b",
    "worsening": r"\b(better|improv|no change|lazy|bad at)\b",
    "too_early": r"\b(better|worse|improv|harder|steady|no change|stuck)\b",
}


def sentences_of(path):
    """The texts of a module that are long enough to claim something; docstrings are for us."""
    tree = ast.parse(path.read_text())
    docs = {
        id(node.body[0].value)
        for node in ast.walk(tree)
        if isinstance(node, ast.Module | ast.ClassDef | ast.FunctionDef) and ast.get_docstring(node)
    }
    for node in ast.walk(tree):
        text = isinstance(node, ast.Constant) and isinstance(node.value, str)
        if text and id(node) not in docs and len(node.value.split()) > 1:
            yield node.value


def test_no_module_and_no_template_claims_a_cause_or_a_certainty():
    said = [
        (path, words)
        for path in [*PRODUCT.rglob("*.py")]
        if not {"migrations", "demo"} & set(path.relative_to(PRODUCT).parts)
        for words in sentences_of(path)
    ]
    said += [
        (path, re.sub(r"\{[%#].*?[%#]\}|<[^>]*>", " ", path.read_text(), flags=re.S))
        for path in PRODUCT.rglob("*.html")
    ]
    assert len(said) > 2000
    found = [(path.name, hit[0]) for path, words in said for hit in NOWHERE.finditer(words)]
    assert found == []


@pytest.mark.parametrize("measure", [Makes(), Time()], ids=["makes", "time"])
@pytest.mark.parametrize("verdict", ["flat", "improving", "worsening"])
def test_a_trend_says_what_its_verdict_carries(verdict, measure):
    line = Line(0.01, 0.001, 0.02) if verdict != "flat" else Line(0.0, -0.01, 0.01)
    coach = _better_line(verdict, line, 8, measure)
    family = _change("Gate", measure, verdict, line.slope)
    for words in (coach, family):
        assert not re.search(BY_VERDICT[verdict], _without_honest(words), re.IGNORECASE), words
    assert "between" in coach  # how unsure it is stands beside it


def _without_honest(words):
    """“Getting worse” is what worsening is; the family is told it kindly."""
    return words.replace("No change to be sure of", "").replace("no change that is more", "")


def test_too_early_says_nothing_but_that():
    for words in (_better_line("", None, 3, Makes()), _change("Gate", Makes(), "", None)):
        assert not re.search(BY_VERDICT["too_early"], words, re.IGNORECASE), words
        assert "too early to say" in words.lower()


def test_the_list_finds_what_it_forbids():
    for words in ("thanks to this drill", "this proves it", "significantly better", "due to rest"):
        assert NOWHERE.search(words)
    assert not NOWHERE.search("Few cases prove nothing")
