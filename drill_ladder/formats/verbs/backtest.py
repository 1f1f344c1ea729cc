"""backtest: recorded stays replayed under other rules."""

from dataclasses import asdict
from typing import Any

from drill_ladder.core.looking_back import Left, PastStay, backtest
from drill_ladder.formats.ladder_checks import check_rule, check_rung, check_session_sets
from drill_ladder.formats.ladder_shapes import RULE, RUNG, SESSION, to_rule, to_rung, to_session
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import kept, listed, maybe, one_of, record, yes_no

INPUT = record(
    rung=RUNG,
    rules=listed(kept(RULE), 0, 100),
    stays=listed(
        record(
            sessions=listed(SESSION),
            moved=one_of("up", "down", "open"),
            came_back=maybe(yes_no()),
        )
    ),
)


def check(doc: Node) -> None:
    """Rules that propose climbs on this rung, sessions that fit it, returns of those who went
    up.
    """
    check_rung(doc["rung"])
    kind = doc["rung"]["measure"]["kind"].text
    for rule in doc["rules"].each():
        check_rule(rule)
        school = rule["school"]
        if school.text == "by_coach":
            school.refuse("is by_coach: it proposes no climb that could be replayed")
        if school.text == "evidence" and kind not in (None, "makes"):
            school.refuse(f"is evidence, which is for measure makes, not {kind}")
    for stay in doc["stays"].each():
        for session in stay["sessions"].each():
            check_session_sets(session, doc["rung"])
        came_back = stay["came_back"]
        if came_back.value is not None and stay["moved"].text in ("down", "open"):
            came_back.refuse("is for a stay that was moved up")


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """One answer for each rule."""
    stays = [
        PastStay(
            tuple(to_session(session) for session in stay["sessions"]),
            Left(stay["moved"]),
            stay["came_back"],
        )
        for stay in doc["stays"]
    ]
    rules = [to_rule(read) for _, read in doc["rules"]]
    found = backtest(to_rung(doc["rung"]), rules, stays)
    return {
        "results": [
            {"rule": given, **asdict(one)}
            for (given, _), one in zip(doc["rules"], found, strict=True)
        ]
    }
