"""A coach's own decisions: their calls, any rule replayed on the club's record, whether forecasts
were right, whether a ladder is well stepped.
"""

from dataclasses import replace

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, render

from drill_ladder.apps.library.models import Ladder, Rung
from drill_ladder.apps.library.rules import first_values
from drill_ladder.apps.people.access import coach_required
from drill_ladder.apps.people.models import Membership, Squad
from drill_ladder.apps.progress.decisions.record import (
    Ledger,
    forecasts_of,
    ledger_of,
    past_stays,
    rung_stays,
)
from drill_ladder.apps.progress.panels import Panel, learnt_panel
from drill_ladder.charts import rates as rates_chart
from drill_ladder.core.judging import (
    PRODUCT,
    ByCoach,
    Evidence,
    InARow,
    Rule,
    School,
    Window,
)
from drill_ladder.core.looking_back import (
    ENOUGH,
    Back,
    Backtest,
    Calibration,
    Flag,
    LadderHealth,
    RungHealth,
    Skill,
    backtest,
    calibration_of,
    health_of,
    median_time,
    skill_of,
)
from drill_ladder.formats.words import many, percent, rule_sentence
from drill_ladder.ui.fields import FormValues

FEWEST_CLIMBS = 10  # followed and overruled each, before they are compared
FEWEST = 8  # finished stays before other rules are compared on them
FLAGS = {
    Flag.CLIFF: ("A cliff", "the step is too big: put a half-step below it"),
    Flag.NO_STEP: ("No step", "most climb at once: merge it with the one below"),
    Flag.WALL: ("A wall", "half of those here take twice as long as on the ladder: look at them"),
    Flag.TOO_FEW: ("Too few", "under eight stays: nothing can be said yet"),
}


@coach_required
def own_decisions(request: HttpRequest, member: Membership) -> HttpResponse:
    """The coach's own calls and the club's forecasts."""
    context = {
        "calls": ledger_panel(ledger_of(member)),
        "forecasts": calibration_panel(forecasts_of(member.club)),
        "ladders": Ladder.objects.of_club(member.club).in_use().with_any_rung(),
    }
    return render(request, "progress/own_decisions.html", context)


def ledger_panel(ledger: Ledger) -> Panel:
    """Followed, overruled, moved by hand; and of the rule's climbs, what came of both."""
    title = "Your calls"
    if not ledger.calls:
        return Panel("ledger", title, ["You have decided nothing yet."])
    lines = [f"{many(ledger.calls.total(), 'call')} of yours stand.", *_climb_lines(ledger)]
    rows = [[f"{kind}, {how}", f"{n}"] for (kind, how), n in sorted(ledger.calls.items())]
    return Panel("ledger", title, lines, "", ["Call", "Times"], rows)


def _climb_lines(ledger: Ledger) -> list[str]:
    """From a proposed climb to passing the rung it leads to: the same rung for both."""
    followed, overruled = ledger.climbs.get("followed", []), ledger.climbs.get("overruled", [])
    if not followed and not overruled:
        return []
    if min(len(followed), len(overruled)) < FEWEST_CLIMBS:
        return [
            f"Of the rule’s climbs you followed {len(followed)} and overruled {len(overruled)}: "
            f"what came of them is compared from {FEWEST_CLIMBS} of each."
        ]
    return [
        "From the rule’s proposal to climb until the rung it led to was passed, half took "
        f"{_half(followed)} where you followed it and {_half(overruled)} where you did not.",
        "Whom one overrules is chosen, and no table mends that: it says what came, not why.",
    ]


def _half(times: list[tuple[int, bool]]) -> str:
    median = median_time(times)
    if median.value is None:
        return "longer than anybody has been seen"
    until = "more" if median.high is None else f"{median.high}"
    return f"{many(median.value, 'full session')} ({median.low or 0} to {until})"


def calibration_panel(forecasts: list[tuple[float, bool]]) -> Panel:
    """Did 40 % mean four in ten?"""
    calibration: Calibration = calibration_of(forecasts)
    title = "Were the forecasts right?"
    if calibration.brier is None or calibration.brier_base is None:
        return Panel("forecasts", title, ["No forecast has come to its day yet."])
    skill = skill_of(forecasts)
    lines = [
        f"{many(calibration.n, 'forecast')} of “the next session completes the climb”, each "
        f"beside the very next full session: {_skill_words(skill)}.",
        f"Brier score {calibration.brier:.3f}, against {calibration.brier_base:.3f} for always "
        "saying the overall share (0 is perfect).",
    ]
    if skill.certain:
        times = many(skill.certain, "time")
        lines.append(f"{times} it was certain, and right {skill.right} of them.")
    drawn = [
        rates_chart.Rate(
            f"said {percent(one.mean_p)}", one.share, one.low, one.high, many(one.n, "time")
        )
        for one in calibration.bins
    ]
    rows = [
        [
            f"{percent(one.from_)} to {percent(one.to)}",
            f"{one.n}",
            percent(one.mean_p),
            percent(one.share),
            f"{percent(one.low)} to {percent(one.high)}",
        ]
        for one in calibration.bins
    ]
    head = ["Said between", "Times", "Said on average", "Happened", "95 %"]
    return Panel("forecasts", title, lines, rates_chart.rates(drawn, lines[0]), head, rows)


def _skill_words(skill: Skill) -> str:
    """Better only where it can be told."""
    if skill.uncertain < ENOUGH:
        return f"too early to say, {skill.uncertain} of {ENOUGH} were uncertain ones"
    if skill.better:
        return "they tell more than always saying the overall share"
    return "not surely better than always saying the overall share"


def schools_to_try(rung: Rung) -> list[School]:
    """The usual ones; evidence where good ones are counted."""
    schools: list[School] = [InARow(1), InARow(2), InARow(3), Window(2, 3), Window(3, 4)]
    return schools + ([Evidence(0.9, 3)] if rung.core.counts_makes else [])


@coach_required
def replay(request: HttpRequest, member: Membership, pk: int, position: int) -> HttpResponse:
    """The usual rules, and the one in force, replayed on everybody who was on a rung."""
    rung = get_object_or_404(Rung.objects.at(member.club.pk, pk, position))
    base = rung.rule or rung.ladder.rule
    rules = [_with(base, school) for school in schools_to_try(rung)]
    if not isinstance(base.school, ByCoach) and base not in rules:
        rules.insert(0, base)
    stays = past_stays(rung.ladder, rung)
    replayed = backtest(rung.core, rules, stays, PRODUCT)
    lines = [
        (_said(rule, base), one, _backs(one), _taken_by(rule, base, rung.ladder, member))
        for rule, one in zip(rules, replayed, strict=True)
    ]
    up = sum(stay.moved == "up" for stay in stays)
    context = {"rung": rung, "lines": lines, "stays": len(stays), "up": up, "fewest": FEWEST}
    return render(request, "progress/replay.html", context)


def _taken_by(rule: Rule, base: Rule, ladder: Ladder, member: Membership) -> FormValues:
    """What the odds page's form is sent to take a rule; nothing for the one in force."""
    return {} if rule == base else first_values(rule, ladder.revision) | member.marks


def _with(base: Rule, school: School) -> Rule:
    return replace(base, school=school)


def _said(rule: Rule, base: Rule) -> str:
    return rule_sentence(rule) + (" (in force)" if rule == base else "")


def _backs(one: Backtest) -> tuple[str, str]:
    return _back(one.back_if_moved), _back(one.back_if_waited)


def _back(back: Back) -> str:
    return f"{back.n} of {back.of}" if back.of else "none known"


@coach_required
def health(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """What the record says of a ladder: what its rule will do, how it is stepped, how other
    rules would have done, a season ahead. Each part is closed while its data are too few.
    """
    ladders = Ladder.objects.of_club(member.club).with_rungs()
    ladder = get_object_or_404(ladders, pk=pk)
    rungs = list(ladder.rungs.all())
    stepped = health_of([str(rung.position) for rung in rungs], rung_stays(ladder))
    lines = [
        (rung, one, [FLAGS[flag] for flag in one.flags], max(0, FEWEST - one.stays))
        for rung, one in zip(rungs, stepped.rungs, strict=True)
    ]
    squads = Squad.objects.of_club(member.club).climbing(ladder)
    panels = [health_panel(stepped, rungs), learnt_panel(ladder, rungs)]
    context = {"ladder": ladder, "lines": lines, "panels": panels}
    context |= {"squads": squads, "fewest": FEWEST}
    return render(request, "progress/health.html", context)


def health_panel(found: LadderHealth, rungs: list[Rung]) -> Panel:
    """How much each rung adds, and how long it takes."""
    named = {str(rung.position): f"{rung.position}. {rung.title}" for rung in rungs}
    bad = [storey for storey in found.rungs if set(storey.flags) - {Flag.TOO_FEW}]
    enough = [storey for storey in found.rungs if Flag.TOO_FEW not in storey.flags]
    if not enough:
        line = "Too early to say: under eight stays on every rung."
    elif bad:
        line = f"{many(len(bad), 'rung')} to look at: {', '.join(named[b.rung] for b in bad)}."
    else:
        line = f"Well stepped, as far as {many(len(enough), 'rung')} with enough stays tell."
    rows = [[named[storey.rung], *_numbers(storey)] for storey in found.rungs]
    head = ["Rung", "Stays", "Half climb within", "Ever climb", "Step from below", "95 %"]
    half = "" if found.median is None else f"On the whole ladder half climb within {found.median}."
    return Panel("health", "Is it well stepped?", [line, *([half] if half else [])], "", head, rows)


def _numbers(one: RungHealth) -> list[str]:
    between = ""
    if one.low is not None and one.high is not None:
        between = f"{100 * one.low:.0f} to {100 * one.high:.0f}"
    return [
        f"{one.stays}",
        "not reached" if one.median is None else many(one.median, "session"),
        "" if one.up_share is None else percent(one.up_share),
        "" if one.step is None else f"{100 * one.step:.0f} points ({many(one.pairs, 'player')})",
        between,
    ]
