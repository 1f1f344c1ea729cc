"""What a player's guardians agreed to."""

from datetime import timedelta

from django import forms
from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_POST

from drill_ladder.apps.history.once import once
from drill_ladder.apps.people.access import coach_required
from drill_ladder.apps.people.agreements.services import agree, withdraw
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import AgreedTo, Agreement, Membership, Player
from drill_ladder.ui.fields import Day, Line

OLDEST = timedelta(days=20 * 366)


class AgreementForm(forms.Form):
    """One agreement."""

    what = forms.ChoiceField(label="They agree to", choices=AgreedTo.choices)
    by = Line(label="Who agreed", max_length=120)
    on = Day(label="On")


@coach_required
@once
def agreements(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """All of them, in force or withdrawn; a coach notes one."""
    player = get_object_or_404(Player.objects.of_club(member.club), pk=pk)
    today = member.club.today()
    guardians = [guardian.name for guardian in player.guardians.all() if guardian.name]
    first = {"on": today, "by": guardians[0] if guardians else ""}
    form = AgreementForm(request.POST or None, initial=first)
    if request.method == "POST" and form.is_valid():
        data = form.cleaned_data
        if not today - OLDEST <= data["on"] <= today:
            form.add_error("on", "That day has not come yet, or is too long ago.")
        else:
            try:
                row = agree(member=member, player=player, **data)
            except Refused as error:
                form.add_error(None, str(error))
            else:
                messages.success(request, f"Noted: {row}.")
                return redirect("people:agreements", player.pk)
    rows = Agreement.objects.of_club(member.club).about(player)
    context = {"player": player, "rows": rows, "form": form, "guardians": guardians}
    return render(request, "people/agreements.html", context, status=422 if form.errors else 200)


@require_POST
@coach_required
def agreement_withdraw(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """A guardian takes an agreement back."""
    row = get_object_or_404(Agreement.objects.of_club(member.club).with_player(), pk=pk)
    try:
        withdraw(member=member, agreement=row, on=member.club.today())
        messages.success(request, f"Withdrawn from today: {row}.")
    except Refused as error:
        messages.error(request, str(error))
    return redirect("people:agreements", row.player_id)
