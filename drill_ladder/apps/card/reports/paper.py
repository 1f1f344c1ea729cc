"""A report on paper: one page, good without colour."""

from django.http import HttpResponse

from drill_ladder.apps.card.models import Report
from drill_ladder.apps.card.paper import pdf


def on_paper(report: Report) -> HttpResponse:
    """One page, black on white."""
    data = pdf("card/print_report.html", {"report": report, "player": report.player})
    answer = HttpResponse(data, content_type="application/pdf")
    answer.headers["Content-Disposition"] = f'inline; filename="report-{report.on}.pdf"'
    answer.headers["Cache-Control"] = "private, no-cache"
    return answer
