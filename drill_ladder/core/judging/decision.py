"""The decision at a rung: eleven proposals tried in a fixed order, each with its reason
(docs/methods.md, 4).
"""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from datetime import date

from drill_ladder.core.judging.advice import advise
from drill_ladder.core.judging.ladders import ByCoach, Ladder, Rung, Trust
from drill_ladder.core.judging.measures import Sets
from drill_ladder.core.judging.reasons import Advice, Kind, Lacking, Missing, Number, Reason
from drill_ladder.core.judging.schools import (
    Extra,
    Form,
    Standing,
    may_climb,
    missing_for_climb,
    missing_for_full,
    odds_next,
    trust_holds,
)
from drill_ladder.core.judging.sessions import OBSERVED, Session, by_day, pool
from drill_ladder.core.judging.stopping import ALONE, Stopping
from drill_ladder.core.judging.verdicts import Judged, Verdict, Yardstick
from drill_ladder.core.statistics.trend import theil_sen_slope
from drill_ladder.core.thresholds import at_least

TREND_MIN, TREND_MAX = 5, 200


@dataclass(frozen=True, slots=True)
class Settings:
    """What the product may set and the command line leaves alone.

    skip_min_attempts: attempts in the session without which nobody skips; observed_alone: the
    coach's and device's sets of a day, if full by themselves, alone judge it; stall_after_pass:
    whether somebody may be called stalled right after a passing session; stopping: how sure a stop
    of a speed block has to be; day_spread: by how much days differ, 0..0.5; outlook: the chance of
    climbing within the next sessions, where somebody knows it: then it says who is stalled; form:
    what is known of the next session from more than this rung's days.
    """

    skip_min_attempts: int = 0
    observed_alone: bool = False
    stall_after_pass: bool = True
    stopping: Stopping = ALONE
    day_spread: float = 0.0
    outlook: float | None = None
    form: Form | None = None


UNLIKELY = 0.25
PRODUCT = Settings(skip_min_attempts=10, observed_alone=True, stall_after_pass=False)


@dataclass(frozen=True, slots=True)
class Decision:
    """A proposal. to: the rung it leads to (recheck, skip, climb, step_down), else None; odds_next
    on hold only.
    """

    kind: Kind
    to: str | None
    verdicts: Sequence[Judged]
    missing: Sequence[Missing]
    reasons: Sequence[Reason]
    odds_next: float | None


@dataclass(frozen=True, slots=True)
class _Case:
    ladder: Ladder
    index: int
    standing: Standing
    today: date
    last: date | None
    stop: bool
    settings: Settings

    @property
    def rung(self) -> Rung:
        return self.standing.rung

    @property
    def by_coach(self) -> bool:
        return isinstance(self.standing.rule.school, ByCoach)

    @property
    def latest(self) -> Judged:
        return self.standing.full[-1]

    def propose(self, kind: Kind, step: int = 0, *more: Reason, **numbers: Number) -> Decision:
        to = self.ladder.rungs[self.index + step].id if step else None
        reasons = [Reason(kind, {"to": to, **numbers} if to else numbers), *more]
        if self.standing.full and self.latest.day.eased and self.latest.met:
            reasons.append(Reason(Advice.EASED_MET))
        return Decision(kind, to, self.standing.days, (), tuple(reasons), None)


def decide(
    ladder: Ladder,
    at: str,
    sessions: Sequence[Session],
    today: date,
    last_on: date | None = None,
    stop: bool = False,
    settings: Settings = Settings(),
) -> Decision:
    """Propose what to do with a player at a rung.

    sessions: those at this rung since arrival, in any order, none after today; last_on: the last
    session anywhere on the ladder; stop: a pain report or a coach's stop is open. Raises CoreError
    for an unknown rung.
    """
    index = ladder.index(at)
    yardstick = Yardstick(ladder.rungs[index], ladder.rule_at(index).min_share)
    days, extra = judge_days(yardstick, sessions, settings)
    known = [session.on for session in sessions] + ([last_on] if last_on else [])
    return decide_days(ladder, at, days, today, max(known, default=None), stop, settings, extra)


def decide_days(
    ladder: Ladder,
    at: str,
    days: Sequence[Judged],
    today: date,
    last_on: date | None = None,
    stop: bool = False,
    settings: Settings = Settings(),
    extra: Extra = (),
) -> Decision:
    """As `decide`, from days that were judged before, oldest first: nothing of them is judged
    anew. extra: practice of days that are none.
    """
    index = ladder.index(at)
    rung, rule = ladder.rungs[index], ladder.rule_at(index)
    known = [on for on in (last_on, days[-1].on if days else None) if on is not None]
    case = _Case(
        ladder,
        index,
        Standing.of(rung, rule, days, extra, settings.day_spread),
        today,
        max(known, default=None),
        stop,
        settings,
    )
    for step in _STEPS:
        decision = step(case)
        if decision is not None:
            return decision
    return _hold(case)


def upwards(
    ladder: Ladder,
    at: str,
    days: Sequence[Judged],
    today: date,
    settings: Settings = Settings(),
    extra: Extra = (),
) -> bool:
    """Whether `decide_days` would move the player up: climb, skip or finish."""
    index = ladder.index(at)
    rung, rule = ladder.rungs[index], ladder.rule_at(index)
    standing = Standing.of(rung, rule, days, extra, settings.day_spread)
    case = _Case(ladder, index, standing, today, None, False, settings)
    # asked for many days at once (the season, a replay): the other steps are not looked at
    if not standing.full:
        return False
    proposal = _skip(case) or _climb(case)
    return proposal is not None and proposal.kind is not Kind.CHECK


def judge_days(
    yardstick: Yardstick, sessions: Iterable[Session], settings: Settings
) -> tuple[list[Judged], list[tuple[bool, Sets]]]:
    """The days of some sessions, oldest first, and the extra practice of all of them."""
    asked: list[Session] = []
    extra: list[tuple[bool, Sets]] = []
    for session in sessions:
        if session.extra:
            extra.append((session.observer in OBSERVED, session.sets))
        else:
            asked.append(session)
    return [judge_day(yardstick, same_day, settings) for same_day in by_day(asked)], extra


def judge_day(yardstick: Yardstick, same_day: list[Session], settings: Settings) -> Judged:
    """The verdict on the sessions of one day, pooled; which of them judge it is a setting."""
    rung = yardstick.rung
    if settings.observed_alone:
        # what a coach or a device saw judges the day alone where it is a whole dose by itself:
        # a child's own count never lifts it, and never spoils it
        fresh = [s for s in same_day if not s.tired] or same_day
        seen = [s for s in fresh if s.observer in OBSERVED]
        if seen and len(seen) < len(same_day):
            alone = yardstick.judge(pool(seen, rung.measure, rung.dose, settings.stopping))
            if alone.full:
                return _with_all_work(alone, same_day)
    return yardstick.judge(pool(same_day, rung.measure, rung.dose, settings.stopping))


def _with_all_work(judged: Judged, same_day: list[Session]) -> Judged:
    every = tuple(s for session in same_day for s in session.sets)
    return judged._replace(day=judged.day._replace(all_sets=every))


def _rest(case: _Case) -> Decision | None:
    return case.propose(Kind.REST) if case.stop else None


def _recheck(case: _Case) -> Decision | None:
    limit = case.standing.rule.layoff_days
    if limit is None or case.last is None or case.index == 0:
        return None
    away = (case.today - case.last).days
    return case.propose(Kind.RECHECK, -1, days=away, limit=limit) if away >= limit else None


def _wait(case: _Case) -> Decision | None:
    if case.standing.full:
        return None
    missing = missing_for_full(case.standing)
    return _with_missing(case.propose(Kind.WAIT, 0, **missing.numbers), [missing])


def _skip(case: _Case) -> Decision | None:
    mark, rung = case.standing.rule.skip_at, case.rung
    if mark is None or not rung.counts_makes or len(case.standing.full) != 1 or case.by_coach:
        return None
    # a skip leads two rungs up: there have to be two
    if case.index + 2 >= len(case.ladder.rungs) or case.latest.verdict is not Verdict.PASS:
        return None
    scores = list(case.latest.lanes.values()) if rung.target.each_lane else [case.latest.score]
    clear = all(s is not None and at_least(s, mark) for s in scores)
    if not clear or not _seen_enough(case) or not _enough_attempts(case):
        return None
    return case.propose(Kind.SKIP, 2, score=case.latest.score, mark=mark)


def _seen_enough(case: _Case) -> bool:
    return bool(case.standing.view) and trust_holds(case.standing)


def _enough_attempts(case: _Case) -> bool:
    return sum(s.attempts or 0 for s in case.latest.day.sets) >= case.settings.skip_min_attempts


def _climb(case: _Case) -> Decision | None:
    if may_climb(case.standing):
        if case.index == len(case.ladder.rungs) - 1:
            return case.propose(Kind.FINISH)
        return case.propose(Kind.CLIMB, 1)
    if case.standing.rule.trust is not Trust.ANY and may_climb(case.standing.as_if_any()):
        need = case.standing.rule.trust.value
        return _with_missing(
            case.propose(Kind.CHECK, 0, need=need), [Missing(Lacking.TRUST, {"need": need})]
        )
    return None


def _ease(case: _Case) -> Decision | None:
    wanted = case.standing.rule.low_in_a_row
    last = case.standing.full[-wanted:]
    if (
        len(last) < wanted
        or any(d.verdict is not Verdict.LOW for d in last)
        # lows before and after easing are not one row
        or len({d.day.eased for d in last}) > 1
    ):
        return None
    missing = missing_for_climb(case.standing, case.today)
    if not last[0].day.eased and case.rung.ease is not None:
        return _with_missing(case.propose(Kind.EASE, 0, lows=wanted), missing)
    if case.index > 0:
        return _with_missing(case.propose(Kind.STEP_DOWN, -1, lows=wanted), missing)
    return _with_missing(
        case.propose(Kind.STALLED, 0, Reason(Advice.EASIER_RUNG), lows=wanted), missing
    )


def _stalled(case: _Case) -> Decision | None:
    limit, full = case.standing.rule.stall_after, case.standing.full
    if limit is None or len(full) < limit:
        return None
    # right after a pass nobody is told to be stuck, whatever the weeks before were
    spared = case.by_coach or not case.settings.stall_after_pass
    if spared and case.latest.verdict is Verdict.PASS:
        return None
    # where the club's record knows the chance to climb, it says more than a slope of few days
    outlook = case.settings.outlook
    if _is_improving(case) if outlook is None else at_least(outlook, UNLIKELY):
        return None
    numbers: dict[str, Number] = {"sessions": len(full), "limit": limit}
    if outlook is not None:
        numbers["outlook"] = outlook
    proposal = case.propose(Kind.STALLED, 0, advise(case.rung, full), **numbers)
    return _with_missing(proposal, missing_for_climb(case.standing, case.today))


def _is_improving(case: _Case) -> bool:
    points = [
        (d.on, d.score) for d in case.standing.full if not d.day.eased and d.score is not None
    ][-TREND_MAX:]
    if len(points) < TREND_MIN:
        return False
    slope = theil_sen_slope(points)
    return (slope if case.rung.measure.higher_is_better else -slope) > 1e-9


def _hold(case: _Case) -> Decision:
    chance = odds_next(case.standing, case.settings.form)
    proposal = _with_missing(case.propose(Kind.HOLD), missing_for_climb(case.standing, case.today))
    return Decision(Kind.HOLD, None, proposal.verdicts, proposal.missing, proposal.reasons, chance)


def _with_missing(d: Decision, missing: Sequence[Missing]) -> Decision:
    return Decision(d.kind, d.to, d.verdicts, tuple(missing), d.reasons, d.odds_next)


_STEPS: tuple[Callable[[_Case], Decision | None], ...] = (
    _rest,
    _recheck,
    _wait,
    _skip,
    _climb,
    _ease,
    _stalled,
)
