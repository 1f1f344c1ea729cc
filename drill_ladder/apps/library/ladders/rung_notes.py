"""What a coach should see beside a rung before any child is judged by it: warnings, and what its rule will do."""

from typing import Any

from drill_ladder.apps.library.ladders.rung_form import RungForm
from drill_ladder.apps.library.models import Rung
from drill_ladder.apps.library.rules.odds import Marks, risks
from drill_ladder.core.floor import implausible, leg_lengths, mean_speed
from drill_ladder.core.judging import Rule, Time
from drill_ladder.core.judging import Rung as CoreRung
from drill_ladder.core.odds import binom_tail
from drill_ladder.core.planning import Intent, warnings
from drill_ladder.formats.documents import part_faults, plan_faults, plan_from, rule_from, rung_from
from drill_ladder.formats.sentences import plain, warning_text
from drill_ladder.formats.words import number_word

TRUE_RATE, RARE = 0.8, 0.2


def notes(form: RungForm, rule: Rule, marks: Marks) -> dict[str, Any]:
    """Warnings as sentences, and the odds as a sentence with a small drawing; empty where the row cannot be read."""
    found: dict[str, Any] = {"lines": [], "odds": "", "svg": ""}
    if form["axis"].value() and form["also"].value():
        found["lines"].append("Two things change at once: nobody will know which one was too hard.")
    rung = _typed(form)
    if rung is None:
        return found
    terms = rung_from(rung.document())
    found["lines"] += _rest(rung, terms) + _unreachable(terms) + _impossible(rung, terms)
    return found | _odds(terms, rule_from(rung.rule) if rung.rule else rule, marks)


def _typed(form: RungForm) -> Rung | None:
    """The row as a rung, if it can be read as it stands (a name may come later)."""
    if not form.is_bound:
        typed = {form.add_prefix(name): _posted(form[name].value()) for name in form.fields}
        form = RungForm(typed, prefix=form.prefix, drills=form.drills, base=form.base)
    form.is_valid()
    if set(form.errors) - {"title"} or "drill" not in form.cleaned_data:
        return None
    form.cleaned_data.setdefault("title", "this rung")
    rung = Rung(drill=form.cleaned_data["drill"], **form.values())
    # without a name the form has not looked at the terms yet
    unread = part_faults("rung", rung.document()) or (plan_faults(rung.plan) if rung.plan else [])
    return None if unread else rung


def _posted(value: Any) -> Any:
    return "" if value is None or value is False else value


def _rest(rung: Rung, terms: CoreRung) -> list[str]:
    """Intent against sets and rest."""
    sets, rest_s = terms.dose.sets, terms.dose.rest_s
    return [warning_text(code, sets, rest_s) for code in warnings(Intent(rung.intent), sets, rest_s)]


def _unreachable(terms: CoreRung) -> list[str]:
    """A target that even a good player rarely meets: nine of nine at a true 80 % is 13 %."""
    attempts = terms.default_attempts
    if not terms.counts_makes or not 0 < attempts <= 10_000:
        return []
    lanes = len(terms.lanes) if terms.target.each_lane else 1
    chance = binom_tail(attempts, terms.target.makes_needed(attempts), TRUE_RATE) ** lanes
    if chance >= RARE:
        return []
    where = f", {number_word(lanes)} lanes together," if lanes > 1 else ""
    return [f"A player at a true 80\u00a0%{where} passes here in {chance * 100:.0f}\u00a0% of the sessions."]


def _impossible(rung: Rung, terms: CoreRung) -> list[str]:
    """A target time that nobody can run."""
    if not isinstance(terms.measure, Time) or rung.floor_plan is None or not terms.target.value:
        return []
    plan, seconds = plan_from(rung.floor_plan)[0], terms.target.value
    if not plan.legs or not implausible(plan, seconds):
        return []
    path = plain(round(sum(leg_lengths(plan)), 1))
    speed = plain(round(mean_speed(plan, seconds), 1))
    return [f"{path}\u00a0m in {plain(seconds)}\u00a0s is {speed}\u00a0m/s: nobody is that fast. Is the time right?"]


def _odds(terms: CoreRung, rule: Rule, marks: Marks) -> dict[str, Any]:
    found = risks(terms, rule, marks)
    if found is None:
        return {} if terms.counts_makes else {"none": "No odds here: they are for rungs that count good ones."}
    words = (
        f"Within {number_word(marks.horizon)} sessions: {found.soon * 100:.0f}\u00a0% of those at a true "
        f"{marks.not_ready * 100:.0f}\u00a0% are moved up too soon, {found.back * 100:.0f}\u00a0% of those at "
        f"{marks.ready * 100:.0f}\u00a0% are kept back."
    )
    return {"odds": words, "svg": found.svg}
