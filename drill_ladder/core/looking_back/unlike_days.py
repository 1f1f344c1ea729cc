"""The club's own spread between days, from counts about each stay's own line (docs/methods.md, 36).

A learner is not noise: each stay and lane has a straight line on the log-odds, and what its days
leave over beyond binomial chance is the spread. Sources: Pearson's X2 and its dispersion as in
McCullagh and Nelder (1989), Generalized linear models; phi = 1 + (n - 1) r for equal n (Williams
1982, from memory); the pull to 0.05 is caution, our own choice.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

import numpy as np

from drill_ladder.core.statistics.logit import Counts, logit_line

PRIOR, PRIOR_DF = 0.05, 40.0
MOST = 0.5
TINY = 1e-9  # a fitted share of 0 or 1 leaves nothing over
FEWEST_DAYS, FEWEST_ATTEMPTS = 3, 2


@dataclass(frozen=True, slots=True)
class DaySpread:
    """spread: what to reckon with, 0..0.5; raw: what the days say alone, phi: their dispersion,
    None where there is nothing to use; df: degrees of freedom behind it.
    """

    spread: float
    raw: float | None
    df: int
    phi: float | None


def day_spread(
    stays: Sequence[Sequence[tuple[date, int, int]]],
    prior: float = PRIOR,
    prior_df: float = PRIOR_DF,
) -> DaySpread:
    """stays: each stay and lane as (day, attempts, makes); prior: 0..0.5, weighed like so many
    degrees of freedom.
    """
    x2, df, attempts = 0.0, 0, []
    for days in stays:
        used = [(on.toordinal(), n, makes) for on, n, makes in days if n >= FEWEST_ATTEMPTS]
        if len(used) < FEWEST_DAYS:
            continue
        more, freedom = _left_over(used)
        if freedom <= 0:
            continue
        x2, df = x2 + more, df + freedom
        attempts += [n for _, n, _ in used]
    if not df:
        return DaySpread(min(MOST, prior), None, 0, None)
    phi = x2 / df
    raw = max(0.0, (phi - 1) / (float(np.mean(attempts)) - 1))
    spread = (df * raw + prior_df * prior) / (df + prior_df)
    return DaySpread(min(MOST, spread), raw, df, phi)


def _left_over(days: Sequence[tuple[int, int, int]]) -> tuple[float, int]:
    """(Pearson's X2 about the line, degrees of freedom); nothing of a stay of all made or all
    missed.
    """
    counts = Counts.of(days)
    if counts.one_sided:
        return 0.0, 0
    line = logit_line(counts)
    shares = line.shares(counts.days)
    spread = counts.attempts * shares * (1 - shares)
    off = counts.makes - counts.attempts * shares
    known = spread > TINY
    return float((off[known] ** 2 / spread[known]).sum()), len(days) - (1 if counts.one_day else 2)


ROUND, FEWEST_COUNTS, MOSTLY = 5, 20, 0.6


def told_in_fives(counts: Sequence[tuple[int, int]]) -> bool:
    """Whether (attempts, makes) of sets or days were told in round numbers rather than counted:
    multiples of five in most of at least twenty that are neither nothing nor all. About one in five
    is round by chance. The mark of most is our choice, tried on simulated clubs.
    """
    asked = [makes for attempts, makes in counts if attempts >= 2 * ROUND and 0 < makes < attempts]
    if len(asked) < FEWEST_COUNTS:
        return False
    return sum(makes % ROUND == 0 for makes in asked) > MOSTLY * len(asked)
