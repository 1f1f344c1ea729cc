"""Real change between two tests, against the noise of the test itself (docs/methods.md, 9).

Source of typical error and minimal detectable change: the usual reliability statistics of sport
science (Hopkins, Weir; from memory). The smallest change worth having is 0.2 of the between-player
SD: common practice.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import erf, sqrt
from statistics import stdev

from drill_ladder.core.errors import CoreError
from drill_ladder.core.thresholds import TOLERANCE, at_least

FEWEST_PAIRS = 6
PROVISIONAL_UNDER = 10
SURE_Z = 1.96
LIKELY = 0.75


@dataclass(frozen=True, slots=True)
class Change:
    """z has the change's sign; p_real 0..1; verdict: real, likely, within noise; direction: better,
    worse, same; df: of the pairs behind the noise, None where it was given; p_chance: how often
    noise alone does as much, 0..1.
    """

    typical_error: float
    mdc95: float
    z: float | None
    p_real: float
    verdict: str
    direction: str
    smallest_worthwhile: float | None
    df: int | None = None
    p_chance: float = 0.0


def typical_error(pairs: Sequence[tuple[float, float]]) -> float:
    """SD of the test-retest differences / sqrt 2, from at least six pairs. Raises CoreError for
    fewer.
    """
    if len(pairs) < FEWEST_PAIRS:
        raise CoreError(f"at least {FEWEST_PAIRS} pairs are needed, {len(pairs)} are given")
    found = stdev(b - a for a, b in pairs) / sqrt(2)
    return 0.0 if found < TOLERANCE else found


def real_change(
    te: float,
    before: float,
    after: float,
    higher_is_better: bool,
    between_sd: float | None = None,
    df: int | None = None,
) -> Change:
    """Is after - before more than noise? te: typical error >= 0 in the measure's unit.

    p_real = 2 Phi(|z|) - 1 with z = change / (te sqrt 2); real at |z| >= 1.96, likely at p_real >=
    0.75. df: of the pairs that the noise was estimated from: then Student's t takes the normal's
    place (few pairs know the noise badly).
    """
    change = after - before
    same = abs(change) <= TOLERANCE
    sure = SURE_Z if df is None else _t_quantile(df)
    mdc95 = sure * sqrt(2) * te
    smallest = None if between_sd is None else 0.2 * between_sd
    moved = "better" if (change > 0) == higher_is_better else "worse"
    direction = "same" if same else moved
    if te == 0:
        z, p = (0.0, 0.0) if same else (None, 1.0)
    else:
        z = change / (te * sqrt(2))
        p = erf(abs(z) / sqrt(2)) if df is None else _t_within(abs(z), df)
    verdict = _verdict(z, p, sure)
    return Change(te, mdc95, z, p, verdict, direction, smallest, df, 1 - p)


def _t_quantile(df: int) -> float:
    from scipy.special import stdtrit

    return float(stdtrit(df, 0.975))


def _t_within(z: float, df: int) -> float:
    from scipy.special import stdtr

    return float(2 * stdtr(df, z) - 1)


def _verdict(z: float | None, p: float, sure: float) -> str:
    if z is None or at_least(abs(z), sure):
        return "real"
    return "likely" if at_least(p, LIKELY) else "within noise"
