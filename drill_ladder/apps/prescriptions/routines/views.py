"""A routine: what it is made of, how long it takes, who has it; giving it and ending it."""

from django import forms
from django.contrib import messages
from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_POST

from drill_ladder.apps.history.once import once
from drill_ladder.apps.library.models import Ladder, Routine
from drill_ladder.apps.people.access import coach_required, member_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player, Squad
from drill_ladder.apps.prescriptions.models import PlayerRoutine, Setting, Stay, by_routine
from drill_ladder.apps.prescriptions.routines.services import (
    end_routine,
    give_routine,
    minutes_of_routine,
)
from drill_ladder.formats.reading import whole
from drill_ladder.formats.rung_words import dose_words
from drill_ladder.ui.fields import Whole


class GiveForm(forms.Form):
    """Who gets a routine, how often and where."""

    players = forms.ModelMultipleChoiceField(
        queryset=Player.objects.none(),
        label="Who gets it?",
        widget=forms.CheckboxSelectMultiple,
        error_messages={"required": "Choose at least one player."},
    )
    per_week = Whole(label="Times a week", min_value=1, max_value=14, initial=2)
    place = forms.ChoiceField(label="Where", choices=Setting.choices, initial=Setting.HOME)


@member_required
def routine(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """One routine."""
    row = get_object_or_404(Routine.objects.of_club(member.club).with_parts(), pk=pk)
    going = list(PlayerRoutine.objects.of_club(member.club).going().of_routine(row.pk))
    parts = by_routine(Stay.objects.of_routines(going))
    people = [(one, minutes_of_routine(one, parts.get(one.pk, []))) for one in going]
    lines = [(part, *_rungs(part.ladder)) for part in row.parts.all()]
    return render(
        request, "prescriptions/routine.html", {"routine": row, "lines": lines, "people": people}
    )


def _rungs(ladder: Ladder) -> tuple[int, str]:
    """How many rungs, and the dose of the first."""
    rungs = list(ladder.rungs.with_drill())
    return len(rungs), dose_words(rungs[0].core) if rungs else ""


@coach_required
@once
def give(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """To one player (?player=ID), a squad (?squad=ID), or whomever; all of them or none."""
    row = get_object_or_404(Routine.objects.of_club(member.club).with_parts(), pk=pk)
    players = Player.objects.of_club(member.club)
    first = players
    if (squad := whole(request.GET.get("squad", ""))) is not None:
        first = players.of_squad(squad)
    elif (one := whole(request.GET.get("player", ""))) is not None:
        first = players.only_row(one)
    else:
        first = players.none()
    form = GiveForm(request.POST or None, initial={"players": list(first)})
    form.fields["players"].queryset = players  # type: ignore[attr-defined]
    if request.method == "POST" and form.is_valid() and _given(request, member, row, form):
        return redirect("prescriptions:routine", pk)
    context = {"routine": row, "form": form, "squads": list(Squad.objects.of_club(member.club))}
    return render(
        request, "prescriptions/routine_give.html", context, status=422 if form.errors else 200
    )


def _given(request: HttpRequest, member: Membership, row: Routine, form: GiveForm) -> bool:
    """Whether everybody got it; else the reason stands in the form, and nobody did."""

    data = form.cleaned_data
    try:
        with transaction.atomic():
            for player in data["players"]:
                give_routine(
                    member=member,
                    routine=row,
                    player=player,
                    per_week=data["per_week"],
                    place=data["place"],
                    on=member.club.today(),
                )
    except Refused as error:
        form.add_error(None, str(error))
        return False
    names = ", ".join(str(player) for player in data["players"])
    messages.success(request, f"{row} is given to {names}. A planned week takes it in when solved.")
    return True


@require_POST
@coach_required
def end(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """A player has it no more."""
    given = get_object_or_404(PlayerRoutine.objects.of_club(member.club).with_names(), pk=pk)
    try:
        end_routine(member=member, given=given, on=member.club.today())
    except Refused as error:
        messages.error(request, str(error))
    else:
        messages.success(request, f"{given.player} does not have {given.routine} any more.")
    return redirect("prescriptions:routine", given.routine_id)
