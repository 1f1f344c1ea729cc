"""The last results beside a proposal: every day with its numbers, lane by lane."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date

from drill_ladder.apps.practice.models import Session, SetRow
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.judging import Judged, Rung, faults_by_name
from drill_ladder.formats.measures import score_words

SHOWN = 6


@dataclass(frozen=True, slots=True)
class DayResult:
    """A day beside a proposal: verdict, score and lanes in words, faults, who saw it, the player's
    word and effort.
    """

    on: date
    verdict: str
    eased: bool
    score: str
    lanes: list[str]
    faults: str
    ways: str
    seen: str
    word: str
    effort: int | None


def latest_sessions(stay: Stay, days: Sequence[Judged]) -> list[Session]:
    """The sessions of the days that are shown, with their sets."""
    if not days:
        return []
    since = days[-SHOWN:][0].on
    return list(stay.sessions.counted().since(since).with_sets())


def results(rung: Rung, sessions: Iterable[Session], days: Sequence[Judged]) -> list[DayResult]:
    """The latest days, newest first."""
    by_day: dict[date, list[Session]] = {}
    for session in sessions:
        by_day.setdefault(session.on, []).append(session)
    return [_day(rung, by_day.get(day.on, []), day) for day in reversed(days[-SHOWN:])]


def _day(rung: Rung, sessions: list[Session], day: Judged) -> DayResult:
    sets = [s for session in sessions for s in session.sets.all()]
    faults = faults_by_name(one.faults for one in sets)
    return DayResult(
        on=day.on,
        verdict=day.verdict.value,
        eased=bool(sessions) and all(session.eased for session in sessions),
        score=_made(rung, sets) or score_words(rung.measure, day.score),
        lanes=[_lane(rung, sets, lane, day.lanes.get(lane)) for lane in rung.lanes],
        faults=", ".join(f"{name} {n}" for name, n in faults.most_common()),
        ways=", ".join(dict.fromkeys(session.way for session in sessions if session.way)),
        seen=", ".join(
            dict.fromkeys(session.get_observer_display().lower() for session in sessions)
        ),
        word=" ".join(session.word for session in sessions if session.word),
        effort=max((s.effort for s in sessions if s.effort is not None), default=None),
    )


def _made(rung: Rung, sets: list[SetRow]) -> str:
    if not rung.measure.counts_makes:
        return ""
    attempts = sum(s.attempts or 0 for s in sets)
    return f"{sum(s.makes or 0 for s in sets)} of {attempts}" if attempts else ""


def _lane(rung: Rung, sets: list[SetRow], lane: str, score: float | None) -> str:
    return _made(rung, [s for s in sets if s.lane == lane]) or score_words(rung.measure, score)
