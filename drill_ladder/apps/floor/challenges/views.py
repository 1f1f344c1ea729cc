"""Challenges: opened by a coach, own best against own best."""

from datetime import timedelta
from typing import Any

from django import forms
from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render

from drill_ladder.apps.floor.challenges.services import board_of, open_challenge, own_of
from drill_ladder.apps.floor.models import Challenge, Protocol
from drill_ladder.apps.floor.test_days import record_of_tests
from drill_ladder.apps.history.once import once
from drill_ladder.apps.people.access import coach_required, member_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Club, Membership, Player, Squad
from drill_ladder.ui.fields import Day, Line

USUAL = timedelta(days=14)


class ChallengeForm(forms.Form):
    """A challenge."""

    title = Line(label="Name of the challenge", max_length=120)
    protocol = forms.ModelChoiceField(queryset=Protocol.objects.none(), label="The test")
    squad = forms.ModelChoiceField(
        queryset=Squad.objects.none(), label="For", required=False, empty_label="the whole club"
    )
    ends = Day(label="It ends on")
    board = forms.BooleanField(label="A board by initials, for adults alone", required=False)

    def __init__(self, *args: Any, club: Club, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        fields: dict[str, Any] = self.fields
        fields["protocol"].queryset = Protocol.objects.of_club(club).in_force()
        fields["squad"].queryset = Squad.objects.of_club(club)  # type: ignore[attr-defined]


@coach_required
@once
def challenge_new(request: HttpRequest, member: Membership) -> HttpResponse:
    """Open one: it begins today."""
    today = member.club.today()
    form = ChallengeForm(request.POST or None, club=member.club, initial={"ends": today + USUAL})
    if request.method == "POST" and form.is_valid():
        try:
            row = open_challenge(member=member, begins=today, **form.cleaned_data)
        except Refused as error:
            form.add_error("ends", str(error))
        else:
            messages.success(request, f"{row} is open. The cards show it.")
            return redirect("floor:challenge", row.pk)
    status = 422 if form.errors else 200
    return render(request, "floor/challenge_new.html", {"form": form}, status=status)


@member_required
def challenge(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Everybody against their own best, by name."""
    rows = Challenge.objects.of_club(member.club).with_test()
    row = get_object_or_404(rows, pk=pk)
    players = Player.objects.of_club(member.club).by_name()
    if row.squad_id:
        players = players.of_squad(row.squad_id)
    everybody, found = list(players), record_of_tests([row.protocol])
    today = member.club.today()
    context = {
        "challenge": row,
        "lines": [own_of(row, player, found) for player in everybody],
        "board": board_of(row, everybody, today),
        "over": row.ends < today,
    }
    return render(request, "floor/challenge.html", context)
