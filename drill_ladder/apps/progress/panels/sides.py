"""Which side? The lanes of a rung against each other, and where they lie."""

from collections import Counter
from collections.abc import Iterable, Sequence

from drill_ladder.apps.practice.models import JudgedDay
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.progress.panels.panel import Panel
from drill_ladder.apps.progress.player import Record
from drill_ladder.charts import places as places_chart
from drill_ladder.charts import rates as rates_chart
from drill_ladder.core.plans import lane_places
from drill_ladder.core.statistics import WORTH, LaneResult, many_lanes, two_lanes, wilson
from drill_ladder.formats.words import percent


def which_side(record: Record, stay: Stay) -> Panel | None:
    """The lanes of good ones against each other, with their intervals."""
    rung = stay.terms.rung
    if not rung.counts_makes or len(rung.lanes) < 2:
        return None
    lanes = lanes_of(record.days.get(stay.pk, []), rung.lanes)
    if not any(lane.attempts for lane in lanes):
        return None
    lines = _two(lanes) if len(lanes) == 2 else _many(lanes)
    rows = [lane for lane in lanes if lane.attempts]
    drawn = [
        rates_chart.Rate(
            lane.name.capitalize(),
            lane.makes / lane.attempts,
            *wilson(lane.makes, lane.attempts),
            f"{lane.makes} of {lane.attempts}",
        )
        for lane in rows
    ]
    table = [[row.name, row.said, percent(row.rate), interval(row.low, row.high)] for row in drawn]
    svg = rates_chart.rates(drawn, lines[0])
    head = ["Lane", "Good", "Share", "95 %"]
    return Panel(
        "side", "Which side?", lines, svg, head, table, beside=_at_places(stay, rows, lines[0])
    )


def _at_places(stay: Stay, lanes: Sequence[LaneResult], title: str) -> str:
    """The lanes where they really lie; nothing where the floor plan does not say."""
    plan = stay.rung.floor_plan
    at = lane_places(plan, [lane.name for lane in lanes]) if plan else None
    if plan is None or at is None:
        return ""
    drawn = [
        places_chart.At(
            lane.name, at[lane.name], lane.makes / lane.attempts, f"{lane.makes} of {lane.attempts}"
        )
        for lane in lanes
    ]
    return places_chart.places(plan.metres, drawn, title)


def interval(low: float | None, high: float | None) -> str:
    """The ends of an interval, in words; empty where it is not known."""
    return "" if low is None or high is None else f"{percent(low)} to {percent(high)}"


def lanes_of(days: Iterable[JudgedDay], names: Sequence[str]) -> list[LaneResult]:
    """Attempts and good ones, lane by lane."""
    makes: Counter[str] = Counter()
    attempts: Counter[str] = Counter()
    for day in days:
        for s in day.sets:
            if s.lane is not None:
                makes[s.lane] += s.makes or 0
                attempts[s.lane] += s.attempts or 0
    return [LaneResult(name, attempts[name], makes[name]) for name in names]


def _two(lanes: Sequence[LaneResult]) -> list[str]:
    gap = two_lanes(lanes[0], lanes[1], many_looks=True, worth=WORTH)
    if gap.gap is None or gap.weaker is None or gap.low is None or gap.high is None:
        return ["Both sides alike, as far as anybody has counted."]
    behind = round(abs(100 * gap.gap))
    points = f"{behind} point{'' if behind == 1 else 's'} of a hundred"
    between = sorted(abs(100 * end) for end in (gap.low, gap.high))
    if not gap.real:
        often = "no more than chance shows now and then to whoever looks often"
        words = f"the {gap.weaker} is {points} behind, {often}"
        return [f"No difference to be sure of: {words}."]
    return [
        f"The {gap.weaker} is weaker: {points} behind ({between[0]:.0f} to {between[1]:.0f}).",
        f"To even it out, practise it {percent(gap.practice_share or 0.5)} of the time; in play "
        f"let it cover {percent(gap.cover_share or 0.5)}. Which of the two is yours to choose.",
    ]


def _many(lanes: Sequence[LaneResult]) -> list[str]:
    gaps = many_lanes(lanes)
    weakest = next((lane for lane, rate in gaps.ranked if rate is not None), None)
    if gaps.p is None or weakest is None:
        return ["Too few attempts to compare the places."]
    if gaps.p >= 0.05:
        return ["The places are alike, as far as the numbers tell."]
    return [f"The places differ. Weakest, with chance taken out: {weakest.name}."]
