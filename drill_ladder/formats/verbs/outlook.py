"""outlook: how likely a player climbs within so many further sessions."""

from dataclasses import asdict
from typing import Any

from drill_ladder.core.looking_back import Been, Climber, Storey, known, outlook
from drill_ladder.core.odds import MakesSession
from drill_ladder.formats.ladder_checks import check_rule
from drill_ladder.formats.ladder_shapes import RULE, to_rule
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import name, optional, record, whole
from drill_ladder.formats.verbs import learning

BY_COACH = "the rule is the coach's word: nobody knows when it comes"
NO_DAYS = "nothing is known of this player"
INPUT = record(
    **learning.DAYS,
    player=name(),
    rung=whole(1, learning.MOST_RUNGS),
    rule=RULE,
    n=whole(1, 100_000),
    k=whole(0, 100_000),
    passes_so_far=optional(whole(0, 10_000), 0),
    sessions=optional(whole(1, 200), 6),
    seed=optional(whole(), 0),
    runs=optional(whole(1, 100_000), 2000),
)


def check(doc: Node) -> None:
    """As learning, with a mark within its attempts."""
    learning.check(doc)
    check_rule(doc["rule"])
    n, k = doc["n"].number, doc["k"].number
    if n is not None and k is not None and k > n:
        doc["k"].refuse("is more than n")


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """By seeded simulation; nulls with a reason where nobody can say."""
    model = learning.model_of(doc)
    if model is None:
        return _nothing(learning.TOO_FEW)
    mine = [day for day in doc["days"] if day["player"] == doc["player"]]
    if not mine or doc["rung"] > len(model.steps) + 1:
        return _nothing(NO_DAYS if not mine else "nobody has stood on this rung")
    before, place = max(one["before"] for one in mine) + 1, doc["rung"] - 1
    here = Storey("", MakesSession(doc["n"], doc["k"]), to_rule(doc["rule"]))
    passed = (Been("pass"),) * doc["passes_so_far"]
    found = outlook(
        known(model, [doc["player"]], len(model.steps) + 1),
        [here] * (place + 1),
        Climber(place, before, after=passed),
        place + 1,
        doc["sessions"],
        doc["day_spread"],
        doc["seed"],
        doc["runs"],
    )
    return _nothing(BY_COACH) if found is None else asdict(found)


def _nothing(reason: str) -> dict[str, Any]:
    return {"chance": None, "median": None, "low": None, "high": None, "reason": reason}
