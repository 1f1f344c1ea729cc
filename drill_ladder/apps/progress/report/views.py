"""Reports: drafted, edited, previewed, published; a whole squad's in one go."""

from django import forms
from django.contrib import messages
from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import timezone
from django.views.decorators.http import require_POST

from drill_ladder.apps.card.models import Report
from drill_ladder.apps.card.reports import on_paper
from drill_ladder.apps.jobs.services import start
from drill_ladder.apps.people.access import coach_required
from drill_ladder.apps.people.models import Membership, Player, Squad
from drill_ladder.apps.progress.player import SPAN
from drill_ladder.apps.progress.report.writing import drafted, publish_report, seal, since_then
from drill_ladder.formats.reading import whole
from drill_ladder.ui.fields import Prose


class WordsForm(forms.Form):
    """A coach's own words."""

    greeting = Prose(
        label="Greeting",
        max_length=200,
        required=False,
        widget=forms.Textarea(attrs={"rows": 2}),
    )
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
    today = member.club.today()
    row = drafted(member=member, player=player, on=today, since=today - SPAN)
    form = WordsForm(request.POST or None, initial={"greeting": row.greeting, "remark": row.remark})
    news: list[str] | None = None
    if request.method == "POST" and row.published_at:
        messages.warning(request, "It is published already and stays as it was.")
        return redirect("progress:report", pk)
    if request.method == "POST" and form.is_valid():
        news = _keep(request, member, row, form)
        if news is None:
            return redirect("progress:report", pk)
    context = {"player": player, "report": row, "form": form, "seal": seal(row), "news": news}
    context["past"] = Report.objects.of_player(player).published()
    status = 200 if request.method == "GET" else 422
    return render(request, "progress/report.html", context, status=status)


def _keep(
    request: HttpRequest, member: Membership, row: Report, form: WordsForm
) -> list[str] | None:
    """Keep it, or publish what was read if that is what it still says; else nothing is stored, and
    the sentences that are new (none, where some only went) are to be read first.
    """
    row.greeting, row.remark = form.cleaned_data["greeting"], form.cleaned_data["remark"]
    publish = "publish" in request.POST
    if publish and request.POST.get("seal") != seal(row):
        return since_then(request.POST.getlist("read"), row)
    with transaction.atomic():
        row.save()
        if publish:
            publish_report(member=member, report=row, at=timezone.now())
    if not publish:
        messages.success(request, "Saved; nobody but coaches sees it yet.")
        return None
    messages.success(request, f"{row.player} and their family see it on the card now.")
    return None


@coach_required
def report_print(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """A report on paper."""
    return on_paper(get_object_or_404(Report.objects.of_club(member.club), pk=pk))


@require_POST
@coach_required
def reports(request: HttpRequest, member: Membership) -> HttpResponse:
    """Drafts for everybody of a squad; with `publish` today's drafts are told as they stand."""
    squad = get_object_or_404(
        Squad.objects.of_club(member.club), pk=whole(request.POST.get("squad", ""))
    )
    arguments = {"squad": squad.pk, "publish": "publish" in request.POST}
    label = f"Reports of {squad}"
    job = start(member=member, name="progress.reports", label=label, arguments=arguments)
    return redirect("progress:job", job.pk)
