"""Measures whose set is a row of good ones and misses that ends itself: a run, a race to so many
good ones, so many lives, attempts that are earned (docs/methods.md, 1 and 31).
"""

from dataclasses import dataclass
from statistics import fmean
from typing import ClassVar

from drill_ladder.core.judging.measures import ONE_TRY_S, Dose, Measure, SetResult, Sets


@dataclass(frozen=True, slots=True)
class Streak(Measure):
    """The longest unbroken run of good ones. cap: a set is a turn, which a miss or the cap ends;
    the score is then the mean run of the turns.
    """

    cap: int | None = None
    kind: ClassVar[str] = "streak"
    in_rows: ClassVar[bool] = True

    def over(self, attempts: int, makes: int, reps: int | None) -> bool:
        return attempts > makes or (self.cap is not None and makes >= self.cap)

    def work_s(self, dose: Dose, reps: int | None, target: float | None, each_s: float) -> float:
        return ONE_TRY_S

    def done(self, sets: Sets, dose: Dose) -> float:
        return sum(1 for s in sets if s.best_run is not None)

    def score(self, sets: Sets) -> float | None:
        runs = [s.best_run for s in sets if s.best_run is not None]
        if not runs:
            return None
        return max(runs) if self.cap is None else fmean(runs)


@dataclass(frozen=True, slots=True)
class ToN(Measure):
    """Attempts it took to collect n good ones; the score is the mean per finished set."""

    n: int = 1
    kind: ClassVar[str] = "to_n"
    higher_is_better: ClassVar[bool] = False
    in_rows: ClassVar[bool] = True

    def over(self, attempts: int, makes: int, reps: int | None) -> bool:
        return makes >= self.n

    def work_s(self, dose: Dose, reps: int | None, target: float | None, each_s: float) -> float:
        return (target or 2 * self.n) * (dose.s_per_rep or each_s)

    def finished(self, s: SetResult) -> bool:
        """Whether the set reached its n good ones (makes left blank reads as reached)."""
        return s.attempts is not None and (s.makes is None or s.makes >= self.n)

    def done(self, sets: Sets, dose: Dose) -> float:
        return sum(1 for s in sets if self.finished(s))

    def score(self, sets: Sets) -> float | None:
        taken = [s.attempts or 0 for s in sets if self.finished(s)]
        return fmean(taken) if taken else None


@dataclass(frozen=True, slots=True)
class UntilLost(Measure):
    """Good ones until so many are lost; cap: as many good ones end the set too. The score is the
    mean per finished set.
    """

    lost: int = 3
    cap: int | None = None
    kind: ClassVar[str] = "until_lost"
    in_rows: ClassVar[bool] = True

    def over(self, attempts: int, makes: int, reps: int | None) -> bool:
        return attempts - makes >= self.lost or (self.cap is not None and makes >= self.cap)

    def tried(self, makes: int, asked: int | None) -> int:
        """The set is over, so it was lost, or stopped at the cap."""
        return makes if self.cap is not None and makes >= self.cap else makes + self.lost

    def work_s(self, dose: Dose, reps: int | None, target: float | None, each_s: float) -> float:
        return ((target or self.lost) + self.lost) * (dose.s_per_rep or each_s)

    def finished(self, s: SetResult) -> bool:
        """Whether the set came to its end."""
        return (
            s.attempts is not None and s.makes is not None and self.over(s.attempts, s.makes, None)
        )

    def done(self, sets: Sets, dose: Dose) -> float:
        return sum(1 for s in sets if self.finished(s))

    def score(self, sets: Sets) -> float | None:
        collected = [s.makes or 0 for s in sets if self.finished(s)]
        return fmean(collected) if collected else None


@dataclass(frozen=True, slots=True)
class Earned(Measure):
    """Good ones in a set of n attempts to which every `earn` good ones add as many more, up to cap.
    The score is the mean per finished set.
    """

    n: int = 6
    cap: int = 20
    earn: int = 2
    kind: ClassVar[str] = "earned"
    in_rows: ClassVar[bool] = True

    def allowed(self, makes: int) -> int:
        """Attempts that so many good ones allow."""
        return min(self.cap, self.n + self.earn * (makes // self.earn))

    def over(self, attempts: int, makes: int, reps: int | None) -> bool:
        return attempts >= self.allowed(makes)

    def tried(self, makes: int, asked: int | None) -> int:
        """The set is over: what was earned was used."""
        return self.allowed(makes)

    def work_s(self, dose: Dose, reps: int | None, target: float | None, each_s: float) -> float:
        return self.allowed(round(target or self.n / 2)) * (dose.s_per_rep or each_s)

    def finished(self, s: SetResult) -> bool:
        """Whether everything that was earned was used."""
        return (
            s.attempts is not None and s.makes is not None and self.over(s.attempts, s.makes, None)
        )

    def done(self, sets: Sets, dose: Dose) -> float:
        return sum(1 for s in sets if self.finished(s))

    def score(self, sets: Sets) -> float | None:
        collected = [s.makes or 0 for s in sets if self.finished(s)]
        return fmean(collected) if collected else None


def stay_alive_attempts(p: float, cap: int) -> float:
    """Expected attempts of a set that ends on a miss or at the cap: (1 - p^N) / (1 - p); N at p =
    1.
    """
    return float(cap) if p >= 1 else (1 - p**cap) / (1 - p)


def stay_alive_top_up(p: float, cap: int, wanted: float) -> float:
    """Extra attempts that bring a player who fails early up to the wanted number of repetitions (>=
    0).
    """
    return max(0.0, wanted - stay_alive_attempts(p, cap))
