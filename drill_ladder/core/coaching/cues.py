"""The caller: sequences of cues for reaction work, seeded (docs/methods.md, 16).

Unpredictability is a difficulty axis of its own: known, then serial, then random.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from drill_ladder.core.judging import Mode


def sequence(cues: Sequence[str], n: int, mode: Mode, max_run: int = 2, seed: int = 0) -> list[str]:
    """n cues in order. Counts differ by one at most; random: no cue more than max_run times running
    (unless it is the only one), and who gets the surplus is drawn. cues: at least one, all
    different; n >= 0; max_run >= 1.
    """
    each, surplus = divmod(n, len(cues))
    if mode is Mode.KNOWN:
        return [cue for i, cue in enumerate(cues) for _ in range(each + (i < surplus))]
    if mode is Mode.SERIAL:
        return [cues[i % len(cues)] for i in range(n)]
    chance = np.random.default_rng(seed)
    left = np.full(len(cues), each)
    left[chance.choice(len(cues), surplus, replace=False)] += 1
    return [cues[i] for i in _drawn(left, max_run, chance)]


def _drawn(left: np.ndarray, max_run: int, chance: np.random.Generator) -> list[int]:
    """Draw one after the other, by what is left, never into a corner."""
    found: list[int] = []
    last, run = -1, 0
    while left.sum():
        weights = np.array(
            [left[c] if _may(left, c, last, run, max_run) else 0 for c in range(len(left))],
            dtype=float,
        )
        c = int(chance.choice(len(left), p=weights / weights.sum()))
        run = run + 1 if c == last else 1
        last = c
        left[c] -= 1
        found.append(c)
    return found


def _may(left: np.ndarray, c: int, last: int, run: int, max_run: int) -> bool:
    """Whether cue c may come next: its run is not too long, and everything left can still be placed
    after it.
    """
    if len(left) == 1:
        return True
    if not left[c] or (c == last and run >= max_run):
        return False
    total = int(left.sum()) - 1
    for other in range(len(left)):
        rest = int(left[other]) - (other == c)
        longer = run + 1 if c == last else 1
        used = longer if other == c else 0
        # rest of `other` fit into the gaps around all the different ones, max_run in each, less
        # what runs now
        if rest > (total - rest) * max_run + max_run - used:
            return False
    return True


COLOURS = ("red", "blue", "green", "yellow", "orange", "purple", "white", "black")
PLAIN = "plain"


def shown_on(cues: Sequence[str], clash: bool, seed: int) -> list[str]:
    """What each word is shown on: "" for a word that names no colour; else a colour of none, or,
    where colour and word are to disagree, one of the other colours that are called.
    """
    called = [one.lower() for one in dict.fromkeys(cues) if one.lower() in COLOURS]
    chance = np.random.default_rng(seed)
    on = []
    for cue in cues:
        others = [one for one in called if one != cue.lower()]
        if cue.lower() not in COLOURS:
            on.append("")
        elif clash and others:
            on.append(others[int(chance.integers(len(others)))])
        else:
            on.append(PLAIN)
    return on


@dataclass(frozen=True, slots=True)
class Call:
    """A cue with its delay in seconds; leave: a leave-it cue, to which nothing may be done; late:
    called late.
    """

    cue: str
    delay_s: float
    leave: bool = False
    late: bool = False


def calls(
    cues: Sequence[str],
    delay_s: tuple[float, float],
    leave_share: float = 0.0,
    late_share: float = 0.0,
    seed: int = 0,
) -> list[Call]:
    """A sequence with delays drawn from a range (seconds, low <= high), and exact shares of
    leave-it and late cues.
    """
    chance = np.random.default_rng(seed)
    n = len(cues)
    delays = chance.uniform(*delay_s, size=n)
    leave = set(chance.choice(n, round(leave_share * n), replace=False).tolist()) if n else set()
    late = set(chance.choice(n, round(late_share * n), replace=False).tolist()) if n else set()
    return [Call(cue, float(delays[i]), i in leave, i in late) for i, cue in enumerate(cues)]
