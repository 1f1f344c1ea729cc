"""Doses, targets, scores and rules as a coach would say them. Plain English, one place, units on
every number.
"""

from drill_ladder.core.judging import (
    ByCoach,
    Caller,
    Evidence,
    InARow,
    Rule,
    School,
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
    named = ", ".join(f"{cue.name} ({cue.by})" if cue.by else cue.name for cue in caller.cues)
    words = f"called {_MODE_WORDS[caller.mode]}: {named}"
    if caller.leave:
        words += f", {percent(caller.leave)} of them to be left"
    if caller.late_s:
        words += f", late by {caller.late_s:g}\u00a0s"
    if caller.late_at:
        words += f", late, at {caller.late_at}"
    if caller.late_speed:
        words += f" ({caller.late_speed:g}\u00a0m/s)"
    return words + (", each word on another colour" if caller.clash else "")


def tempo_word(share: float) -> str:
    """A share of full speed."""
    return _TEMPOS.get(share, f"{share * 100:.0f} %")
