"""decide: what to do with a player at a rung."""

from typing import Any

from drill_ladder.core.judging import Settings, decide
from drill_ladder.formats.decision_documents import decision_document
from drill_ladder.formats.ladder_checks import check_ladder, check_session_sets
from drill_ladder.formats.ladder_shapes import LADDER, SESSION, to_ladder, to_session
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import (
    day,
    listed,
    maybe,
    name,
    number,
    optional,
    rate,
    record,
    yes_no,
)

INPUT = record(
    ladder=LADDER,
    at=name(),
    arrived=day(),
    sessions=listed(SESSION),
    last_on=maybe(day()),
    stop=optional(yes_no(), False),
    today=day(),
    day_spread=optional(number(0, 0.5), 0),
    outlook=maybe(rate()),
)


def check(doc: Node) -> None:
    """Ids, lanes, counts and the order of days."""
    check_ladder(doc["ladder"])
    today, arrived = doc["today"].day, doc["arrived"].day
    if today and arrived and arrived > today:
        doc["arrived"].refuse("is after today")
    last_on = doc["last_on"].day
    if today and last_on and last_on > today:
        doc["last_on"].refuse("is after today")
    rung = _rung_at(doc)
    for session in doc["sessions"].each():
        on = session["on"].day
        if on and today and on > today:
            session["on"].refuse("is after today")
        elif on and arrived and on < arrived:
            session["on"].refuse("is before arrived")
        check_session_sets(session, rung)


def _rung_at(doc: Node) -> Node | None:
    at = doc["at"].text
    for rung in doc["ladder"]["rungs"].each():
        if at is not None and rung["id"].text == at:
            return rung
    if at is not None:
        doc["at"].refuse(f"is {at!r}, which is no rung of the ladder")
    return None


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """Decide and write the answer out."""
    ladder = to_ladder(doc["ladder"])
    sessions = [to_session(s) for s in doc["sessions"]]
    settings = Settings(day_spread=doc["day_spread"], outlook=doc["outlook"])
    asked = (ladder, doc["at"], sessions, doc["today"], doc["last_on"], doc["stop"])
    return decision_document(decide(*asked, settings))
