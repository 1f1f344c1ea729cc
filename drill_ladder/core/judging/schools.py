"""Where a player stands by the rule's school: is it met, and what is missing
(docs/methods.md, 3).
"""

from bisect import bisect_left
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from math import prod
from typing import Protocol

from drill_ladder.core.judging.ladders import (
    ByCoach,
    Evidence,
    InARow,
    Rule,
    Rung,
    Trust,
    Volume,
    Window,
)
from drill_ladder.core.judging.measures import Sets, made_of, volume_reps
from drill_ladder.core.judging.reasons import Lacking, Missing
from drill_ladder.core.judging.verdicts import (
    Judged,
    Verdict,
    dose_done,
    fault_total,
    faults_counted,
    faults_hold,
    form_holds,
    lacks,
    sets_by_lane,
)
from drill_ladder.core.statistics.chances import (
    beta_above,
    beta_binomial_tail,
    spread_tail,
)
from drill_ladder.core.thresholds import at_least

Days = Sequence[Judged]
Extra = Sequence[tuple[bool, Sets]]
Posterior = tuple[float, float]


@dataclass(frozen=True, slots=True)
class Standing:
    """All judged days at a rung under a rule, and the parts of them that count.

    full: not short; view: what the school may look at; counted: the view without passes that came
    too early; extra: practice of days that are none, as (observed, sets).
    """

    rung: Rung
    rule: Rule
    days: Days
    full: Days
    view: Days
    counted: Days
    extra: Extra = ()
    day_spread: float = 0.0

    @classmethod
    def of(
        cls, rung: Rung, rule: Rule, days: Days, extra: Extra = (), day_spread: float = 0.0
    ) -> "Standing":
        """Full days are those not short; observed_only hides unobserved days from the school."""
        full = [d for d in days if d.full]
        hide = rule.trust is Trust.OBSERVED_ONLY
        view = [d for d in full if d.day.observed] if hide else full
        counted = _counted(view, rule.min_days_between)
        return cls(rung, rule, days, full, view, counted, extra, day_spread)

    def as_if_any(self) -> "Standing":
        """The days as they read with trust `any`."""
        rule = replace(self.rule, trust=Trust.ANY)
        return Standing.of(self.rung, rule, self.days, self.extra, self.day_spread)


def _counted(view: Days, min_days_between: int) -> Days:
    """The view without passes that came less than min_days_between days after the last counted
    pass.
    """
    kept: list[Judged] = []
    last_pass: date | None = None
    for d in view:
        if d.verdict is Verdict.PASS:
            # a pass too soon is no miss either: it neither counts nor breaks a row
            if last_pass is not None and (d.on - last_pass).days < min_days_between:
                continue
            last_pass = d.on
        kept.append(d)
    return kept


def run_of_passes(counted: Days) -> int:
    """Passes in a row up to now."""
    run = 0
    for d in reversed(counted):
        if d.verdict is not Verdict.PASS:
            break
        run += 1
    return run


def passes_have(school: InARow | Window, counted: Days) -> int:
    """Passes that count towards the school now."""
    if isinstance(school, InARow):
        return run_of_passes(counted)
    return sum(1 for d in counted[-school.of :] if d.verdict is Verdict.PASS)


def posteriors(standing: Standing, extra_age: int = 0) -> dict[str | None, Posterior]:
    """Beta(0.5 + sum w makes, 0.5 + sum w misses) per judged lane; w = 0.5 ** (age / half-life).

    Age 0 is the latest full, not eased session; extra_age ages all of them by that many sessions
    more. Source: Jeffreys prior for a binomial rate; the fading is our choice, because form of
    weeks ago is stale.
    """
    lanes: Sequence[str | None] = standing.rung.lanes if standing.rung.target.each_lane else [None]
    sums = dict.fromkeys(lanes, (0.5, 0.5))
    # what was done easier says nothing about the rung as it is asked
    days = [d for d in standing.view if not d.day.eased]
    fade = 0.5 ** (1 / standing.rule.half_life)
    weight = fade**extra_age
    for d in reversed(days):
        units: dict = (
            sets_by_lane(standing.rung, d.day)
            if standing.rung.target.each_lane
            else {None: d.day.sets}
        )
        for lane, sets in units.items():
            sums[lane] = _add(sums[lane], sets, weight, standing.day_spread)
        weight *= fade
    return sums


def _add(ab: Posterior, sets: Sets, weight: float, day_spread: float) -> Posterior:
    """A day's attempts are no draws of their own where days differ: they count less (Kish's design
    effect).
    """
    attempts, makes = made_of(sets)
    weight /= 1 + max(0, attempts - 1) * day_spread
    return ab[0] + weight * makes, ab[1] + weight * (attempts - makes)


def school_missing(standing: Standing) -> list[Missing]:
    """What the school itself still lacks; empty when it is met."""
    school = standing.rule.school
    if isinstance(school, ByCoach):
        return [Missing(Lacking.COACH)]
    if isinstance(school, InARow | Window):
        return list(_counting_missing(standing, school))
    if isinstance(school, Evidence):
        return [*_evidence_missing(standing, school), *latest_gates(standing)]
    return [*_volume_missing(standing, school), *latest_gates(standing)]


def _counting_missing(standing: Standing, school: InARow | Window) -> Iterator[Missing]:
    counted = standing.counted
    have = passes_have(school, counted)
    # a window may hold enough passes of last week: the latest day has to be one of them
    if have >= school.passes and counted and counted[-1].verdict is Verdict.PASS:
        return
    yield Missing(Lacking.PASSES, {"have": min(have, school.passes), "need": school.passes})


def _evidence_missing(standing: Standing, school: Evidence) -> Iterator[Missing]:
    above = beta_above()
    for lane, (a, b) in posteriors(standing).items():
        sure = above(a, b, standing.rung.target.rate)
        if not standing.view or not at_least(sure, school.confidence):
            yield Missing(
                Lacking.CONFIDENCE, {"lane": lane, "have": sure, "need": school.confidence}
            )


def _volume_missing(standing: Standing, school: Volume) -> Iterator[Missing]:
    if school.sessions is not None:
        if len(standing.view) < school.sessions:
            yield Missing(Lacking.SESSIONS, {"have": len(standing.view), "need": school.sessions})
    else:
        have, need = reps_done(standing), school.reps or 0
        if not at_least(have, need):
            yield Missing(Lacking.REPS, {"have": have, "need": need})
    # work alone carries nobody up from a day on which nothing went
    if standing.view and standing.view[-1].verdict is Verdict.LOW:
        yield Missing(Lacking.LOW)


def reps_done(standing: Standing) -> float:
    """Every rep at the rung, short and eased days too (unobserved ones not, where only observed
    count).
    """
    work = [(d.day.observed, d.day.all_sets) for d in standing.days] + list(standing.extra)
    if standing.rule.trust is Trust.OBSERVED_ONLY:
        work = [(observed, sets) for observed, sets in work if observed]
    return sum(volume_reps(s, standing.rung.dose) for _, sets in work for s in sets)


def latest_gates(standing: Standing) -> list[Missing]:
    """Form minimum and fault ceiling in the latest full session."""
    return list(form_and_faults(standing.rung, standing.view[-1])) if standing.view else []


def form_and_faults(rung: Rung, latest: Judged) -> Iterator[Missing]:
    """Form and faults of one day, where they do not hold."""
    if not form_holds(rung, latest.day):
        yield Missing(Lacking.FORM, {"have": latest.day.form, "need": rung.target.form_min})
    if not faults_hold(rung, latest.day):
        have = fault_total(latest.day) if faults_counted(latest.day) else None
        yield Missing(Lacking.FAULTS, {"have": have, "allowed": rung.target.faults_max})


def sessions_missing(standing: Standing) -> list[Missing]:
    """The minimum of full sessions at the rung, whoever saw them."""
    have, need = len(standing.full), standing.rule.min_sessions
    return [] if have >= need else [Missing(Lacking.SESSIONS, {"have": have, "need": need})]


def trust_holds(standing: Standing) -> bool:
    """Whether the latest counted session was seen by a coach or a device, where that is asked.

    observed_only needs nothing here: its view holds observed sessions only.
    """
    if standing.rule.trust is not Trust.LAST_PASS_OBSERVED:
        return True
    counted = standing.counted
    return bool(counted) and counted[-1].day.observed


def may_climb(standing: Standing) -> bool:
    """Whether the school and every gate are met. No climb starts from an eased session."""
    if not standing.view or standing.view[-1].day.eased:
        return False
    return not school_missing(standing) and not sessions_missing(standing) and trust_holds(standing)


def next_counted_day(standing: Standing, today: date) -> date | None:
    """The first day on which a further pass would count, if that is after today."""
    passes = [d.on for d in standing.counted if d.verdict is Verdict.PASS]
    if not passes or not isinstance(standing.rule.school, InARow | Window):
        return None
    first = passes[-1] + timedelta(days=standing.rule.min_days_between)
    return first if first > today else None


def missing_for_full(standing: Standing) -> Missing:
    """Dose done on the latest day against the dose asked, all judged lanes together."""
    day = standing.days[-1].day if standing.days else None
    have, need = dose_done(standing.rung, day)
    return Missing(Lacking.DOSE, {"have": have, "need": need})


def missing_for_climb(standing: Standing, today: date) -> list[Missing]:
    """What the school and the gates lack, then what the latest session lacked, then the next day
    that counts.
    """
    found = list(school_missing(standing))
    if isinstance(standing.rule.school, ByCoach):
        return found + list(_latest_lacks(standing))
    # volume by sessions and the least number of sessions would say the same twice
    known = {m.code for m in found}
    found += [m for m in sessions_missing(standing) if m.code not in known]
    if isinstance(standing.rule.school, InARow | Window):
        found += _latest_lacks(standing)
    next_on = next_counted_day(standing, today)
    if next_on is not None:
        found.append(Missing(Lacking.DAYS, {"next_on": next_on}))
    return found


def _latest_lacks(standing: Standing) -> Iterator[Missing]:
    latest: Judged = standing.full[-1]
    if latest.met:
        return
    for lack in lacks(standing.rung, latest.day):
        numbers = {"have": lack.have, "need": lack.need}
        if lack.lane is None:
            yield Missing(Lacking.SCORE, numbers)
        else:
            yield Missing(Lacking.LANE, {"lane": lack.lane, **numbers})
    yield from form_and_faults(standing.rung, latest)


class Form(Protocol):
    """What is known of a player's next session from more than this rung's own days."""

    def passes(self, n: int, needs: Sequence[int]) -> float:
        """P(each lane has its need of n attempts)."""
        ...


def odds_next(standing: Standing, form: Form | None = None) -> float | None:
    """P(the next full session passes and that pass meets the rule), form and faults taken to hold.

    Posterior predictive: beta-binomial per judged lane; by the player's form where it is known.
    None for other measures than makes, for volume and by_coach, and where the dose counts no
    attempts. 0 when one more pass would not be enough.
    """
    school, rung = standing.rule.school, standing.rung
    n = rung.default_attempts
    if not rung.counts_makes or isinstance(school, Volume | ByCoach) or n == 0:
        return None
    if len(standing.full) + 1 < standing.rule.min_sessions:
        return 0.0
    lanes = posteriors(standing)
    if isinstance(school, Evidence):
        needs = _sure_with(standing, school, n)
    else:
        enough = _one_pass_is_enough(standing, school)
        # n + 1 of n cannot be: one more pass would not be enough
        needs = dict.fromkeys(lanes, rung.target.makes_needed(n) if enough else n + 1)
    if any(need > n for need in needs.values()):
        return 0.0
    if form is not None:
        return form.passes(n, list(needs.values()))
    return prod(_tail(n, need, *lanes[lane], standing.day_spread) for lane, need in needs.items())


def _tail(n: int, need: int, a: float, b: float, r: float) -> float:
    return spread_tail(n, need, a, b, r) if r > 0 else beta_binomial_tail(n, need, a, b)


def _one_pass_is_enough(standing: Standing, school: InARow | Window) -> bool:
    counted = standing.counted
    if isinstance(school, InARow):
        return passes_have(school, counted) + 1 >= school.passes
    before = counted[-(school.of - 1) :] if school.of > 1 else []
    return sum(1 for d in before if d.verdict is Verdict.PASS) + 1 >= school.passes


def _sure_with(standing: Standing, school: Evidence, n: int) -> dict[str | None, int]:
    """How many of n next time make each lane sure; n + 1 where not even all would."""
    above, target = beta_above(), standing.rung.target.rate
    # by the next session everything known so far is one session older
    aged = posteriors(standing, extra_age=1)
    less = 1 + (n - 1) * standing.day_spread

    def clears(a: float, b: float, x: int) -> bool:
        return at_least(above(a + x / less, b + (n - x) / less, target), school.confidence)

    return {
        lane: bisect_left(range(n + 1), True, key=lambda x: clears(a, b, x))
        for lane, (a, b) in aged.items()
    }
