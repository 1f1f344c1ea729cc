"""What tiredness costs: a rung done fresh and tired on one day (docs/methods.md, 26)."""

from datetime import date

from django.db.models import Sum

from drill_ladder.apps.practice.models import SetRow
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.statistics import Pair, cost_of_fatigue, with_both
from drill_ladder.formats.words import many, percent


def cost_line(stay: Stay) -> str:
    """Fresh against tired over the last four days that have both; "" where nothing is to be
    told.
    """
    if not stay.prescription.tired_too or not stay.terms.rung.counts_makes:
        return ""
    days = with_both(_days(stay))
    cost = cost_of_fatigue(days)
    if cost.early is None or cost.late is None or cost.low is None or cost.high is None:
        return ""
    over = f"over {many(len(days), 'day')} with both"
    points = f"{100 * cost.low:.0f} to {100 * cost.high:.0f} points"
    words = "Tiredness costs" if cost.flagged else "No cost of tiredness to be sure of:"
    return (
        f"Fresh {percent(cost.early)}, tired {percent(cost.late)} {over}. {words} "
        f"{points} of a hundred."
    )


def _days(stay: Stay) -> list[Pair]:
    rows = SetRow.objects.filter(
        session__stay=stay, session__recheck=False, session__extra=False, attempts__isnull=False
    )
    by_kind = rows.order_by("session__on").values_list("session__on", "session__tired")
    counts: dict[date, dict[bool, tuple[int, int]]] = {}
    for on, tired, makes, attempts in by_kind.annotate(Sum("makes"), Sum("attempts")):
        counts.setdefault(on, {})[tired] = (makes or 0, attempts)
    none = (0, 0)
    return [Pair(*day.get(False, none), *day.get(True, none)) for day in counts.values()]
