"""A term in advance, for the coach who plans it."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import timedelta

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, render
from django.urls import reverse

from drill_ladder.apps.library.models import Ladder, Rung
from drill_ladder.apps.library.rules import NAMES, USUAL
from drill_ladder.apps.people.access import coach_required
from drill_ladder.apps.people.models import Membership, Player, Squad
from drill_ladder.apps.progress.decisions import Went, how_they_went
from drill_ladder.apps.progress.panels import Panel, file_of
from drill_ladder.apps.progress.season.term import (
    FEWEST,
    Hindsight,
    Start,
    Term,
    Wish,
    assumptions,
    hindsight_of,
    may_try,
    simulated,
    start_of,
    steepest,
)
from drill_ladder.charts.fan import Week, fan
from drill_ladder.formats.reading import whole
from drill_ladder.formats.words import many

WEEKS, MOST_WEEKS = 12, 40
TRIED = ("one_pass", "in_a_row", "window", "evidence")


@dataclass(frozen=True, slots=True)
class Asked:
    """What a page is asked for. through: the place that counts as through, from 0."""

    squad: Squad
    ladders: list[Ladder]
    ladder: Ladder | None
    rungs: list[Rung]
    weeks: int
    through: int


@coach_required
def term(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """?ladder=ID, ?weeks=1 to 40, ?through=the rung that counts."""
    asked = _asked(request, member, pk)
    panels: list[Panel] = []
    start = None
    if asked.ladder is not None:
        start, past = _simulated_from(member, asked)
        if start.enough:
            panels = _panels(start, past, asked)
    context = {
        "asked": asked,
        "panels": panels,
        "start": start,
        "fewest": FEWEST,
        "goes_by": assumptions(start) if start and start.enough else [],
        "files": reverse("progress:term", args=[pk]),
        "address": request.GET.urlencode(),
    }
    return render(request, "progress/term.html", context)


@coach_required
def term_file(
    request: HttpRequest, member: Membership, pk: int, key: str, kind: str
) -> HttpResponse:
    """One panel's picture as svg, or its numbers as csv or xlsx."""
    asked = _asked(request, member, pk)
    if asked.ladder is None:
        raise Http404
    start, past = _simulated_from(member, asked)
    panels = _panels(start, past, asked) if start.enough else []
    return file_of(panels, key, kind, f"term-{key}-{pk}-{start.day}")


def _asked(request: HttpRequest, member: Membership, pk: int) -> Asked:
    squad = get_object_or_404(Squad.objects.of_club(member.club), pk=pk)
    ladders = list(Ladder.objects.of_club(member.club).climbed_by(squad.pk))
    wanted = whole(request.GET.get("ladder", ""))
    ladder = next((one for one in ladders if one.pk == wanted), next(iter(ladders), None))
    rungs = list(ladder.rungs.all()) if ladder else []
    weeks = min(MOST_WEEKS, max(1, whole(request.GET.get("weeks", "")) or WEEKS))
    through = whole(request.GET.get("through", "")) or len(rungs)
    return Asked(squad, ladders, ladder, rungs, weeks, min(max(1, through), len(rungs)))


def _simulated_from(member: Membership, asked: Asked) -> tuple[Start, Hindsight | None]:
    if asked.ladder is None:
        raise Http404
    today = member.club.today()
    players = list(Player.objects.of_club(member.club).of_squad(asked.squad.pk))
    went = how_they_went(asked.ladder)
    spread = member.club.day_spread
    start = start_of(asked.ladder, asked.rungs, players, went, today, spread)
    return start, _hindsight(start, players, went, asked)


def _hindsight(
    start: Start, players: list[Player], went: list[Went], asked: Asked
) -> Hindsight | None:
    """As far back as was asked for; where too little was known then, half as far, or a third."""
    for weeks in sorted({asked.weeks, -(-asked.weeks // 2), -(-asked.weeks // 3)}, reverse=True):
        day = start.day - timedelta(weeks=weeks)
        then = start_of(start.ladder, asked.rungs, players, went, day, start.day_spread)
        if then.enough:
            return hindsight_of(then, weeks, went, start.day)
    return None


def _panels(start: Start, past: Hindsight | None, asked: Asked) -> list[Panel]:
    now = simulated(start, Wish(asked.weeks))
    return [
        _through(now, asked),
        _players(now, asked),
        _changes(start, now, asked),
        _past(past),
    ]


def _through(term: Term, asked: Asked) -> Panel:
    """How many are through by when."""
    of, title = len(term.start.starters), asked.rungs[asked.through - 1].title
    low, middle, high = term.through_by(asked.through, term.weeks)
    end = term.start.day + timedelta(weeks=term.weeks)
    lines = [
        f"By {end:%-d %B} {_band(low, high)} of {of} are through rung {asked.through}, “{title}”, "
        f"most likely {middle}.",
        "Eight of ten simulated terms lie within the band.",
    ]
    weeks = [Week(n, *term.through_by(asked.through, n)) for n in range(term.weeks + 1)]
    rows = [[f"{w.week}", f"{w.low}", f"{w.middle}", f"{w.high}"] for w in weeks]
    head = ["Week", "10 %", "Most likely", "90 %"]
    return Panel(
        "through", "How many will be through?", lines, fan(weeks, of, lines[0]), head, rows
    )


def _players(term: Term, asked: Asked) -> Panel:
    """Each player's next rung and where they will stand; by name, nobody before anybody."""
    rows = []
    for row, one in enumerate(term.start.starters):
        low, middle, high = term.at_end(row)
        rows.append(
            [
                one.player.name,
                f"{one.at + 1}",
                _days(term.days_to(row, one.at + 1)),
                _places(low, high, asked),
                _place(middle, asked),
                _days(term.days_to(row, len(asked.rungs))),
            ]
        )
    low, middle, high = term.climbs()
    lines = [
        f"Between them {_band(low, high)} climbs in {many(term.weeks, 'week')}, "
        f"most likely {middle}.",
        "Days are given as eight of ten simulated terms have them, the most likely in brackets.",
    ]
    head = ["Player", "On rung", "Next rung in days", "Then on rung", "Most likely", "Top in days"]
    return Panel("players", "Where will everybody stand?", lines, "", head, rows, open=True)


def _place(place: int, asked: Asked) -> str:
    return "top" if place >= len(asked.rungs) else f"{place + 1}"


def _places(low: int, high: int, asked: Asked) -> str:
    first, last = _place(low, asked), _place(high, asked)
    return first if first == last else f"{first} to {last}"


def _band(low: int, high: int) -> str:
    return f"{low}" if low == high else f"{low} to {high}"


def _days(days: Sequence[int | None]) -> str:
    """A band of days, or that it is not reached."""
    low, middle, high = days
    if low is None:
        return "not in this time"
    if middle is None:
        return f"{low} or more, or not in this time"
    return f"{low} to {'more' if high is None else high} ({middle})"


def _changes(start: Start, now: Term, asked: Asked) -> Panel:
    """What another rule, one more session a week or a half-step would change."""
    wishes = [("As it is", now)]
    for name in TRIED:
        if may_try(start, name) and not all(
            storey.rule.school == USUAL[name] for storey in start.storeys
        ):
            wish = Wish(asked.weeks, school=name)
            wishes.append((f"Rule: {NAMES[name].lower()}", simulated(start, wish)))
    wishes.append(("One more session a week", simulated(start, Wish(asked.weeks, more=1))))
    step = steepest(start)
    if step is not None:
        words = f"A half-step below rung {step}"
        wishes.append((words, simulated(start, Wish(asked.weeks, half=step))))
    rows = []
    for words, one in wishes:
        low, middle, high = one.through_by(asked.through, asked.weeks)
        first, likely, last = one.climbs()
        rows.append([words, f"{middle}", _band(low, high), f"{likely}", _band(first, last)])
    lines = [
        f"Each line simulates the same {many(asked.weeks, 'week')} with the same luck, and changes "
        "one thing.",
        "A rule that moves people on sooner does not teach them more: look at who comes back.",
    ]
    head = ["What changes", "Through, most likely", "80 %", "Climbs, most likely", "80 %"]
    return Panel("changes", "What would change it?", lines, "", head, rows, open=True)


def _past(past: Hindsight | None) -> Panel:
    """What the same would have said of today."""
    title = "Would it have been right?"
    if past is None:
        return Panel("past", title, ["Some weeks ago too little was known to ask it."])
    low, middle, high = past.climbs
    fits = low <= past.really <= high
    lines = [
        f"Simulated from {past.day:%-d %B} it would have said {_band(low, high)} climbs until "
        f"today; there were {past.really}: {'within' if fits else 'outside'} its band.",
        f"{past.inside} of {many(past.of, 'player')} stand where their own band said; "
        "eight of ten should.",
    ]
    rows = [
        ["Climbs", _band(low, high), f"{middle}", f"{past.really}"],
        ["Players inside their band", "", f"{round(0.8 * past.of)}", f"{past.inside} of {past.of}"],
    ]
    return Panel("past", title, lines, "", ["", "80 %", "Said", "Happened"], rows, open=True)
