"""Where does this player start? Probing up and down a ladder, and reading the start off it
(docs/methods.md, 6).

Up-and-down probing is common practice (no source); the rates are made non-increasing by isotonic
regression.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from drill_ladder.core.thresholds import at_least, good_enough

MOST_SETS = 6
DEFAULT_ZONE = (0.5, 0.8)
PRODUCT_ZONE = (0.6, 0.8)  # what the product works with (precise wording)


@dataclass(frozen=True, slots=True)
class Probe:
    """One short set at a rung (index from 0)."""

    rung: int
    attempts: int
    makes: int


@dataclass(frozen=True, slots=True)
class Placement:
    """next: the rung to probe, None when done; fitted: (rung, rate) from the lowest to the highest
    probed; start.
    """

    next: int | None
    fitted: list[tuple[int, float]]
    start: int | None


def middle(rungs: int) -> int:
    """The rung to begin with when there is no better guess: the middle, the lower of two."""
    return (rungs - 1) // 2


def place(
    rungs: int,
    probes: Sequence[Probe],
    guess: int | None = None,
    zone: tuple[float, float] = DEFAULT_ZONE,
) -> Placement:
    """What to probe next and where to start, after these probes in their order. rungs >= 1."""
    if not probes:
        return Placement(middle(rungs) if guess is None else guess, [], None)
    fitted = _fitted(probes)
    return Placement(_next(rungs, probes), fitted, _start(fitted, zone[0]))


def step(probe: Probe) -> int:
    """How far one set moves: all made two up, four fifths one up, three fifths stay, less
    one down.
    """
    if probe.makes == probe.attempts:
        return 2
    share = probe.makes / probe.attempts
    if at_least(share, 0.8):
        return 1
    return 0 if at_least(share, 0.6) else -1


def _next(rungs: int, probes: Sequence[Probe]) -> int | None:
    heading, stays = 0, 0
    upcoming: int | None = None
    for number, probe in enumerate(probes, 1):
        move = step(probe)
        reversal = move != 0 and heading != 0 and (move > 0) != (heading > 0)
        stays = stays + 1 if move == 0 else 0
        heading = move or heading
        upcoming = min(rungs - 1, max(0, probe.rung + move))
        nowhere = move != 0 and upcoming == probe.rung
        if reversal or nowhere or stays == 2 or number >= MOST_SETS:
            return None
    return upcoming


def _fitted(probes: Sequence[Probe]) -> list[tuple[int, float]]:
    from numpy import interp
    from scipy.optimize import isotonic_regression

    probed = sorted({probe.rung for probe in probes})
    attempts = [sum(p.attempts for p in probes if p.rung == rung) for rung in probed]
    makes = [sum(p.makes for p in probes if p.rung == rung) for rung in probed]
    rates = [(m + 0.5) / (a + 1) for m, a in zip(makes, attempts, strict=True)]
    smooth = isotonic_regression(rates, weights=attempts, increasing=False).x
    every = range(probed[0], probed[-1] + 1)
    return [
        (rung, float(rate)) for rung, rate in zip(every, interp(every, probed, smooth), strict=True)
    ]


def _start(fitted: list[tuple[int, float]], low_edge: float) -> int:
    """The hardest fitted rung where the player mostly succeeds; if none, the one below the lowest
    probed.
    """
    good = [rung for rung, rate in fitted if at_least(rate, low_edge)]
    return good[-1] if good else max(0, fitted[0][0] - 1)


def place_by_baseline(targets: Sequence[float], baseline: float, higher_is_better: bool) -> int:
    """Time and count ladders: the first rung whose target the baseline trial does not meet, else
    the last (from 0).
    """
    for rung, target in enumerate(targets):
        if not good_enough(baseline, target, higher_is_better):
            return rung
    return len(targets) - 1
