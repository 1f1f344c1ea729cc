"""The sentences for reasons and for what is missing: the only place where codes become words.

Every sentence is a template with named numbers, ready to be translated. No sentence compares a
player with another.
"""

from collections.abc import Mapping, Sequence
from datetime import date
from typing import Any

from drill_ladder.core.judging import Advice, Kind, Lacking, Missing, Reason

_REASONS: dict[Kind | Advice, str] = {
    Kind.REST: "Rest: a stop is open. Only a coach can end it.",
    Kind.RECHECK: (
        "Away for {days} days ({limit} is the limit): do the rung below once, then go on."
    ),
    Kind.WAIT: "No full session at this rung yet: {have} of {need} done.",
    Kind.SKIP: (
        "First full session at {score}, at or above the skip mark of {mark}: may jump one rung."
    ),
    Kind.CLIMB: "The rule is met: climb.",
    Kind.FINISH: "The rule is met on the top rung: the ladder is finished.",
    Kind.CHECK: "Ready: watch one. The rule is met, but a coach or a device has not seen it.",
    Kind.EASE: "{lows} low sessions in a row: use the eased variant.",
    Kind.STEP_DOWN: "{lows} low sessions in a row: go back one rung.",
    Kind.STALLED: "Stuck here.",
    Kind.HOLD: "Hold.",
    Advice.WEAKEST_LANE: "Work on {lane}: the other lanes are there already.",
    Advice.FORM: (
        "Form was under its minimum in {sessions} of the last {of} sessions: form before "
        "difficulty."
    ),
    Advice.COMMON_FAULT: "{times} of {of} misses were “{fault}”: treat that first.",
    Advice.HALF_STEP: "Add a half-step between this rung and the one before.",
    Advice.EASIER_RUNG: "This is the first rung: make it easier.",
    Advice.EASED_MET: "The target was met in the eased variant: back to the full one.",
    Advice.GENTLER_FEED: "The feed is one step gentler from the next day on.",
    Advice.UNEASY: "Said twice running not to be at ease with it: {last} of 5 the last time.",
}

_MISSING: dict[Lacking, str] = {
    Lacking.PASSES: "passes {have} of {need}",
    Lacking.SESSIONS: "sessions {have} of {need}",
    Lacking.REPS: "repetitions {have} of {need}",
    Lacking.SCORE: "last time {have}, needs {need}",
    Lacking.LANE: "{lane} {have}, needs {need}",
    Lacking.FORM: "form {have}, needs {need}",
    Lacking.FAULTS: "{have} faults, at most {allowed}",
    Lacking.CONFIDENCE: "certainty {have}, needs {need}",
    Lacking.DAYS: "the next pass counts from {next_on}",
    Lacking.DOSE: "{have} of {need} done",
    Lacking.LOW: "the last session was low",
    Lacking.TRUST: "to be seen by a coach or a device",
    Lacking.COACH: "your word",
}


_NUMERALS = {
    1: "one",
    2: "two",
    3: "three",
    4: "four",
    5: "five",
    6: "six",
    7: "seven",
    8: "eight",
    9: "nine",
    10: "ten",
    11: "eleven",
    12: "twelve",
}
_WARNINGS = {
    "speed_rest": "Speed work with {rest} s rest trains endurance, not speed: rest at least 40 s.",
    "speed_sets": "Speed work is usually 3 to 5 sets, not {sets}.",
    "endurance_rest": "Endurance work usually rests 20 to 30 s, not {rest} s.",
    "endurance_sets": "Endurance work is usually 3 to 5 sets, not {sets}.",
}


def warning_text(code: str, sets: int, rest_s: float) -> str:
    """One sentence for a dose that does not fit its intent."""
    return _WARNINGS[code].format(sets=sets, rest=plain(rest_s))


def reason_text(reason: Reason, missing: Sequence[Missing] = ()) -> str:
    """One plain sentence for a reason; a hold also says what is missing."""
    text = _REASONS[reason.code].format_map(_Words(reason.numbers))
    if reason.code is Kind.HOLD and missing:
        return f"Hold: {'; '.join(missing_text(m) for m in missing)}."
    if reason.code is Kind.STALLED:
        return _stalled_text(reason.numbers)
    return text


def _stalled_text(numbers: Mapping[str, Any]) -> str:
    """How sure that is: by the club's record, or by a slope, which tells hardly better than two to
    one.
    """
    if "lows" in numbers:
        return f"Stuck here: {numbers['lows']} low sessions in a row, and nothing easier below."
    outlook = numbers.get("outlook")
    if outlook is None:
        return (
            f"Perhaps stuck here: scores did not rise over {numbers['sessions']} full sessions. "
            "About half of those who do learn look like this too."
        )
    return (
        f"Stuck here after {numbers['sessions']} full sessions: the chance to climb within six "
        f"more like these is {one_in(outlook)}."
    )


def one_in(chance: float) -> str:
    """A small chance as a coach says it: about one in ten."""
    if chance < 1 / 40:
        return "next to nothing"
    return f"about one in {_NUMERALS.get(round(1 / chance), round(1 / chance))}"


def missing_text(missing: Missing) -> str:
    """What is missing, as a few words with its numbers."""
    if missing.code is Lacking.PASSES:
        return _passes_text(missing.numbers)
    if missing.code is Lacking.CONFIDENCE and missing.numbers.get("lane"):
        return "{lane}: certainty {have}, needs {need}".format_map(_Words(missing.numbers))
    if missing.code is Lacking.FAULTS and missing.numbers["have"] is None:
        return "nobody counted faults"
    return _MISSING[missing.code].format_map(_Words(missing.numbers))


def _passes_text(numbers: Mapping[str, Any]) -> str:
    left = numbers["need"] - numbers["have"]
    if left <= 0:
        return "the latest session has to be a pass"
    return f"{left} more pass{'es' if left > 1 else ''} ({numbers['have']} of {numbers['need']})"


class _Words(dict):
    """Numbers in the form a coach reads them: no tails of digits, days by name."""

    def __getitem__(self, key: str) -> str:
        return plain(super().__getitem__(key))


def plain(value: object) -> str:
    """A number without a tail, a day as 3 March 2026, nothing as "nothing yet"."""
    if value is None:
        return "nothing yet"
    if isinstance(value, date):
        return f"{value.day} {value:%B %Y}"
    if isinstance(value, float):
        return f"{value:.2f}".rstrip("0").rstrip(".")
    return str(value)
