"""The club's own limits on what strains a body, and on the size of tools."""

from django import forms
from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_POST

from drill_ladder.apps.library.limits.services import (
    drop_limit,
    drop_tool_limit,
    save_limit,
    save_tool_limit,
)
from drill_ladder.apps.library.models import Drill, StrainLimit, ToolLimit
from drill_ladder.apps.people.access import coach_required, member_required
from drill_ladder.apps.people.models import Club, Membership, Player, Squad
from drill_ladder.core.statistics import Strain
from drill_ladder.formats.age_words import OLDEST, YOUNGEST
from drill_ladder.formats.kit_words import LARGEST_CM
from drill_ladder.ui.fields import Day, FormValues, Line, Number, Whole

MOST = 100_000  # repetitions a week


class OfBody(forms.Form):
    """Whose rule a limit is."""

    body = Line(
        label="Whose limit it is",
        max_length=120,
        help_text="Your governing body, as it signs its rule",
    )
    of = Day(label="Their rule is of")

    def __init__(self, *args: object, club: Club, **kwargs: object) -> None:
        super().__init__(*args, **kwargs)  # type: ignore[arg-type]
        self.club = club

    def clean_of(self) -> object:
        """No rule of tomorrow."""
        if self.cleaned_data["of"] > self.club.today():
            raise forms.ValidationError("That day has not come yet.")
        return self.cleaned_data["of"]


class LimitForm(OfBody):
    """One limit, and whose it is."""

    strain = forms.ChoiceField(label="Of which", choices=[(k.value, k.value) for k in Strain])
    per_week = Whole(label="At most a week", min_value=1, max_value=MOST)
    squad = forms.ModelChoiceField(
        queryset=Squad.objects.none(), required=False, label="For", empty_label="the whole club"
    )

    def __init__(self, *args: object, club: Club, **kwargs: object) -> None:
        super().__init__(*args, club=club, **kwargs)
        self.fields["squad"].queryset = Squad.objects.of_club(club)  # type: ignore[attr-defined]


class ToolForm(OfBody):
    """How long a tool may be."""

    tool = Line(label="Tool", max_length=60, help_text="As drills name it: stick, racket")
    least_cm = Number(label="At least, cm", min_value=1, max_value=LARGEST_CM, required=False)
    most_cm = Number(label="At most, cm", min_value=1, max_value=LARGEST_CM, required=False)
    under = Whole(
        label="Only under the age of",
        min_value=YOUNGEST,
        max_value=OLDEST,
        required=False,
        help_text="Empty: for all",
    )

    def clean_tool(self) -> str:
        """One name, however it was typed: stick, Stick and STICK are one."""
        return str(self.cleaned_data["tool"]).lower()

    def clean(self) -> FormValues:
        """A limit that says something, from small to large."""
        data = super().clean() or self.cleaned_data
        least, most = data.get("least_cm"), data.get("most_cm")
        if least is None and most is None and not self.errors:
            self.add_error("most_cm", "How long may it be? One of the two at least.")
        if least is not None and most is not None and least > most:
            self.add_error("most_cm", "This is less than what it has to be at least.")
        return data


@member_required
def limits(request: HttpRequest, member: Membership) -> HttpResponse:
    """What the club's limits are; a coach sets them."""
    form = LimitForm(request.POST or None, club=member.club)
    if request.method == "POST" and member.decides and form.is_valid():
        limit = save_limit(member=member, **form.cleaned_data)
        messages.success(request, f"Kept: {limit}.")
        return redirect("library:limits")
    return _page(request, member, form, ToolForm(club=member.club, prefix="tool"))


def _page(
    request: HttpRequest, member: Membership, form: LimitForm, tool_form: ToolForm
) -> HttpResponse:
    context = {
        "rows": StrainLimit.objects.of_club(member.club).with_squads(),
        "tools": ToolLimit.objects.of_club(member.club),
        "ageless": Player.objects.of_club(member.club).without_age().count(),
        "form": form,
        "tool_form": tool_form,
        "counted": Drill.objects.of_club(member.club).in_use().straining(),
        "decides": member.decides,
    }
    wrong = form.errors or tool_form.errors
    return render(request, "library/limits.html", context, status=422 if wrong else 200)


@require_POST
@coach_required
def tool(request: HttpRequest, member: Membership) -> HttpResponse:
    """Set how long a tool may be."""
    form = ToolForm(request.POST, club=member.club, prefix="tool")
    if not form.is_valid():
        return _page(request, member, LimitForm(club=member.club), form)
    limit = save_tool_limit(member=member, **form.cleaned_data)
    messages.success(request, f"Kept: {limit}.")
    return redirect("library:limits")


@require_POST
@coach_required
def drop(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Take a limit away."""
    limit = get_object_or_404(StrainLimit.objects.of_club(member.club), pk=pk)
    drop_limit(member=member, limit=limit)
    messages.success(request, f"Taken away: {limit}.")
    return redirect("library:limits")


@require_POST
@coach_required
def drop_tool(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Take a tool's limit away."""
    limit = get_object_or_404(ToolLimit.objects.of_club(member.club), pk=pk)
    drop_tool_limit(member=member, limit=limit)
    messages.success(request, f"Taken away: {limit}.")
    return redirect("library:limits")
