"""A rung as a coach would say it: its dose, its target, and what does not fit in it. What single
fields say is said by their table (rung_fields).
"""

from drill_ladder.core.judging import (
    Intent,
    Rule,
    Rung,
)
from drill_ladder.core.planning import warnings
from drill_ladder.formats.measures import form_of, goal_words, score_words
from drill_ladder.formats.rung_fields import said_of
from drill_ladder.formats.sentences import plain, warning_text
from drill_ladder.formats.words import joined, many, number_word, percent


def dose_words(rung: Rung) -> str:
    """The dose: 10 left, 10 right; or 2 sets of 10 to 15, each both left and right, 30 s rest; and
    what other fields say to who does it: at half speed.
    """
    reps = _band(rung.dose.reps, rung.reps_high)
    parts = [_work(rung, reps)]
    one_set = rung.dose.sets == 1 and rung.sets_high is None
    if rung.lanes and one_set and rung.dose.reps and len(rung.lanes) <= 3:
        parts = [f"{reps} {lane}" for lane in rung.lanes]
    elif rung.lanes:
        parts.append(f"each {_lanes(rung)}")
    if rung.dose.rest_s and (rung.sets_high or rung.dose.sets) > 1:
        parts.append(f"{plain(rung.dose.rest_s)}\u00a0s rest")
    return ", ".join([*parts, *said_of(rung, for_player=True)])


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
    told_otherwise = form_of(rung.measure).dose
    if told_otherwise:
        return told_otherwise(rung.measure, sets, reps)
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


def target_words(rung: Rung) -> str:
    """The target: 8 of 10, both left and right, form 80 % or better."""
    parts = [goal_words(rung.measure, rung.target)]
    if rung.target.each_lane:
        parts[0] += f", {_lanes(rung)}"
    if rung.target.form_min is not None:
        parts.append(f"form {percent(rung.target.form_min)} or better")
    if rung.target.faults_max is not None:
        parts.append(f"at most {many(rung.target.faults_max, 'fault')}")
    return ", ".join(parts)


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


def rest_lines(rung: Rung, intent: Intent | None = None) -> list[str]:
    """What of sets and rest does not fit what the rung, or a prescription, is for. Trials inside a
    set follow each other at once: they are rounds without a rest.
    """
    sets, rest_s, trials = rung.dose.sets, rung.dose.rest_s, rung.dose.reps or 1
    if rung.measure.trials(rung.dose) > sets:
        sets, rest_s = sets * trials, 0
    return rest_warnings(intent or rung.intent, sets, rest_s)


def rest_warnings(intent: Intent, sets: int, rest_s: float) -> list[str]:
    """What of sets and rest does not fit an intent, a sentence each."""
    return [warning_text(code, sets, rest_s) for code in warnings(intent, sets, rest_s)]
