"""The rule finder: the fewest attempts and the mark that keep both risks small
(docs/methods.md, 5).

One pass with a horizon of one session is the classical problem of single-sampling acceptance plans.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from drill_ladder.core.judging.ladders import ByCoach, Evidence, Rule, Volume
from drill_ladder.core.odds.chain import climb_chance
from drill_ladder.core.odds.day_spread import spread_pass_and_low
from drill_ladder.core.odds.session_chances import MakesSession, binom_tail
from drill_ladder.core.thresholds import at_most


@dataclass(frozen=True, slots=True)
class Question:
    """p_not_ready < p_ready: true rates; alpha, beta: risks 0..1; horizon: sessions; max_attempts:
    of one session.

    day_spread: by how much days differ, 0..0.5.

    lanes: how many must each reach the mark, all at the same rate. step: n is a multiple of it
    (lanes that share one).
    """

    p_not_ready: float
    p_ready: float
    alpha: float
    beta: float
    horizon: int
    max_attempts: int
    lanes: int = 1
    step: int = 1
    day_spread: float = 0.0


@dataclass(frozen=True, slots=True)
class Found:
    """k of n; false_climb: P(climbed by the horizon | not ready); held_back: P(not climbed |
    ready); or a reason.
    """

    n: int | None = None
    k: int | None = None
    false_climb: float | None = None
    held_back: float | None = None
    reason: str | None = None


NOT_FOR = {
    Evidence: "decides on all sets so far, not on a mark in one session",
    ByCoach: "climbs when the coach says so: no mark decides",
    Volume: "climbs by work done, whatever the rate: no mark keeps anyone back",
}


def find_rules(question: Question, rules: Sequence[Rule]) -> list[Found]:
    """One answer for each rule, in their order."""
    return [find_rule(question, rule) for rule in rules]


def find_rule(question: Question, rule: Rule) -> Found:
    """The first n, counted up, whose smallest safe mark also holds back few enough."""
    if type(rule.school) in NOT_FOR:
        return Found(reason=NOT_FOR[type(rule.school)])
    for n in range(question.step, question.max_attempts + 1, question.step):
        k = _smallest_safe_mark(question, rule, n)
        if k is None:
            continue
        held_back = 1 - _climbs(question, rule, n, k, question.p_ready)
        if at_most(held_back, question.beta):
            return Found(
                n, k, _climbs(question, rule, n, k, question.p_not_ready), max(0.0, held_back)
            )
    return Found(reason=f"no mark on up to {question.max_attempts} attempts keeps both risks")


def _smallest_safe_mark(question: Question, rule: Rule, n: int) -> int | None:
    """The smallest k of n with few enough false climbs, by halving: more makes asked, fewer
    climb.
    """

    def safe(k: int) -> bool:
        return at_most(_climbs(question, rule, n, k, question.p_not_ready), question.alpha)

    if not safe(n):
        return None
    low, high = 0, n
    while low < high:
        middle = (low + high) // 2
        low, high = (low, middle) if safe(middle) else (middle + 1, high)
    return low


def _climbs(question: Question, rule: Rule, n: int, k: int, p: float) -> float:
    if not question.day_spread:
        return climb_chance(rule, binom_tail(n, k, p) ** question.lanes, question.horizon, n)
    session = MakesSession(n, k, question.lanes, each_lane=True)
    passing, _ = spread_pass_and_low(session, [p] * question.lanes, question.day_spread)
    return climb_chance(rule, passing, question.horizon, n)
