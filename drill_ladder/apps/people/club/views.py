"""The club itself: what it is called, its squads, and the way to everything that is its own."""

from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_POST

from drill_ladder.apps.people.access import coach_required, owner_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Role, Squad
from drill_ladder.apps.people.team import (
    ClubForm,
    SquadForm,
    drop_squad,
    save_club,
    save_squad,
    zones,
)
from drill_ladder.formats.reading import whole


@coach_required
def club(request: HttpRequest, member: Membership) -> HttpResponse:
    """One page that leads to all of it; the owner changes the club here."""
    kept = member.club
    theirs = {name: getattr(kept, name) for name in ClubForm.base_fields}
    is_owner = member.role == Role.OWNER
    form = ClubForm(request.POST or None if is_owner else None, initial=theirs)
    if is_owner and request.method == "POST" and form.is_valid():
        save_club(member=member, **form.cleaned_data)
        messages.success(request, "The club is saved.")
        return redirect("people:club")
    context = {
        "form": form,
        "is_owner": is_owner,
        "squads": Squad.objects.of_club(kept).with_counts(),
        "zones": zones(),
    }
    return render(request, "people/club.html", context, status=422 if form.errors else 200)


@require_POST
@owner_required
def squad_save(request: HttpRequest, member: Membership) -> HttpResponse:
    """A new squad, or another name for one (`squad`)."""
    form = SquadForm(request.POST)
    pk = whole(request.POST.get("squad", ""))
    rows = Squad.objects.of_club(member.club)
    squad = get_object_or_404(rows, pk=pk) if pk is not None else None
    if not form.is_valid():
        messages.error(request, f"The squad needs a name: {form.errors['name'][0]}")
        return redirect("people:club")
    try:
        row = save_squad(member=member, squad=squad, name=form.cleaned_data["name"])
        messages.success(request, f"{row} is saved.")
    except Refused as error:
        messages.error(request, str(error))
    return redirect("people:club")


@require_POST
@owner_required
def squad_drop(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """A squad without players goes."""
    squad = get_object_or_404(Squad.objects.of_club(member.club), pk=pk)
    name = squad.name
    try:
        drop_squad(member=member, squad=squad)
        messages.success(request, f"{name} is removed.")
    except Refused as error:
        messages.error(request, str(error))
    return redirect("people:club")
