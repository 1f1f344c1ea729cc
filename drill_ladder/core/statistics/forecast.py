"""Pace and forecast: at this pace, never a promise (docs/methods.md, 18)."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from math import inf, isfinite

RUNS = 10_000
FEWEST_STAYS = 3
QUANTILES = (0.1, 0.5, 0.9)


@dataclass(frozen=True, slots=True)
class Forecast:
    """10, 50 and 90 % quantiles of sessions and of weeks until the ladder is finished; None where
    unknown.
    """

    sessions: list[float] | None
    weeks: list[float] | None


def forecast_of(
    stays: Sequence[int], rungs_left: int, sessions_per_week: float, seed: int = 0
) -> Forecast:
    """Bootstrap over the player's own stays (sessions per finished rung, each >= 1).

    Each run first resamples the stays, then draws the rungs left from that sample and sums; the
    current rung counts whole. Fewer than three stays: unknown. Source: Efron's bootstrap, two
    levels so that few stays give a wide range.
    """
    if len(stays) < FEWEST_STAYS:
        return Forecast(None, None)
    if rungs_left == 0:
        return Forecast([0.0] * 3, [0.0] * 3)
    import numpy as np  # a fifth of a second to import, which `decide` does without

    chance = np.random.default_rng(seed)
    own = np.asarray(stays, dtype=float)
    samples = own[chance.integers(0, len(own), size=(RUNS, len(own)))]
    picks = chance.integers(0, len(own), size=(RUNS, rungs_left))
    totals = np.take_along_axis(samples, picks, axis=1).sum(axis=1)
    sessions = [float(x) for x in np.quantile(totals, QUANTILES)]
    # so seldom that the weeks are more than a number holds is as good as never
    weeks = [s / sessions_per_week if sessions_per_week > 0 else inf for s in sessions]
    return Forecast(sessions, weeks if isfinite(max(weeks)) else None)


@dataclass(frozen=True, slots=True)
class Completion:
    """A week's work: sessions done of planned, share of the dose done (None if nothing was
    planned).
    """

    start: date
    done: int
    planned: int
    dose_share: float | None

    @property
    def met(self) -> bool:
        """Whether the week's goal was met."""
        return self.planned > 0 and self.done >= self.planned


def weeks_in_a_row(weeks: Sequence[Completion]) -> int:
    """Weeks with the goal met, up to the latest, without a gap; weeks with nothing planned neither
    break nor count.
    """
    run, expected = 0, None
    for week in sorted(weeks, key=lambda w: w.start, reverse=True):
        if expected is not None and week.start != expected:
            break
        expected = week.start - timedelta(weeks=1)
        if week.planned and not week.met:
            break
        run += week.met
    return run
