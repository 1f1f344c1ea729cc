"""The club's own limits on what strains a body."""

from django import forms
from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_POST

from drill_ladder.apps.library.limits.services import drop_limit, save_limit
from drill_ladder.apps.library.models import Drill, StrainLimit
from drill_ladder.apps.people.access import coach_required, member_required
from drill_ladder.apps.people.models import Club, Membership, Squad
from drill_ladder.core.statistics import Strain
from drill_ladder.ui.fields import Day, Line, Whole

MOST = 100_000  # repetitions a week


class LimitForm(forms.Form):
    """One limit, and whose it is."""

    strain = forms.ChoiceField(label="Of which", choices=[(k.value, k.value) for k in Strain])
    per_week = Whole(label="At most a week", min_value=1, max_value=MOST)
    squad = forms.ModelChoiceField(
        queryset=Squad.objects.none(), required=False, label="For", empty_label="the whole club"
    )
    body = Line(
        label="Whose limit it is",
        max_length=120,
        help_text="Your governing body, as it signs its rule",
    )
    of = Day(label="Their rule is of")

    def __init__(self, *args: object, club: Club, **kwargs: object) -> None:
        super().__init__(*args, **kwargs)  # type: ignore[arg-type]
        self.fields["squad"].queryset = Squad.objects.of_club(club)  # type: ignore[attr-defined]
        self.club = club

    def clean_of(self) -> object:
        """No rule of tomorrow."""
        if self.cleaned_data["of"] > self.club.today():
            raise forms.ValidationError("That day has not come yet.")
        return self.cleaned_data["of"]


@member_required
def limits(request: HttpRequest, member: Membership) -> HttpResponse:
    """What the club's limits are; a coach sets them."""
    form = LimitForm(request.POST or None, club=member.club)
    if request.method == "POST" and member.decides and form.is_valid():
        limit = save_limit(member=member, **form.cleaned_data)
        messages.success(request, f"Kept: {limit}.")
        return redirect("library:limits")
    rows = StrainLimit.objects.of_club(member.club).with_squads()
    counted = Drill.objects.of_club(member.club).in_use().straining()
    context = {"rows": rows, "form": form, "counted": counted, "decides": member.decides}
    return render(request, "library/limits.html", context, status=422 if form.errors else 200)


@require_POST
@coach_required
def drop(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Take a limit away."""
    limit = get_object_or_404(StrainLimit.objects.of_club(member.club), pk=pk)
    drop_limit(member=member, limit=limit)
    messages.success(request, f"Taken away: {limit}.")
    return redirect("library:limits")
