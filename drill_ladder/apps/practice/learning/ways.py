"""What a ladder's learning goes by: good ones that were counted, scores over what was asked, or, on
a ladder that mixes kinds, days passed (docs/methods.md, 37).
"""

from collections.abc import Iterable, Iterator, Sequence
from typing import NamedTuple, cast

from drill_ladder.apps.library.rules import LONGEST, session_of
from drill_ladder.apps.practice.learning_models import LearntBy
from drill_ladder.apps.practice.models import JudgedDay
from drill_ladder.core.judging import Rule, Verdict, asks_for_faults, made_of
from drill_ladder.core.judging import Rung as CoreRung
from drill_ladder.core.looking_back import (
    Been,
    ClubModel,
    DayOf,
    Plain,
    Scored,
    ScoreOf,
    Storey,
    club_model,
    over_target,
    score_model,
)


class OnRung(NamedTuple):
    """A full day. place: of its rung, from 1; rung: as it was prescribed on that day."""

    place: int
    rung: CoreRung
    day: JudgedDay


def learnt_by(rungs: Sequence[CoreRung]) -> LearntBy:
    """What all rungs of a ladder have in common."""
    if all(rung.counts_makes and rung.default_attempts <= LONGEST for rung in rungs):
        return LearntBy.COUNTS
    one_kind = len({rung.measure.kind for rung in rungs}) == 1
    return LearntBy.SCORES if one_kind and all(map(_by_score, rungs)) else LearntBy.PASSES


def _by_score(rung: CoreRung) -> bool:
    """Whether its score alone decides a day."""
    alone = rung.target.form_min is None and not asks_for_faults(rung)
    return alone and not rung.counts_makes and (rung.target.value or 0) > 0


def over_asked(rung: CoreRung, day: JudgedDay) -> float | None:
    """By how much a day was better than asked, of its worst lane where each is asked. None where it
    was not measured.
    """
    asked = list(day.lanes.values()) if rung.target.each_lane and rung.lanes else [day.score]
    scores: list[float] = [score for score in asked if score is not None]
    if not scores or len(scores) < len(asked):
        return None
    worst = min(scores) if rung.measure.higher_is_better else max(scores)
    parts = rung.measure.parts(rung.dose, rung.default_attempts)
    return over_target(rung.measure, worst, rung.target.value or 0.0, parts)


def _counted(day: JudgedDay, by: LearntBy) -> tuple[int, int]:
    """(Attempts, good ones) of a full day; (1, passed) where good ones are not counted."""
    return made_of(day.sets) if by == LearntBy.COUNTS else (1, int(day.verdict == Verdict.PASS))


def learning_days(
    player: int, days: Iterable[OnRung], by: LearntBy, before: int = 0
) -> Iterator[DayOf | ScoreOf]:
    """A player's full days on a ladder, oldest first; easier ones count as work and say nothing of
    the rung. before: full days before the first of them.
    """
    for number, (place, rung, day) in enumerate(days, before):
        if day.eased:
            continue
        if by == LearntBy.SCORES:
            over = over_asked(rung, day)
            if over is not None:
                yield ScoreOf(str(player), place, number, over)
            continue
        attempts, makes = _counted(day, by)
        if attempts:
            yield DayOf(str(player), place, number, attempts, makes)


def model_of(days: Sequence[DayOf | ScoreOf], by: LearntBy, day_spread: float) -> ClubModel | None:
    """The club's model of days that all go by one thing."""
    if by == LearntBy.SCORES:
        return score_model(cast(Sequence[ScoreOf], days))
    return club_model(cast(Sequence[DayOf], days), day_spread)


def been_of(day: JudgedDay, by: LearntBy) -> Been:
    """A day as a simulated rule remembers it."""
    attempts, makes = _counted(day, by)
    shared = by == LearntBy.COUNTS and attempts
    return Been(str(day.verdict), makes / attempts if shared else None)


def storey_of(
    title: str, rung: CoreRung, rule: Rule, by: LearntBy, noise: float = 0.0, low: float = 0.0
) -> Storey:
    """A rung as simulated. noise: typical error of a day's score, where scores are gone by; low:
    share of the days not passed that are low, where good ones are not counted.
    """
    reps = rung.default_attempts or 1
    if by == LearntBy.COUNTS:
        return Storey(title, session_of(rung), rule)
    if by == LearntBy.SCORES:
        return Storey(title, Scored(reps, noise, low), rule)
    return Storey(title, Plain(reps, low), rule)
