"""What a coach should see beside a rung before any child is judged by it: warnings, and what its
rule will do.
"""

from dataclasses import dataclass, replace
from typing import Any

from drill_ladder.apps.library.ladders.rung_form import RungForm
from drill_ladder.apps.library.ladders.services import RungInput
from drill_ladder.apps.library.rules import Marks, marks_at, risks
from drill_ladder.core.judging import Rule, Rung
from drill_ladder.core.odds import binom_tail
from drill_ladder.core.plans import Plan, implausible, leg_lengths, mean_speed
from drill_ladder.formats.documents import PLAN, RUNG
from drill_ladder.formats.rung_words import rest_lines
from drill_ladder.formats.sentences import plain
from drill_ladder.formats.words import number_word

TRUE_RATE, RARE = 0.8, 0.2


@dataclass(frozen=True, slots=True)
class Notes:
    """What to say beside a row: warnings; the odds as a sentence with a small drawing; none: why
    there are no odds.
    """

    lines: list[str]
    odds: str = ""
    svg: str = ""
    none: str = ""


def notes(form: RungForm, rule: Rule, marks: Marks) -> Notes:
    """Warnings and odds of a row as it is typed; little where the row cannot be read."""
    two = bool(form["axis"].value() and form["also"].value())
    lines = ["Two things change at once: nobody will know which one was too hard."] if two else []
    typed = _typed(form)
    if typed is None:
        return Notes(lines)
    core, plan = typed.core, typed.plan or typed.drill.plan
    lines += (
        rest_lines(core) + _unreachable(core) + _impossible(core, plan.metres if plan else None)
    )
    return _odds(Notes(lines), core, core.rule or rule, marks)


def _typed(form: RungForm) -> RungInput | None:
    """The row as a rung, if it can be read as it stands (a name may come later)."""
    if not form.is_bound:
        typed = {form.add_prefix(name): _posted(form[name].value()) for name in form.fields}
        form = RungForm(typed, prefix=form.prefix, drills=form.drills, base=form.base)
    form.is_valid()
    if set(form.errors) - {"title"} or "drill" not in form.cleaned_data:
        return None
    form.cleaned_data.setdefault("title", "this rung")
    # without a name the form has not looked at the terms yet
    plan = form.cleaned_data["plan"]
    unread = RUNG.faults_of(form.core()) or (PLAN.faults(plan, stored=True) if plan else [])
    return None if unread else form.rung()


def _posted(value: Any) -> Any:
    return "" if value is None or value is False else value


def _unreachable(terms: Rung) -> list[str]:
    """A target that even a good player rarely meets: nine of nine at a true 80 % is 13 %. Where the
    rung says what is expected, good is its upper end.
    """
    attempts = terms.default_attempts
    if not terms.counts_makes or not 0 < attempts <= 10_000:
        return []
    lanes = len(terms.lanes) if terms.target.each_lane else 1
    rate = terms.success[1] if terms.success else TRUE_RATE
    chance = binom_tail(attempts, terms.target.makes_needed(attempts), rate) ** lanes
    if chance >= RARE:
        return []
    where = f", {number_word(lanes)} lanes together," if lanes > 1 else ""
    return [
        f"A player at a true {rate * 100:.0f}\u00a0%{where} passes here in "
        f"{chance * 100:.0f}\u00a0% of the sessions."
    ]


def _impossible(rung: Rung, plan: Plan | None) -> list[str]:
    """A target time that nobody can run. plan: in metres."""
    seconds = rung.target.value
    if not rung.measure.is_timed or plan is None or not seconds:
        return []
    if not plan.legs or not implausible(plan, seconds):
        return []
    path = plain(round(sum(leg_lengths(plan)), 1))
    speed = plain(round(mean_speed(plan, seconds), 1))
    return [
        f"{path}\u00a0m in {plain(seconds)}\u00a0s is {speed}\u00a0m/s: nobody is that fast. Is "
        "the time right?"
    ]


def _odds(said: Notes, terms: Rung, rule: Rule, marks: Marks) -> Notes:
    risk, marks = risks(terms, rule, marks), marks_at(terms, marks)
    if risk is None:
        none = "No odds here: they are for rungs that count good ones."
        return said if terms.counts_makes else replace(said, none=none)
    words = (
        f"Within {number_word(marks.horizon)} sessions: {risk.soon * 100:.0f}\u00a0% of those at "
        "a true "
        f"{marks.not_ready * 100:.0f}\u00a0% are moved up too soon, {risk.back * 100:.0f}\u00a0% "
        "of those at "
        f"{marks.ready * 100:.0f}\u00a0% are kept back."
    )
    return replace(said, odds=words, svg=risk.svg)
