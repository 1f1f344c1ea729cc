"""Prescribing."""

from dataclasses import dataclass
from datetime import date

from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_POST

from drill_ladder.apps.history.once import once
from drill_ladder.apps.library.ladders import rung_lines
from drill_ladder.apps.library.models import Ladder, Rung
from drill_ladder.apps.people.access import coach_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player, Squad
from drill_ladder.apps.prescriptions.forms import FocusForm, PrescribeForm, SquadForm
from drill_ladder.apps.prescriptions.minutes import REVIEW, asked_minutes, minutes, wanted_of
from drill_ladder.apps.prescriptions.models import Focus, Prescription, Stay
from drill_ladder.apps.prescriptions.placing import last_times
from drill_ladder.apps.prescriptions.services import (
    changes_since,
    drop_focus,
    end_prescription,
    go_back,
    prescribe,
    set_focus,
    take_new_terms,
)
from drill_ladder.formats.reading import whole
from drill_ladder.formats.words import rule_sentence
from drill_ladder.ui.pages import htmx_of, page_of, page_or_fragment


@dataclass(frozen=True, slots=True)
class Choice:
    """A ladder to choose: the skill that the player should work on (None: another one), whether the
    squad is on it.
    """

    ladder: Ladder
    focus: Focus | None
    squad: bool


@coach_required
def choose(request: HttpRequest, member: Membership, player: int) -> HttpResponse:
    """Which ladder? Those of what the player should work on come first, then those that the squad
    is on.
    """
    who = get_object_or_404(Player.objects.of_club(member.club).with_squad(), pk=player)
    focuses = {focus.skill_id: focus for focus in Focus.objects.of_player(who)}
    ladders = Ladder.objects.of_club(member.club).open_to(who)
    mates = {p.ladder_id for p in Prescription.objects.active().of_squad(who.squad_id)}
    choices = [
        Choice(ladder, focuses.get(ladder.skill_id or 0), ladder.pk in mates) for ladder in ladders
    ]
    rows = sorted(
        choices, key=lambda choice: (choice.focus.priority if choice.focus else 9, not choice.squad)
    )
    return render(request, "prescriptions/choose.html", {"player": who, "rows": rows})


@coach_required
@once
def start(request: HttpRequest, member: Membership, player: int, ladder: int) -> HttpResponse:
    """From which rung, how often, where, and what is different for this player?"""
    who = get_object_or_404(Player.objects.of_club(member.club), pk=player)
    which = get_object_or_404(Ladder.objects.of_club(member.club).with_rungs(), pk=ladder)
    today = member.club.today()
    first = {"rung": request.GET.get("rung"), "starts_on": today, "review_on": today + REVIEW}
    form = PrescribeForm(request.POST or None, initial=first, ladder=which, today=today)
    htmx = htmx_of(request)
    if request.method == "POST" and form.is_valid() and not htmx:
        data = form.cleaned_data
        try:
            prescribe(
                member=member,
                player=who,
                ladder=which,
                rung=data["rung"],
                per_week=data["per_week"],
                place=data["place"],
                on=data["starts_on"] or today,
                more=form.more(),
            )
        except Refused as error:
            form.add_error(None, str(error))
        else:
            messages.success(request, _begun(who, which, data["starts_on"] or today, today))
            return redirect("progress:player", who.pk)
    context = {
        "player": who,
        "ladder": which,
        "form": form,
        "rungs": [rung_lines(rung, which.rule) for rung in which.rungs.all()],
        "rule": rule_sentence(which.rule),
        "minutes": minutes(
            form, Prescription(player=who, ladder=which, per_week=3), _rung_of(form, which)
        ),
    }
    wrong = bool(form.errors) and not htmx
    page = "prescriptions/start.html"
    return page_or_fragment(
        request, page, "prescriptions/_minutes.html", context, 422 if wrong else 200
    )


def _begun(who: Player, which: Ladder, on: date, today: date) -> str:
    if on > today:
        return (
            f"{who} is on {which} from {on:%A} {on.day} {on:%B}: card and weeks show it from then "
            "on."
        )
    return f"{who} is on {which}. The home card shows it; the week can be planned now."


def _rung_of(form: PrescribeForm, which: Ladder) -> Rung | None:
    """The rung that is chosen in the form as it stands, else the first; None for a ladder without
    any.
    """
    rungs = list(which.rungs.all())
    return next(
        (rung for rung in rungs if str(rung.pk) == str(form["rung"].value())),
        rungs[0] if rungs else None,
    )


@require_POST
@coach_required
@once
def end(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Take a player off a ladder; the history stays."""
    prescription = get_object_or_404(Prescription.objects.active().of_club(member.club), pk=pk)
    try:
        end_prescription(member=member, prescription=prescription, on=member.club.today())
    except Refused as error:
        messages.error(request, str(error))
    else:
        messages.success(
            request,
            f"{prescription.ladder} is ended for {prescription.player}. "
            "Everything that was done stays.",
        )
    return redirect("progress:player", prescription.player_id)


@require_POST
@coach_required
@once
def new_terms(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Go on by the ladder's present terms."""
    stay = get_object_or_404(Stay.objects.of_club(member.club).with_all(), pk=pk)
    player = stay.prescription.player
    try:
        take_new_terms(member=member, stay=stay, on=member.club.today())
    except Refused as error:
        messages.error(request, str(error))
    else:
        messages.success(
            request,
            f"{player} goes on by the ladder's present terms. What was done stays as it was "
            "judged.",
        )
    return redirect("progress:player", player.pk)


@coach_required
def standing(request: HttpRequest, member: Membership, ladder: int) -> HttpResponse:
    """Who stands where on a ladder, by which terms, and who goes on by the present ones."""
    which = get_object_or_404(Ladder.objects.of_club(member.club), pk=ladder)
    stays = Stay.objects.of_club(member.club).current().on_ladder(which)
    if request.method == "POST":
        chosen = [stay for stay in stays if str(stay.pk) in request.POST.getlist("stay")]
        _move_on(request, member, chosen)
        return redirect("prescriptions:standing", which.pk)
    page = page_of(request, stays, 30)
    rows = [{"stay": stay, "changes": changes_since(stay)} for stay in page]
    behind = sum(bool(row["changes"]) for row in rows)
    context = {"ladder": which, "rows": rows, "behind": behind, "page": page}
    return render(request, "prescriptions/standing.html", context)


def _move_on(request: HttpRequest, member: Membership, stays: list[Stay]) -> None:
    """New terms for each of them; whoever cannot is named with the reason."""
    moved = 0
    for stay in stays:
        try:
            take_new_terms(member=member, stay=stay, on=member.club.today())
            moved += 1
        except Refused as error:
            messages.error(request, f"{stay.prescription.player}: {error}")
    if moved:
        who = "One player goes" if moved == 1 else f"{moved} players go"
        messages.success(
            request, f"{who} on by the present terms. What was done stays as it was judged."
        )
    elif not stays:
        messages.error(request, "Nobody was chosen, so nothing was changed.")


@coach_required
@once
def squad_start(request: HttpRequest, member: Membership, ladder: int, squad: int) -> HttpResponse:
    """One ladder for a whole squad, each from their own rung."""
    which = get_object_or_404(Ladder.objects.of_club(member.club).with_rungs(), pk=ladder)
    group = get_object_or_404(Squad.objects.of_club(member.club).with_players(), pk=squad)
    on_it = {p.player_id for p in Prescription.objects.active().on_ladder(which)}
    form = SquadForm(
        request.POST or None, ladder=which, squad=group, starts=_starts(group, which, on_it)
    )
    if request.method == "POST" and form.is_valid():
        _prescribe_all(request, member, which, form)
        return redirect("prescriptions:standing", which.pk)
    context = {"ladder": which, "squad": group, "form": form, "on_it": on_it, "free": _free(group)}
    return render(
        request, "prescriptions/squad_start.html", context, status=422 if form.errors else 200
    )


def _free(group: Squad) -> dict[int, int]:
    """Minutes a week that each player still has, of those whose days are noted."""
    players = list(group.players.with_days())
    has = {player.pk: sum(day.minutes for day in player.days.all()) for player in players}
    asked = wanted_of(players)
    return {pk: round(has[pk] - asked_minutes(asked[pk])) for pk in has if has[pk]}


def _starts(group: Squad, which: Ladder, on_it: set[int]) -> dict[int, int]:
    """Where each would start: where they stood last, else the first rung; nobody who is on it
    already.
    """
    first = next((rung.pk for rung in which.rungs.all()), None)
    players = [player for player in group.players.all() if player.pk not in on_it]
    last = last_times(players, which)
    starts = {p.pk: last[p.pk].rung_id if p.pk in last else first for p in players}
    return {pk: start for pk, start in starts.items() if start is not None}


def _prescribe_all(
    request: HttpRequest, member: Membership, which: Ladder, form: SquadForm
) -> None:
    put, data = 0, form.cleaned_data
    for player, field in form.rows():
        rung = data.get(field.name)
        if rung is None:
            continue
        same = {
            "per_week": data["per_week"],
            "place": data["place"],
            "on": member.club.today(),
        }
        try:
            prescribe(member=member, player=player, ladder=which, rung=rung, **same)
            put += 1
        except Refused as error:
            messages.error(request, f"{player}: {error}")
    messages.success(request, f"{put} player{'' if put == 1 else 's'} put on {which}.")


@require_POST
@coach_required
def focus(request: HttpRequest, member: Membership, player: int) -> HttpResponse:
    """What a player should work on: one skill more, changed, or (with `away`) one fewer."""
    who = get_object_or_404(Player.objects.of_club(member.club), pk=player)
    away = whole(request.POST.get("away", ""))
    form = FocusForm(request.POST)
    if away is not None:
        drop_focus(player=who, pk=away)
    elif form.is_valid():
        set_focus(player=who, on=member.club.today(), **form.cleaned_data)
    else:
        messages.error(request, "Which skill? Nothing was changed.")
    return redirect("progress:player", who.pk)


@require_POST
@coach_required
@once
def back(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """A rung that did not hold is taken up again."""
    stay = get_object_or_404(Stay.objects.of_club(member.club).with_all(), pk=pk)
    try:
        go_back(member=member, stay=stay, on=member.club.today())
    except Refused as error:
        messages.error(request, str(error))
    else:
        messages.success(
            request, f"{stay.prescription.player} is on rung {stay.rung.position} again."
        )
    return redirect("progress:player", stay.prescription.player_id)
