"""Doses, targets, scores and rules as a coach would say them. Plain English, one place, units on
every number.
"""

from collections.abc import Callable
from typing import Any

from drill_ladder.core.judging import (
    ByCoach,
    Caller,
    Checklist,
    Count,
    Done,
    Evidence,
    InARow,
    Makes,
    Measure,
    Points,
    Rule,
    Rung,
    School,
    Streak,
    Time,
    ToN,
    Trust,
    Volume,
    Window,
)
from drill_ladder.formats.sentences import plain

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


def joined(names: tuple[str, ...] | list[str]) -> str:
    """left, centre and right."""
    return " and ".join([", ".join(names[:-1]), names[-1]] if len(names) > 1 else names)


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


def tempo_words(tempo: float) -> str:
    """How fast, within a sentence."""
    word = _TEMPO_PHRASES.get(tempo)
    return word or f"at {tempo * 100:.0f}\u00a0% of full speed"


_TEMPO_PHRASES = {
    0.5: "at half speed",
    0.75: "at three quarters of full speed",
    1.0: "at full speed",
}


_MODE_WORDS = {"known": "told before", "serial": "in turn", "random": "at random"}


def caller_words(caller: Caller) -> str:
    """What is called, and how."""
    words = f"called {_MODE_WORDS[caller.mode]}: {', '.join(caller.names)}"
    if caller.leave:
        words += f", {percent(caller.leave)} of them to be left"
    if caller.late_s:
        words += f", late by {caller.late_s:g}\u00a0s"
    return words + (f", late, at {caller.late_at}" if caller.late_at else "")


def tempo_word(share: float) -> str:
    """A share of full speed."""
    return _TEMPOS.get(share, f"{share * 100:.0f} %")
