"""Writing drills."""

from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render

from drill_ladder.apps.library.drill_form import DrillForm, drill_values
from drill_ladder.apps.library.models import Drill
from drill_ladder.apps.library.services import save_drill
from drill_ladder.apps.people.access import coach_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership


@coach_required
def edit(request: HttpRequest, member: Membership, pk: int | None = None) -> HttpResponse:
    """A new drill (?from=ID: a copy of another one), or one that exists."""
    drills = Drill.objects.of_club(member.club).select_related("skill")
    drill = get_object_or_404(drills, pk=pk) if pk else None
    source = request.GET.get("from", "")
    model = drill or (get_object_or_404(drills, pk=source) if source.isdigit() else None)
    first = drill_values(model) if model else {"kind": "makes", "caution": "home_alone"}
    if model and not drill:
        first |= {"title": f"{model.title} (copy)", "revision": 0}
    form = DrillForm(request.POST or None, initial=first, club=member.club, drill=drill)
    if request.method == "POST" and form.is_valid():
        values = form.values() | ({"plan": model.plan} if model else {})
        try:
            saved = save_drill(
                member=member,
                drill=drill,
                values=values,
                skill=form.cleaned_data["skill"],
                revision=form.cleaned_data["revision"],
            )
        except Refused as error:
            form.add_error(None, str(error))
        else:
            messages.success(request, f"{saved} is saved.")
            return redirect("library:drill", saved.pk)
    context = {"form": form, "drill": drill}
    return render(request, "library/drill_edit.html", context, status=422 if form.errors else 200)
