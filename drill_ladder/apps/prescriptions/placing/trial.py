"""Placing by one trial: what is tried, in words, and how far up the ladder its result reaches."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import takewhile

from drill_ladder.apps.library.models import Rung
from drill_ladder.core.coaching import Axis
from drill_ladder.core.judging import place_by_baseline
from drill_ladder.core.plans import leg_lengths
from drill_ladder.formats.measures import form_of

# what makes a rung harder without changing a single trial of it
LIKE_BEFORE = {Axis.LENGTH, Axis.FATIGUE}


@dataclass(frozen=True, slots=True)
class Trial:
    """One trial as it is set up: on which rung, how far (m; None: no way is drawn), for how long
    (s; None: until it is done), what is asked, and the rung past which it tells nothing (None: it
    can be held against all).
    """

    rung: Rung
    distance_m: float | None
    duration_s: float | None
    asked: str
    next: Rung | None


def trial_of(rungs: Sequence[Rung]) -> Trial:
    """The trial for a ladder's rungs that results can tell about (at least one)."""
    first, measure = rungs[0], rungs[0].drill.measure
    plan = first.floor_plan
    distance = sum(leg_lengths(plan.metres)) if plan and plan.legs else None
    asked = form_of(measure).trial
    following = next(iter(rungs[len(tried(rungs)) :]), None)
    return Trial(first, distance, measure.window, asked(measure) if asked else "", following)


def tried(rungs: Sequence[Rung]) -> list[Rung]:
    """The rungs at the foot that are set up like the first one: what one trial on it can tell
    about. What a coach says has changed, without saying by what, is another set-up.
    """
    return [rungs[0], *takewhile(lambda rung: _set_up_like(rungs[0], rung), rungs[1:])]


def _set_up_like(first: Rung, rung: Rung) -> bool:
    if rung.changes and not rung.axis:
        return False
    same = all(
        getattr(rung, name) == getattr(first, name) for name in ("floor_plan", "caller", "tempo")
    )
    return same and set(rung.axis) <= LIKE_BEFORE


def from_trial(rungs: Sequence[Rung], value: float) -> Rung:
    """The first rung whose target one trial does not meet, and never past one that is set up
    otherwise: that one was not tried.
    """
    like = tried(rungs)
    targets = [rung.target.value or 0.0 for rung in like]
    better = rungs[0].drill.measure.higher_is_better
    index = place_by_baseline([*targets, _unmet(better)], value, better)
    return rungs[min(index, len(rungs) - 1)]


def _unmet(higher_is_better: bool) -> float:
    """What no trial meets."""
    return float("inf") if higher_is_better else 0.0
