"""Names of tools as people write them, made comparable: three balls, two balls and a ball are all
balls.

Plain English habits, our own choice; nobody's list of tools is assumed.
"""

import re
from collections.abc import Iterable

_COUNTS = frozenset(
    "a an the one two three four five six seven eight nine ten eleven twelve twenty "  # noqa: SIM905
    "some few several pair of many".split()
)
_WORD = re.compile(r"[^\W\d_]+(?:[-'][^\W\d_]+)*")


def tool(text: str) -> str:
    """One name: lower case, without how many of them, in the singular. Empty for no name."""
    words = [word for word in _WORD.findall(text.lower()) if word not in _COUNTS]
    if not words:
        return ""
    return " ".join([*words[:-1], _single(words[-1])])


def _single(word: str) -> str:
    if word.endswith("ies") and len(word) > 4:
        return word[:-3] + "y"
    if word.endswith(("sses", "shes", "ches", "xes")):
        return word[:-2]
    return word[:-1] if word.endswith("s") and not word.endswith(("ss", "us")) else word


def kit_of(names: Iterable[str]) -> frozenset[str]:
    """All names of a list that say something."""
    return frozenset(filter(None, map(tool, names)))
