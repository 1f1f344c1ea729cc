"""learning: one model of a club's players and rungs."""

from typing import Any

from drill_ladder.core.looking_back import ClubModel, DayOf, Interval, club_model
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import listed, name, number, one_of, optional, record, whole

TOO_FEW = "too few: a model takes 10 days of 2 players"
MOST_RUNGS, MOST_DAYS = 1000, 200_000
DAYS = {
    "measure": one_of("counts"),
    "days": listed(
        record(
            player=name(),
            rung=whole(1, MOST_RUNGS),
            before=whole(0, 100_000),
            attempts=whole(1, 100_000),
            makes=whole(0, 100_000),
        ),
        0,
        MOST_DAYS,
    ),
    "day_spread": optional(number(0, 0.5), 0.05),
}
INPUT = record(**DAYS)


def check(doc: Node) -> None:
    """Makes within attempts."""
    for day in doc["days"].each():
        attempts, makes = day["attempts"].number, day["makes"].number
        if attempts is not None and makes is not None and makes > attempts:
            day["makes"].refuse("is more than attempts")


def model_of(doc: dict[str, Any]) -> ClubModel | None:
    """The model of a validated document."""
    return club_model([DayOf(**day) for day in doc["days"]], doc["day_spread"])


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """On the log-odds, each with its 95 % interval."""
    model, days = model_of(doc), len(doc["days"])
    if model is None:
        return {"gain": None, "steps": None, "players": None, "days": days, "reason": TOO_FEW}
    steps = [
        {"from": rung, "to": rung + 1, **_told(step)} for rung, step in enumerate(model.steps, 1)
    ]
    players: list[dict[str, Any]] = [
        {"id": id, **_named("level", learnt.level), **_named("gain", learnt.gain)}
        for id, learnt in model.players.items()
    ]
    return {"gain": _told(model.gain), "steps": steps, "players": players, "days": days}


def _told(one: Interval) -> dict[str, float]:
    return {"value": one.value, "low": one.low, "high": one.high}


def _named(key: str, one: Interval) -> dict[str, float]:
    return {key: one.value, f"{key}_low": one.low, f"{key}_high": one.high}
