"""Why does it say that? The decision at a rung, step by step in the order in which it is decided,
with this player's own numbers in it.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from scipy.special import expit

from drill_ladder.apps.practice.judged import counted_rows, decide_stay, extra_of, knowing
from drill_ladder.apps.practice.learning import form_of
from drill_ladder.apps.practice.models import JudgedDay
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.judging import (
    Decision,
    Kind,
    Lacking,
    Measure,
    Standing,
    Verdict,
    posteriors,
)
from drill_ladder.formats.measures import score_words
from drill_ladder.formats.rung_words import dose_words, target_words
from drill_ladder.formats.sentences import missing_text, one_in
from drill_ladder.formats.words import many, percent, rule_sentence

SHOWN = 8
# the step at which each proposal is made
STEP = {
    Kind.REST: 0,
    Kind.RECHECK: 1,
    Kind.WAIT: 2,
    Kind.SKIP: 3,
    Kind.CLIMB: 4,
    Kind.FINISH: 4,
    Kind.CHECK: 4,
    Kind.EASE: 5,
    Kind.STEP_DOWN: 5,
    Kind.STALLED: 6,
    Kind.HOLD: 7,
}


@dataclass(frozen=True, slots=True)
class Step:
    """A question of the order. answer: with the player's numbers; state: no, yes or later (not
    asked any more).
    """

    question: str
    answer: str
    state: str


@dataclass(frozen=True, slots=True)
class Why:
    """The decision of a day with everything behind it. rows: day, score, mark, verdict, seen by."""

    decision: Decision
    asked: list[str]
    rows: list[tuple[date, str, str, str]]
    more: int
    steps: list[Step]
    odds: list[str]

    @property
    def word(self) -> str:
        """What was decided, in small letters."""
        return self.decision.kind.value.replace("_", " ")


def why_of(stay: Stay, today: date) -> Why:
    """As it would be decided now."""
    rows = counted_rows(stay)
    decision = decide_stay(stay, today, rows=rows)
    full = [row for row in rows if row.verdict != Verdict.SHORT]
    measure = stay.terms.rung.measure
    return Why(
        decision,
        _asked(stay),
        [_row(row, measure) for row in rows[-SHOWN:][::-1]],
        max(0, len(rows) - SHOWN),
        _steps(stay, decision, full, rows, today),
        _odds(stay, decision, rows, full),
    )


def _asked(stay: Stay) -> list[str]:
    rung = stay.terms.rung
    lines = [f"Dose: {dose_words(rung)}.", f"Target: {target_words(rung)}."]
    if rung.counts_makes and rung.default_attempts:
        n, each = rung.default_attempts, " in each lane" if rung.target.each_lane else ""
        lines.append(f"Of {n} attempts that is at least {rung.target.makes_needed(n)}{each}.")
    return [*lines, f"Rule: {rule_sentence(stay.terms.rule)}"]


def _row(row: JudgedDay, measure: Measure) -> tuple[date, str, str, str]:
    lanes = ", ".join(
        f"{lane} {score_words(measure, score)}" for lane, score in row.lanes.items() if lane
    )
    score = score_words(measure, row.score)
    words = row.verdict + (", easier" if row.eased else "")
    return row.on, f"{score} ({lanes})" if lanes else score, words, row.get_observer_display()


def _steps(
    stay: Stay, decision: Decision, full: Sequence[JudgedDay], rows: Sequence[JudgedDay], on: date
) -> list[Step]:
    taken = STEP[decision.kind]
    asked = [
        ("Is a stop open?", _stop(decision)),
        ("Away too long?", _away(stay, on)),
        ("Is a whole dose still missing here?", f"{many(len(full), 'full day')} here."),
        ("So good at the first time that a rung may be jumped?", _jump(stay, full)),
        ("Is the rule met?", _met(decision)),
        ("Low several times running?", _low(stay, full)),
        ("Stuck?", _stuck(stay, full, rows)),
        ("None of these: hold, and go on.", ""),
    ]
    states = ["no"] * taken + ["yes"] + ["later"] * (len(asked) - taken - 1)
    return [Step(*pair, state) for pair, state in zip(asked, states, strict=True)]


def _stop(decision: Decision) -> str:
    return "A stop is open." if decision.kind is Kind.REST else "None is open."


def _away(stay: Stay, on: date) -> str:
    limit, last = stay.terms.rule.layoff_days, stay.prescription.last_on
    if limit is None:
        return "The rule asks for no check after time away."
    if last is None:
        return "Nothing was done on this ladder yet."
    return f"Last time {many((on - last).days, 'day')} ago; the limit is {limit}."


def _jump(stay: Stay, full: Sequence[JudgedDay]) -> str:
    mark = stay.terms.rule.skip_at
    if mark is None:
        return "The rule lets nobody jump."
    if len(full) != 1:
        return f"Only after the first full day; there are {len(full)}."
    return f"From {percent(mark)} on: it was {percent(full[0].score or 0)}."


def _met(decision: Decision) -> str:
    if decision.kind in (Kind.CLIMB, Kind.FINISH):
        return "All of it is there."
    if decision.kind is Kind.CHECK:
        return "All but one thing: a coach or a device has not seen it."
    lacking = [m for m in decision.missing if m.code is not Lacking.DOSE]
    words = "; ".join(missing_text(lack) for lack in lacking)
    return f"Missing: {words}." if words else "Not yet."


def _low(stay: Stay, full: Sequence[JudgedDay]) -> str:
    wanted = stay.terms.rule.low_in_a_row
    run = 0
    for row in reversed(full):
        if row.verdict != Verdict.LOW:
            break
        run += 1
    return f"{many(run, 'low day')} running; from {wanted} on something is done about it."


def _stuck(stay: Stay, full: Sequence[JudgedDay], rows: Sequence[JudgedDay]) -> str:
    limit = stay.terms.rule.stall_after
    if limit is None:
        return "The rule never asks."
    if len(full) < limit:
        return f"Asked from {many(limit, 'full day')} on; there are {len(full)}."
    chance = knowing(stay, rows).outlook
    if chance is None:
        return "By whether scores rise: the club’s record is too short for more."
    return f"The chance to climb within six full sessions: {one_in(chance)}; stuck is under 1 in 4."


def _odds(
    stay: Stay, decision: Decision, rows: Sequence[JudgedDay], full: Sequence[JudgedDay]
) -> list[str]:
    """What stands behind the chance that the next session completes the climb."""
    if decision.odds_next is None:
        return []
    rung, spread = stay.terms.rung, stay.club.day_spread
    n = rung.default_attempts
    said = f"The next session completes the climb: {percent(decision.odds_next)}."
    if decision.odds_next == 0:
        return [said, "One more pass alone would not be enough."]
    form = form_of(stay, full)
    if form is not None:
        low, middle, high = (
            percent(float(expit(form.mean + z * form.sd))) for z in (-1.28, 0.0, 1.28)
        )
        return [
            said,
            f"By what players here learn: about {middle} good next time, {low} to {high} in eight "
            f"of ten cases; log-odds {form.mean:.2f}, give or take {form.sd:.2f}. On a day it "
            f"differs from that by a day spread of {spread:.2f}. Over all of that the mean of the "
            f"chance of enough good ones in {n} attempts.",
        ]
    standing = Standing.of(
        rung, stay.terms.rule, [row.value for row in rows], extra_of(rows), spread
    )
    return [said, *(_counted(lane, a, b, n) for lane, (a, b) in posteriors(standing).items())]


def _counted(lane: str | None, a: float, b: float, n: int) -> str:
    where = f"{lane}: " if lane else ""
    return (
        f"{where}{a:.1f} good and {b:.1f} missed (half of each to begin with, older days counting "
        f"less), so about {percent(a / (a + b))} good; the chance of enough good ones in {n} "
        "attempts is the beta-binomial’s."
    )
