"""A row of strokes, one letter each: g good, m a miss, a digit: a miss with the fault of that
number, a capital: a good one with a fault (A the first); v a bad feed, r once more. Signs between
them are no strokes: z easier from here on, y as asked again.
"""

from collections import Counter
from collections.abc import Sequence

VOID, AGAIN = "v", "r"
EASIER, AS_ASKED = "z", "y"


def is_good(stroke: str) -> bool:
    """Whether it is a good one, with a fault or without."""
    return stroke == "g" or stroke.isupper()


def attempts_in(strokes: str) -> int:
    """How many of them are attempts: spoiled ones and signs are none."""
    return sum(stroke not in VOID + AGAIN + EASIER + AS_ASKED for stroke in strokes)


def makes_in(strokes: str) -> int:
    """How many of them are good."""
    return sum(map(is_good, strokes))


def faults_in(strokes: str, names: Sequence[str]) -> dict[str, int]:
    """Faults by name, on misses and on good ones. names: by their numbers."""
    keys = {str(i): name for i, name in enumerate(names)}
    keys |= {chr(ord("A") + i): name for i, name in enumerate(names)}
    return dict(Counter(keys[stroke] for stroke in strokes if stroke in keys))
