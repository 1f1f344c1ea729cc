"""Reports: drafted, edited, previewed, published; a whole squad's in one go."""

from django import forms
from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import timezone
from django.views.decorators.http import require_POST

from drill_ladder.apps.card.models import Report
from drill_ladder.apps.card.report_paper import on_paper
from drill_ladder.apps.jobs.services import start
from drill_ladder.apps.people import clock
from drill_ladder.apps.people.access import coach_required
from drill_ladder.apps.people.models import Membership, Player, Squad
from drill_ladder.apps.progress.record import SPAN
from drill_ladder.apps.progress.report import draft_report, publish_report
from drill_ladder.formats.reading import whole
from drill_ladder.ui.fields import Line, Prose


class WordsForm(forms.Form):
    """A coach's own words."""

    greeting = Line(label="Greeting", max_length=200, required=False)
    remark = Prose(
        label="One remark",
        max_length=600,
        required=False,
        widget=forms.Textarea(attrs={"rows": 3}),
    )


@coach_required
def report(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Today's report of a player: drafted from the record, with the coach's words."""
    player = get_object_or_404(Player.objects.of_club(member.club), pk=pk)
    today = clock.today(member.club)
    row = draft_report(member=member, player=player, on=today, since=today - SPAN)
    form = WordsForm(request.POST or None, initial={"greeting": row.greeting, "remark": row.remark})
    if request.method == "POST" and row.published_at:
        messages.warning(request, "It is published already and stays as it was.")
        return redirect("progress:report", pk)
    if request.method == "POST" and form.is_valid():
        row.greeting, row.remark = form.cleaned_data["greeting"], form.cleaned_data["remark"]
        row.save(update_fields=["greeting", "remark"])
        if "publish" in request.POST:
            publish_report(member=member, report=row, at=timezone.now())
            messages.success(request, f"{player} and their family see it on the card now.")
        else:
            messages.success(request, "Saved; nobody but you sees it yet.")
        return redirect("progress:report", pk)
    context = {"player": player, "report": row, "form": form}
    context["past"] = Report.objects.of_player(player).published()
    return render(request, "progress/report.html", context, status=422 if form.errors else 200)


@coach_required
def report_print(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """A report on paper."""
    return on_paper(get_object_or_404(Report.objects.of_club(member.club), pk=pk))


@require_POST
@coach_required
def reports(request: HttpRequest, member: Membership) -> HttpResponse:
    """Drafts for everybody of a squad; with `publish` they are told at once."""
    squad = get_object_or_404(
        Squad.objects.of_club(member.club), pk=whole(request.POST.get("squad", ""))
    )
    given = {"squad": squad.pk, "publish": "publish" in request.POST}
    label = f"Reports of {squad}"
    job = start(member=member, name="progress.reports", label=label, arguments=given)
    return redirect("progress:job", job.pk)
