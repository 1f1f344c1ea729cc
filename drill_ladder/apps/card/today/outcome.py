"""What the player is told of a session: the day that it belongs to, judged and in words."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from drill_ladder.apps.practice.judged import days_of, decide_stay, rung_key, work_rung
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.practice.observations import one_good_thing
from drill_ladder.apps.practice.sessions import kept_key, sum_answers
from drill_ladder.apps.practice.words import outcome, reached_lines, read_lines_for_player
from drill_ladder.apps.practice.work import mirrors
from drill_ladder.core.hall import AGAIN, VOID, is_good
from drill_ladder.core.judging import Judged, Rung
from drill_ladder.core.plans import swapped
from drill_ladder.formats.decision_documents import ahead
from drill_ladder.ui.pages import Context

MOST_STROKES = 80  # that a phone shows in a few lines
STROKES = frozenset("gmvr0123456789ABCDEFGHIJ")


def outcome_context(session: Session, today: date) -> Context:
    """The day that a session belongs to, judged and in words."""
    stay = session.stay
    # told once, when it was stored; only what an earlier version stored is decided here
    next_ = session.ahead or ahead(decide_stay(stay, today))
    days = days_of(stay, session.recheck)
    judged = next(d for d in days if d.on == session.on)
    by_key = {rung_key(rung.pk): rung for rung in stay.prescription.ladder.rungs.all()}
    rung, mirrored = work_rung(stay, session.recheck)[1], mirrors(stay)
    words = outcome(judged, next_, rung, by_key.get(next_.to or ""), mirrored)
    return {
        "session": session,
        "stay": stay,
        "outcome": words,
        "kept_as": kept_key(stay),
        "marks": [d.verdict.value for d in days],
        "good": one_good_thing(judged, days, rung, mirrored),
        "last": last_time(judged, days, rung, mirrored),
        "reads": read_lines_for_player(sum_answers(session)),
        "strokes": strokes_of(session, mirrored),
    }


@dataclass(frozen=True, slots=True)
class LastTime:
    """The day before on the same rung, and what was reached then."""

    on: date
    reached: list[str]


def last_time(
    judged: Judged, days: Sequence[Judged], rung: Rung, mirrored: bool = False
) -> LastTime | None:
    """Beside today's: the player against themselves, and nobody else."""
    before = [day for day in days if day.on < judged.on and day.score is not None]
    if not before or judged.score is None:
        return None
    return LastTime(before[-1].on, reached_lines(before[-1], rung, mirrored))


def strokes_of(session: Session, mirrored: bool = False) -> list[tuple[str, list[str]]]:
    """(Lane as it is said, its strokes as marks of a tally), in the order in which they were begun;
    nothing where they were typed, or are too many to be seen.
    """
    rows: dict[str, str] = {}
    for s in session.sets.all():
        rows[s.lane] = rows.get(s.lane, "") + s.strokes
    if not 0 < sum(map(len, rows.values())) <= MOST_STROKES:
        return []
    say = swapped if mirrored else str
    return [(say(lane).capitalize(), marks_of(row)) for lane, row in rows.items() if row]


def marks_of(row: str) -> list[str]:
    """Strokes as marks of a tally; signs and what stands for a clock are none."""
    marks = {VOID: "void", AGAIN: "void"}
    return [
        marks.get(stroke) or ("good" if is_good(stroke) else "miss")
        for stroke in row
        if stroke in STROKES
    ]
