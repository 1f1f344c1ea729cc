"""Doses, targets, scores and rules as a coach would say them. Plain English, one place, units on
every number.
"""

from collections.abc import Callable
from typing import Any

from drill_ladder.core.judging import (
    ByCoach,
    Checklist,
    Count,
    Done,
    Evidence,
    InARow,
    Intent,
    Makes,
    Measure,
    Points,
    Rule,
    Rung,
    School,
    Streak,
    Target,
    Time,
    ToN,
    Trust,
    Volume,
    Window,
)
from drill_ladder.core.planning import warnings
from drill_ladder.formats.sentences import plain, warning_text

_NUMBERS = ("no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten")


def number_word(n: int) -> str:
    """Small numbers as words, larger ones as figures."""
    return _NUMBERS[n] if 0 <= n < len(_NUMBERS) else str(n)


def many(n: float, one: str, more: str = "") -> str:
    """1 set, 2 sets."""
    return f"{plain(n)} {one if n == 1 else more or one + 's'}"


def percent(rate: float) -> str:
    """0.8 as 80 %."""
    return f"{rate * 100:.0f}\u00a0%"


def dose_words(rung: Rung) -> str:
    """The dose: 10 left, 10 right; or 2 sets of 10 to 15, each both left and right, 30 s rest."""
    reps = _band(rung.dose.reps, rung.reps_high)
    parts = [_work(rung, reps)]
    one_set = rung.dose.sets == 1 and rung.sets_high is None
    if rung.lanes and one_set and rung.dose.reps and len(rung.lanes) <= 3:
        parts = [f"{reps} {lane}" for lane in rung.lanes]
    elif rung.lanes:
        parts.append(f"each {_lanes(rung)}")
    if rung.dose.rest_s and (rung.sets_high or rung.dose.sets) > 1:
        parts.append(f"{plain(rung.dose.rest_s)}\u00a0s rest")
    return ", ".join(parts)


def _lanes(rung: Rung) -> str:
    if len(rung.lanes) == 2:
        return f"both {joined(rung.lanes)}"
    return joined(rung.lanes) if len(rung.lanes) == 3 else f"in each of {len(rung.lanes)} lanes"


def _band(reps: int | None, high: int | None) -> str:
    return (
        f"{reps} to {high}" if reps is not None and high is not None and high > reps else str(reps)
    )


def _work(rung: Rung, band: str) -> str:
    sets, reps = rung.dose.sets, rung.dose.reps
    match rung.measure:
        case Count(window_s=seconds):
            return f"{many(sets, 'window')} of {plain(seconds)}\u00a0s"
        case ToN(n=n):
            return f"{many(sets, 'set')} until {many(n, 'good one')}"
        case Streak():
            return many(sets, "try", "tries")
        case Time():
            return many(sets * (reps or 1), "timed trial")
    return _in_minutes(rung) if reps is None else _counted(rung, band)


def _counted(rung: Rung, band: str) -> str:
    sets = rung.dose.sets
    if rung.sets_high is not None:
        return f"{_band(sets, rung.sets_high)} sets of {band}"
    return f"{band} attempts" if sets == 1 else f"{many(sets, 'set')} of {band}"


def _in_minutes(rung: Rung) -> str:
    """A dose that counts no repetitions: its minutes, else its sets."""
    if rung.minutes is None:
        return many(rung.dose.sets, "set")
    parts = f" in {many(rung.dose.sets, 'set')}" if rung.dose.sets > 1 else ""
    return f"{many(rung.minutes, 'minute')}{parts}"


def joined(names: tuple[str, ...] | list[str]) -> str:
    """left, centre and right."""
    return " and ".join([", ".join(names[:-1]), names[-1]] if len(names) > 1 else names)


def rest_lines(rung: Rung, intent: Intent | None = None) -> list[str]:
    """What of sets and rest does not fit what the rung, or a prescription, is for. Trials inside a
    set follow each other at once: they are rounds without a rest.
    """
    sets, rest_s, trials = rung.dose.sets, rung.dose.rest_s, rung.dose.reps or 1
    if isinstance(rung.measure, Time) and trials > 1:
        sets, rest_s = sets * trials, 0
    return rest_warnings(intent or rung.intent, sets, rest_s)


def rest_warnings(intent: Intent, sets: int, rest_s: float) -> list[str]:
    """What of sets and rest does not fit an intent, a sentence each."""
    return [warning_text(code, sets, rest_s) for code in warnings(intent, sets, rest_s)]


def target_words(rung: Rung) -> str:
    """The target: 8 of 10, both left and right, form 80 % or better."""
    parts = [_goal(rung.measure, rung.target)]
    if rung.target.each_lane:
        parts[0] += f", {_lanes(rung)}"
    if rung.target.form_min is not None:
        parts.append(f"form {percent(rung.target.form_min)} or better")
    if rung.target.faults_max is not None:
        parts.append(f"at most {many(rung.target.faults_max, 'fault')}")
    return ", ".join(parts)


def _goal(measure: Measure, target: Target) -> str:
    if isinstance(measure, Makes) and target.makes is not None:
        return f"{target.makes} of {target.of}"
    return _GOALS[type(measure)](measure, target.value or 0.0)


_GOALS: dict[type[Measure], Callable[[Any, float], str]] = {
    Makes: lambda m, v: f"{percent(v)} good",
    Points: lambda m, v: f"{plain(v)} points an attempt (of {plain(m.max)})",
    Time: lambda m, v: f"{plain(v)}\u00a0s or faster",
    Count: lambda m, v: f"{plain(v)} in {plain(m.window_s)}\u00a0s",
    Streak: lambda m, v: f"{plain(v)} in a row",
    ToN: lambda m, v: f"{many(m.n, 'good one')} within {plain(v)} attempts",
    Checklist: lambda m, v: f"{percent(v)} of {many(len(m.items), 'checkpoint')}",
    Done: lambda m, v: "all of it" if v >= 1 else f"{percent(v)} of it",
}


def measure_words(measure: Measure) -> str:
    """How a drill is scored, in a few words."""
    return _MEASURES[type(measure)](measure)


_MEASURES: dict[type[Measure], Callable[[Any], str]] = {
    Makes: lambda m: "good ones out of attempts",
    Points: lambda m: f"0 to {plain(m.max)} points an attempt",
    Time: lambda m: (
        f"seconds, the {m.score_by.value} of the trials"
        + (f", {plain(m.fault_penalty_s)}\u00a0s for each fault" if m.fault_penalty_s else "")
    ),
    Count: lambda m: f"repetitions in {plain(m.window_s)}\u00a0s, the {m.score_by.value} window",
    Streak: lambda m: "the longest run",
    ToN: lambda m: f"attempts until {many(m.n, 'good one')}",
    Checklist: lambda m: f"{many(len(m.items), 'checkpoint')} seen",
    Done: lambda m: "the share of the work done",
}


_SCORES: dict[type[Measure], Callable[[Any, float], str]] = {
    Makes: lambda m, v: percent(v),
    Points: lambda m, v: f"{v:.2f} points",
    Time: lambda m, v: f"{v:.2f}\u00a0s",
    Count: lambda m, v: f"{plain(v)} in {plain(m.window_s)}\u00a0s",
    Streak: lambda m, v: f"{plain(v)} in a row",
    ToN: lambda m, v: f"{plain(v)} attempts",
    Checklist: lambda m, v: percent(v),
    Done: lambda m, v: percent(v),
}


def score_words(measure: Measure, score: float | None) -> str:
    """A score with its unit."""
    return "not measured" if score is None else _SCORES[type(measure)](measure, score)


def band_words(measure: Measure, band: tuple[float, float]) -> str:
    """An expected success band: 20 % to 40 %."""
    low, high = (score_words(measure, end) for end in band)
    return f"{low} to {high}"


def rule_sentence(rule: Rule) -> str:
    """The whole rule as one readable sentence."""
    parts = [_school(rule.school)]
    if rule.min_days_between > 1:
        parts.append(f"at least {rule.min_days_between} days apart")
    if rule.min_sessions > 1:
        parts.append(f"after at least {number_word(rule.min_sessions)} sessions here")
    if rule.trust is Trust.LAST_PASS_OBSERVED:
        parts.append("the last pass seen by a coach")
    if rule.trust is Trust.OBSERVED_ONLY:
        parts.append("counting only what a coach or a device saw")
    return f"Climbs {', '.join(parts)}."


def _school(school: School) -> str:
    if isinstance(school, InARow):
        if school.passes == 1:
            return "after one passing session"
        return f"after {number_word(school.passes)} passing sessions in a row"
    if isinstance(school, Window):
        return (
            f"when {number_word(school.passes)} of the last {number_word(school.of)} sessions pass"
        )
    if isinstance(school, Evidence):
        return f"when it is {percent(school.confidence)} sure that the true rate reaches the target"
    if isinstance(school, ByCoach):
        return "when the coach says so"
    return f"after {_volume(school)} here, the last session not low"


def _volume(school: Volume) -> str:
    return (
        many(school.reps or 0, "repetition")
        if school.reps is not None
        else many(school.sessions or 0, "session")
    )


def easing_sentence(rule: Rule, rung: Rung) -> str:
    """What happens when it is too hard; empty where the rung has no floor."""
    if rung.floor is None:
        return ""
    worse = "under" if rung.measure.higher_is_better else "over"
    score = score_words(rung.measure, rung.floor)
    if rule.low_in_a_row == 1:
        then = f"eases it ({rung.ease})" if rung.ease else "leads back one rung"
        return f"One low session ({worse} {score}) {then}."
    then = f"ease it ({rung.ease})" if rung.ease else "lead back one rung"
    return (
        f"{number_word(rule.low_in_a_row).capitalize()} low sessions in a row ({worse} {score}) "
        f"{then}."
    )


_TEMPOS = {0.5: "half speed", 0.75: "three quarters", 1.0: "full speed"}


def tempo_word(share: float) -> str:
    """A share of full speed."""
    return _TEMPOS.get(share, f"{share * 100:.0f} %")
