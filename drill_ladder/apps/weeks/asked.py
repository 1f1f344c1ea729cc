"""Which day or week a page is asked about."""

from datetime import date, timedelta

from django.http import HttpRequest

from drill_ladder.apps.weeks.querysets import monday_of
from drill_ladder.formats.reading import day

FARTHEST = timedelta(days=400)


def asked_day(request: HttpRequest, today: date) -> date:
    """The day that is asked for with ?of=; today for anything else."""
    asked = request.POST.get("of") or request.GET.get("of", "")
    return day(asked, today - FARTHEST, today + FARTHEST) or today


def asked_monday(request: HttpRequest, today: date) -> date:
    """The Monday of the week that is asked for."""
    return monday_of(asked_day(request, today))
