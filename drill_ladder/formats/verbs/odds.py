"""odds: what a rule really does, against the player's true rate."""

from collections.abc import Callable
from typing import Any

from drill_ladder.core.judging import Evidence
from drill_ladder.core.odds import (
    MOST_SPREAD,
    EarnedSession,
    LostSession,
    MakesSession,
    Odds,
    SessionChances,
    StreakSession,
    ToNSession,
    odds,
    simulate,
)
from drill_ladder.formats.ladder_checks import check_rule
from drill_ladder.formats.ladder_shapes import RULE, to_rule
from drill_ladder.formats.measures import MEASURE
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import (
    either,
    listed,
    maybe,
    number,
    optional,
    rate,
    record,
    whole,
    yes_no,
)

MOST_ATTEMPTS, MOST_LANES, MOST_HORIZON, MOST_RUNS = 100_000, 100, 10_000, 1_000_000
MOST_MIXED = 20_000  # attempts of a session whose lanes have different rates
MOST_MEMORY, MOST_WINDOW = 200, 10

INPUT = record(
    n=maybe(whole(1, MOST_ATTEMPTS)),
    k=whole(0, MOST_ATTEMPTS),
    lanes=optional(whole(1, MOST_LANES), 1),
    each_lane=optional(yes_no(), False),
    floor=maybe(number()),
    rule=RULE,
    p=listed(either("a rate from 0 to 1 or a list of them", rate(), listed(rate(), 1)), 1, 10_000),
    horizon=whole(1, MOST_HORIZON),
    measure=optional(MEASURE, {"kind": "makes"}),
    seed=optional(whole(), 0),
    runs=optional(whole(1, MOST_RUNS), 4000),
    day_spread=optional(number(0, high=MOST_SPREAD), 0),
)

# the measures whose sessions have exact chances
SESSIONS: dict[str, Callable[[dict[str, Any]], SessionChances]] = {
    "makes": lambda doc: MakesSession(
        doc["n"], doc["k"], doc["lanes"], doc["each_lane"], doc["floor"]
    ),
    "streak": lambda doc: StreakSession(doc["n"], doc["k"], doc["floor"]),
    "to_n": lambda doc: ToNSession(doc["measure"]["n"], doc["k"], doc["floor"]),
    "until_lost": lambda doc: LostSession(doc["measure"]["lost"], doc["k"], doc["floor"]),
    "earned": lambda doc: EarnedSession(
        doc["measure"]["n"], doc["measure"]["earn"], doc["measure"]["cap"], doc["k"], doc["floor"]
    ),
}
MEASURED = " or ".join((", ".join([*SESSIONS][:-1]), [*SESSIONS][-1]))
# no number of attempts is told
ENDS_ITSELF = {"to_n": "measure.n", "until_lost": "measure.lost", "earned": "measure.n"}


def check(doc: Node) -> None:
    """What n, k, lanes, rates and rule ask of each other."""
    check_rule(doc["rule"])
    kind = doc["measure"]["kind"].text or "makes"
    _check_measure(doc, kind)
    _check_mark(doc, kind)
    _check_rates(doc)
    check_memory(doc["rule"], eases=doc["floor"].value is not None)
    if doc["rule"]["school"].text == "by_coach":
        doc["rule"]["school"].refuse("is by_coach: nobody knows when the coach says so")
    if kind == "streak" and doc["measure"]["cap"].value is not None:
        doc["measure"]["cap"].refuse("is a mean over turns, which odds cannot follow")
    if doc["rule"]["school"].text == "evidence" and kind != "makes":
        doc["rule"]["school"].refuse(f"is evidence, which is for measure makes, not {kind}")


def _check_measure(doc: Node, kind: str) -> None:
    doc["measure"].require_that(kind in SESSIONS, f"is for {MEASURED}")
    if kind in SESSIONS and kind != "makes":
        doc["lanes"].require_that(doc["lanes"].value in (None, 1), f"is 1 for {kind}")
    says = ENDS_ITSELF.get(kind)
    doc["n"].require_that(
        says is None or doc["n"].value is None, f"is not for {kind}: {says} says how many"
    )
    doc["n"].require_that(says is not None or doc["n"].value is not None, "is required")
    if kind == "makes" and (doc["floor"].number or 0) > 1:
        doc["floor"].refuse("is over 1, the most that makes can reach")
    if says is not None and doc["rule"]["reps"].value is not None:
        doc["rule"]["reps"].refuse("needs a measure with a fixed number of attempts")


def _check_mark(doc: Node, kind: str) -> None:
    n, k = doc["n"].number, doc["k"].number
    if kind == "to_n":
        wanted = doc["measure"]["n"].number
        if wanted is not None and k is not None and k < wanted:
            doc["k"].refuse(f"is fewer than the {wanted:g} good ones to collect")
    elif kind in ("until_lost", "earned"):
        cap = doc["measure"]["cap"].number
        if cap is not None and k is not None and k > cap:
            doc["k"].refuse(f"is more than the cap of {cap:g}")
    elif n is not None and k is not None and k > n:
        doc["k"].refuse("is more than n")


def _check_rates(doc: Node) -> None:
    lanes = doc["lanes"].number or 1
    for scenario in doc["p"].each():
        if isinstance(scenario.value, list) and len(scenario.value) != lanes:
            scenario.refuse(f"has {len(scenario.value)} rates for {lanes:g} lanes")
        mixed = (
            isinstance(scenario.value, list)
            and not doc["each_lane"].value
            and len(set(map(str, scenario.value))) > 1
        )
        if mixed and (doc["n"].number or 0) * lanes > MOST_MIXED:
            scenario.refuse(f"asks for different rates over more than {MOST_MIXED} attempts")


def check_memory(rule: Node, eases: bool) -> None:
    """Refuse rules whose memory is too long for an exact chain."""
    for key, most in (("passes", MOST_MEMORY), ("of", MOST_WINDOW), ("min_sessions", MOST_HORIZON)):
        if (rule[key].number or 0) > most and not (
            key == "passes" and rule["school"].text == "window"
        ):
            rule[key].refuse(f"is over {most}, the most that odds can follow")
    if eases and (rule["low_in_a_row"].number or 0) > MOST_MEMORY:
        rule["low_in_a_row"].refuse(f"is over {MOST_MEMORY}, the most that odds can follow")
    if (rule["sessions"].number or 0) > MOST_HORIZON:
        rule["sessions"].refuse(f"is over {MOST_HORIZON}, the most that odds can follow")


def session_of(doc: dict[str, Any]) -> SessionChances:
    """The session that the document describes."""
    return SESSIONS[doc["measure"]["kind"]](doc)


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """Exact by the chain; by seeded simulation for evidence."""
    session, rule = session_of(doc), to_rule(doc["rule"])
    scenarios = [p if isinstance(p, list) else [p] * doc["lanes"] for p in doc["p"]]
    if isinstance(rule.school, Evidence) and isinstance(session, MakesSession):
        asked = (session, rule, scenarios, doc["horizon"], doc["seed"], doc["runs"])
        found = simulate(*asked, day_spread=doc["day_spread"])
    else:
        found = odds(session, rule, scenarios, doc["horizon"], doc["day_spread"])
    return {"results": [_document(one) for one in found]}


def _document(one: Odds) -> dict[str, Any]:
    written = {
        "pass": one.passing,
        "low": one.low,
        "climb_by": one.climb_by,
        "ease_by": one.ease_by,
        "climb_before_ease": one.climb_before_ease,
        "expected_sessions": one.expected_sessions,
        "median_sessions": one.median_sessions,
    }
    return written if one.se is None else {**written, "se": one.se}
