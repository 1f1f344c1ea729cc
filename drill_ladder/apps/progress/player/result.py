"""What the last day on a rung came to, in the lines that a coach reads at once: the verdict with
its reason, the weakest lane, the commonest fault and its cure, what is missing, and how likely the
next time is to complete it.
"""

from collections.abc import Iterator, Mapping, Sequence

from drill_ladder.core.coaching import RECENT, Misses, ranked
from drill_ladder.core.judging import (
    Ahead,
    Judged,
    Kind,
    Rung,
    Verdict,
    faults_by_name,
    faults_counted,
    lacks,
    made_of,
    on_course,
)
from drill_ladder.core.thresholds import at_least
from drill_ladder.formats.measures import band_words, score_words
from drill_ladder.formats.sentences import missing_text
from drill_ladder.formats.words import percent

WAITS = {
    Kind.CLIMB: "Proposed: up one rung",
    Kind.SKIP: "Proposed: up two rungs",
    Kind.FINISH: "Proposed: finish the ladder",
    Kind.CHECK: "Ready, to be seen once by a coach",
    Kind.EASE: "Proposed: ease this rung",
    Kind.STEP_DOWN: "Proposed: down one rung",
    Kind.STALLED: "Stuck: see the review",
    Kind.RECHECK: "Proposed: recheck the rung below",
}


def result_lines(
    rung: Rung,
    recent: Sequence[Judged],
    ahead: Ahead | None = None,
    odds_next: float | None = None,
    cures: Mapping[str, str] | None = None,
) -> list[str]:
    """recent: the last judged days with their sets, the latest last; cures: fault -> cue."""
    if not recent:
        return []
    latest = recent[-1]
    lines = [
        _verdict(rung, latest),
        *_weakest(rung, latest),
        *_fault(recent[-RECENT:], cures or {}),
    ]
    return [*lines, *_course(rung, latest), *_ahead(ahead, odds_next)]


def _verdict(rung: Rung, judged: Judged) -> str:
    score = score_words(rung.measure, judged.score)
    word = judged.verdict.value.capitalize()
    if judged.verdict is Verdict.PASS:
        return f"{word}: {score}, target met."
    if judged.verdict is Verdict.SHORT:
        return f"{word}: part of the dose, {score}."
    if judged.verdict is Verdict.LOW:
        return f"{word}: {score}, under the floor of {score_words(rung.measure, rung.floor)}."
    return f"{word}: {score}, {', '.join(_why_near(rung, judged))}."


def _why_near(rung: Rung, judged: Judged) -> Iterator[str]:
    """Why a day that was done whole is no pass: the target first, then what was seen."""
    target, day = rung.target, judged.day
    yield "target not met" if lacks(rung, day) else "target met"
    if day.eased:
        yield "in the eased variant"
    if target.form_min is not None:
        yield from _form(day.form, target.form_min)
    if target.faults_max is None:
        return
    faults = sum(s.fault_total for s in day.sets)
    if not faults_counted(day):
        yield "faults not counted"
    elif faults > target.faults_max:
        yield f"{faults} faults, at most {target.faults_max}"


def _form(form: float | None, need: float) -> Iterator[str]:
    if form is None:
        yield "form not seen"
    elif not at_least(form, need):
        yield f"form {percent(form)} of {percent(need)}"


def _weakest(rung: Rung, judged: Judged) -> Iterator[str]:
    if len(rung.lanes) < 2 or not rung.measure.counts_makes:
        return
    made = {lane: made_of([s for s in judged.day.sets if s.lane == lane]) for lane in rung.lanes}
    rates = {lane: makes / tried for lane, (tried, makes) in made.items() if tried}
    if len(rates) < 2 or len(set(rates.values())) == 1:
        return
    weakest = min(rates, key=lambda lane: rates[lane])
    tried, makes = made[weakest]
    yield f"Weakest: {weakest}, {makes} of {tried}."


def _fault(recent: Sequence[Judged], cures: Mapping[str, str]) -> Iterator[str]:
    misses = [
        Misses(attempts - makes, faults_by_name(s.faults for s in day.day.sets))
        for day in recent
        for attempts, makes in [made_of(day.day.sets)]
    ]
    ranking = ranked(misses)
    if not ranking:
        return
    of = "this session" if len(recent) == 1 else f"the last {len(recent)} sessions"
    cure = cures.get(ranking[0].fault, "")
    say = f" Say “{cure}”." if cure else ""
    yield f"Commonest fault in {of}: {ranking[0].fault}, {ranking[0].count} times.{say}"


def _course(rung: Rung, judged: Judged) -> Iterator[str]:
    if rung.success is None or judged.score is None or not judged.full:
        return
    course = on_course(judged.score, rung.success, rung.measure.higher_is_better)
    yield f"{course.value.capitalize()}: {band_words(rung.measure, rung.success)} is expected here."


def _ahead(ahead: Ahead | None, odds_next: float | None) -> Iterator[str]:
    if ahead is None:
        return
    if ahead.kind in WAITS:
        yield f"{WAITS[ahead.kind]}."
    elif ahead.missing:
        yield f"Missing: {'; '.join(missing_text(one) for one in ahead.missing)}."
    if odds_next is not None and ahead.kind is Kind.HOLD:
        yield f"Chance that the next session completes it: {percent(odds_next)}."
