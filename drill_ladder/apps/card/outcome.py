"""What the player is told of a session: the day that it belongs to, judged and in words."""

from datetime import date

from drill_ladder.apps.practice.beside import sum_answers
from drill_ladder.apps.practice.good import one_good_thing
from drill_ladder.apps.practice.judged import days_of, work_rung
from drill_ladder.apps.practice.judging import decide_stay, rung_key
from drill_ladder.apps.practice.log_page import draft_key
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.practice.words import outcome, read_lines
from drill_ladder.apps.practice.work import mirrors
from drill_ladder.formats.decision_documents import ahead
from drill_ladder.ui.pages import Context


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
        "draft": draft_key(stay),
        "marks": [d.verdict.value for d in days],
        "good": one_good_thing(judged, days, rung, mirrored),
        "reads": read_lines(sum_answers(session)),
    }
