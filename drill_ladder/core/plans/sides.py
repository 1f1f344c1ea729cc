"""Words with sides, for a player of the other hand: left for right and right for left, two o'clock
for ten, clockwise for anticlockwise.

"Right" and "left" also mean other things ("right away", "that is right", "nothing left"): those
stay. Plain English habits, our own choice.
"""

import re

_OTHER = {"left": "right", "right": "left"}
_KEPT_AFTER = (
    r"(?!\s+(?:away|angles?|angled|after|before|behind|now|here|there|through|out|over)\b)"
)
_NOT_SIDES = (
    *("all", "just", "it", "do", "get", "minutes", "seconds", "time", "balls", "tries"),
    *("that is", "that's", "that\u2019s", "this is", "it is", "it's", "it\u2019s", "not quite"),
    *("nothing", "none", "anything", "something", "what is", "what's", "what\u2019s"),
    *("how many are", "how much is", "attempts", "reps", "shots", "sets", "rounds"),
)
_KEPT_BEFORE = "".join(rf"(?<!\b{words}\s)" for words in _NOT_SIDES)
_OF = r"\b(?:left|right)(?=\s+of\b)"  # left of the cone: always a side
_SIDE = re.compile(rf"{_OF}|{_KEPT_BEFORE}\b(?:left|right)\b{_KEPT_AFTER}", re.IGNORECASE)
_HOURS = (
    *("one", "two", "three", "four", "five", "six"),
    *("seven", "eight", "nine", "ten", "eleven", "twelve"),
)
_HOUR = re.compile(rf"\b(1[0-2]|[1-9]|{'|'.join(_HOURS)})(?=\s*o['\u2019]clock\b)", re.IGNORECASE)
_TURN = re.compile(r"\b(anti-?|counter-?)?clockwise\b", re.IGNORECASE)


def swapped(text: str) -> str:
    """The text with its sides changed over.

    >>> swapped("Left foot first, then right away to the right")
    'Right foot first, then right away to the left'
    """
    text = _SIDE.sub(lambda found: _like(found[0], _OTHER[found[0].lower()]), text)
    text = _HOUR.sub(lambda found: _hour(found[1]), text)
    return _TURN.sub(lambda found: _like(found[0], _turned(found)), text)


def _hour(said: str) -> str:
    """The hour across the line from twelve to six: two for ten."""
    if said.isdigit():
        return str(12 - int(said) or 12)
    return _like(said, _HOURS[10 - _HOURS.index(said.lower())])


def _turned(found: re.Match[str]) -> str:
    return "clockwise" if found[1] else "anticlockwise"


def _like(before: str, word: str) -> str:
    """Capitals as they were."""
    if before.isupper():
        return word.upper()
    return word.capitalize() if before[0].isupper() else word
