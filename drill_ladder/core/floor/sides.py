"""Words with sides, for a player of the other hand: left for right and right for left.

"Right" and "left" also mean other things ("right away", "two minutes left"): those stay. Plain
English habits, our own choice.
"""

import re

_OTHER = {"left": "right", "right": "left"}
_KEPT_AFTER = (
    r"(?!\s+(?:away|angles?|angled|after|before|behind|now|here|there|through|out|over)\b)"
)
_KEPT_BEFORE = "".join(
    rf"(?<!\b{word}\s)"
    for word in ("all", "just", "it", "do", "get", "minutes", "seconds", "time", "balls", "tries")
)
_SIDE = re.compile(rf"{_KEPT_BEFORE}\b(left|right)\b{_KEPT_AFTER}", re.IGNORECASE)


def swapped(text: str) -> str:
    """The text with its sides changed over.

    >>> swapped("Left foot first, then right away to the right")
    'Right foot first, then right away to the left'
    """
    return _SIDE.sub(lambda found: _like(found[1], _OTHER[found[1].lower()]), text)


def _like(before: str, word: str) -> str:
    """Capitals as they were."""
    if before.isupper():
        return word.upper()
    return word.capitalize() if before[0].isupper() else word
