"""Where attempts ended: a sector, a number of steps, a share of the way, each by its name."""

from drill_ladder.apps.practice.models import SetRow
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.progress.panels.panel import Panel
from drill_ladder.apps.progress.player import Record
from drill_ladder.charts import rates as rates_chart
from drill_ladder.core.judging import Points, faults_by_name
from drill_ladder.formats.words import many, percent


def landed(record: Record, stay: Stay) -> Panel | None:
    """How often each was hit on the rung where the player stands, the one that brings most first.
    What was typed as a sum of points has no places, and is said beside it.
    """
    measure = stay.terms.rung.measure
    if not isinstance(measure, Points) or not measure.landings:
        return None
    rows = [row for session in record.on_rung(stay) for row in session.sets.all()]
    told = [row for row in rows if row.faults is not None and row.attempts]
    if not told:
        return None
    counts = _counts(measure, told)
    tries = sum(row.attempts or 0 for row in told)
    often = max(counts, key=lambda name: counts[name])
    untold = sum(row.attempts or 0 for row in rows) - tries
    lines = [f"Most often {often}: {counts[often]} of {many(tries, 'attempt')}."]
    if untold:
        lines.append(f"Of {many(untold, 'attempt')} the points alone were told.")
    drawn = [
        rates_chart.Rate(name, count / tries, None, None, many(count, "time"))
        for name, count in counts.items()
    ]
    table = [[name, f"{count}", percent(count / tries)] for name, count in counts.items()]
    svg = rates_chart.rates(drawn, lines[0])
    return Panel("landed", "Where did it end?", lines, svg, ["Where", "Times", "Share"], table)


def _counts(measure: Points, rows: list[SetRow]) -> dict[str, int]:
    """Every landing with its times. What was not told by another name was worth the most; where
    several are, nobody knows which of them it was.
    """
    elsewhere = faults_by_name(row.faults for row in rows)
    best = [one.name for one in measure.landings if one.points == _top(measure)]
    others = [one for one in measure.landings if one.name not in best]
    tries = sum(row.attempts or 0 for row in rows)
    rest = tries - sum(elsewhere[one.name] for one in others)
    ordered = sorted(others, key=lambda one: -one.points)
    return {" or ".join(best): rest} | {one.name: elsewhere[one.name] for one in ordered}


def _top(measure: Points) -> int:
    return max(one.points for one in measure.landings)
