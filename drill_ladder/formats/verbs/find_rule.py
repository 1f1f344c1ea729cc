"""find-rule: the fewest attempts and the mark that keep both risks small."""

from typing import Any

from drill_ladder.core.odds import MOST_SPREAD, Question, find_rules
from drill_ladder.formats.ladder_checks import check_rule
from drill_ladder.formats.ladder_shapes import RULE, to_rule
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import kept, listed, number, optional, rate, record, whole
from drill_ladder.formats.verbs.odds import MOST_HORIZON, check_memory

INPUT = record(
    p_not_ready=rate(),
    p_ready=rate(),
    alpha=rate(),
    beta=rate(),
    horizon=whole(1, MOST_HORIZON),
    schools=listed(kept(RULE), 1, 100),
    max_attempts=whole(1, 1000),
    day_spread=optional(number(0, high=MOST_SPREAD), 0),
)


def check(doc: Node) -> None:
    """The two rates in their order, and rules that can be."""
    not_ready, ready = doc["p_not_ready"].number, doc["p_ready"].number
    if not_ready is not None and ready is not None and not_ready >= ready:
        doc["p_not_ready"].refuse("is not under p_ready")
    for rule in doc["schools"].each():
        check_rule(rule)
        check_memory(rule, eases=False)


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """One answer for each rule."""
    keys = ("p_not_ready", "p_ready", "alpha", "beta", "horizon", "max_attempts", "day_spread")
    found = find_rules(
        Question(**{key: doc[key] for key in keys}), [to_rule(read) for _, read in doc["schools"]]
    )
    results = [
        {
            "rule": given,
            "n": one.n,
            "k": one.k,
            "false_climb": one.false_climb,
            "held_back": one.held_back,
            "reason": one.reason,
        }
        for (given, _), one in zip(doc["schools"], found, strict=True)
    ]
    return {"results": results}
