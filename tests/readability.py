"""How hard a sentence is to read: the grade of Flesch and Kincaid (J. P. Kincaid, R. P. Fishburne,
R. L. Rogers, B. S. Chissom, "Derivation of new readability formulas for Navy enlisted personnel",
Research Branch Report 8-75, 1975). Grade 5 is a child of ten or eleven. Syllables by the places
where a word may be broken (pyphen), which are a few less than are spoken.
"""

import re
from dataclasses import dataclass
from functools import cache
from pathlib import Path

import pyphen

BREAK = pyphen.Pyphen(lang="en_GB", left=1, right=1)
BLOCKS = "p|li|h1|h2|h3|dt|dd|td|th|legend|label|summary|small|div|section|button|a|option|title"
SHORTEST = 5  # words: what is shorter is a label, and one long word decides about it


def syllables(word: str) -> int:
    """At least one."""
    return BREAK.inserted(word.lower()).count("-") + 1


def grade(text: str) -> float:
    """Of one or more sentences."""
    sentences = max(1, len(re.findall(r"[.!?:;]+(?:\s|$)", text)))
    words = re.findall(r"[A-Za-z’']+", text)
    if not words:
        return 0.0
    spoken = sum(map(syllables, words))
    return 0.39 * len(words) / sentences + 11.8 * spoken / len(words) - 15.59


@dataclass(frozen=True, order=True)
class Found:
    """A sentence, how hard it is, and where it stands."""

    grade: float
    words: str
    place: str


def sentences(text: str) -> list[str]:
    """Those that are long enough to be judged."""
    whole = (" ".join(part.split()) for part in re.split(r"(?<=[.!?])\s+|\n", text))
    return [one for one in whole if len(re.findall(r"[A-Za-z]+", one)) >= SHORTEST]


def of_html(page: str) -> list[str]:
    """What a page says, block by block."""
    page = re.sub(r"<(script|style|svg|head|template)\b.*?</\1>", " ", page, flags=re.S)
    page = re.sub(rf"</?({BLOCKS})\b[^>]*>", "\n", page)
    page = re.sub(r"<[^>]*>", "", page)
    return [one for block in page.split("\n") for one in sentences(block)]


@cache
def of_template(path: Path) -> tuple[str, ...]:
    """What a template says itself; a name stands for each value."""
    source = re.sub(r"\{#.*?#\}|\{% comment.*?endcomment %\}", "", path.read_text(), flags=re.S)
    source = re.sub(r"\{\{[^}]*pluralize[^}]*\}\}", "", source).replace("&nbsp;", " ")
    source = re.sub(r"\{\{.*?\}\}", "Ida", source, flags=re.S)
    words = re.findall(r'\{% nothing_yet "([^"]*)" "([^"]*)"', source)
    source = re.sub(r"\{%.*?%\}", " ", source, flags=re.S)
    more = [one for pair in words for text in pair for one in sentences(text)]
    return tuple(of_html(source) + more)


def worst(found: dict[str, list[str]], number: int = 12) -> list[Found]:
    """The hardest sentences of all places."""
    rows = {
        Found(round(grade(one), 1), one, place) for place, all_ in found.items() for one in all_
    }
    return sorted(rows, reverse=True)[:number]
