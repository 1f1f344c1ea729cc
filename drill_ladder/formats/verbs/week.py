"""week: which blocks on which days."""

from typing import Any

from drill_ladder.core.judging import Intent
from drill_ladder.core.planning import Day, Wish, plan_week
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import (
    day,
    listed,
    name,
    number,
    one_of,
    optional,
    record,
    whole,
    yes_no,
)

DAY = record(
    on=day(),
    minutes=number(),
    place=name(),
    equipment=optional(listed(name()), []),
    helpers=optional(whole(), 0),
    adult=optional(yes_no(), False),
)
WISH = record(
    id=name(),
    per_week=whole(1),
    minutes=number(above=0),
    intent=optional(one_of("speed", "endurance", "skill", "pressure"), "skill"),
    places=optional(listed(name()), []),
    equipment=optional(listed(name()), []),
    helpers=optional(whole(), 0),
    adult=optional(yes_no(), False),
    priority=whole(1),
    rest_day_between=optional(yes_no(), False),
)
INPUT = record(days=listed(DAY, 0, 366), wishes=listed(WISH, 0, 500))


def check(doc: Node) -> None:
    """Each date and each wish once."""
    doc.no_doubles(one["on"] for one in doc["days"].each())
    doc.no_doubles(wish["id"] for wish in doc["wishes"].each())


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """Blocks, and what could not be placed."""
    days = [Day(**{**one, "equipment": frozenset(one["equipment"])}) for one in doc["days"]]
    blocks, unmet = plan_week(days, [_wish(wish) for wish in doc["wishes"]])
    return {
        "blocks": [
            {"on": b.on.isoformat(), "id": b.id, "order": b.order, "minutes": b.minutes}
            for b in blocks
        ],
        "unmet": [{"id": u.id, "wanted": u.wanted, "given": u.given, "why": u.why} for u in unmet],
    }


def _wish(one: dict[str, Any]) -> Wish:
    sets = {key: frozenset(one[key]) for key in ("places", "equipment")}
    return Wish(**{**one, **sets, "intent": Intent(one["intent"])})
