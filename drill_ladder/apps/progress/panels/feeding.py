"""What a player fed to others: the share of good feeds by drill, and what to work on in feeding
(docs/methods.md, 30). Who received is not named.
"""

from collections import defaultdict

from drill_ladder.apps.practice.models import SetRow
from drill_ladder.apps.progress.panels.panel import Panel
from drill_ladder.apps.progress.panels.sides import interval
from drill_ladder.apps.progress.player import Record
from drill_ladder.charts import rates as rates_chart
from drill_ladder.core.coaching import Feeder, Feeding, Policy, feeds_of
from drill_ladder.formats.words import many, percent

FEWEST = 10  # feeds of a drill before it is worth a lesson (our own choice)
GOOD = 0.9  # from this share on a receiver can count on them (common practice, no source)


def feeding_panel(record: Record) -> Panel | None:
    """Their feeds in the span, whoever they fed; None where they fed nobody."""
    rows = SetRow.objects.fed_by(record.player).since(record.since).until(record.today)
    by_drill: dict[str, list[Feeding]] = defaultdict(list)
    for title, attempts, voids, makes in rows.feeds():
        by_drill[title].append(Feeding(title, attempts + voids, attempts, makes, makes))
    account = feeds_of([one for feeds in by_drill.values() for one in feeds], Policy.VOID)
    if not account.feeders:
        return None
    fed = {title: sum(one.feeds for one in feeds) for title, feeds in by_drill.items()}
    good = sum(one.good for feeds in by_drill.values() for one in feeds)
    total = sum(fed.values())
    lines = [
        f"{many(total, 'feed')} to others, {percent(good / total)} of them good.",
        *_lesson(account.feeders, fed),
    ]
    drawn = [
        rates_chart.Rate(f.feeder, f.share, f.low, f.high, percent(f.share))
        for f in account.feeders
        if f.share is not None
    ]
    table = [[one.name, one.said, interval(one.low, one.high)] for one in drawn]
    head = ["Drill", "Good feeds", "95 %"]
    return Panel(
        "feeding", "What they feed", lines, rates_chart.rates(drawn, lines[0]), head, table
    )


def _lesson(drills: list[Feeder], fed: dict[str, int]) -> list[str]:
    """Where the feeds are worst, and what helps first."""
    known = [one for one in drills if fed[one.feeder] >= FEWEST and one.share is not None]
    if not known:
        return [f"From {FEWEST} feeds of one drill on it is said where to begin."]
    worst = min(known, key=lambda one: one.share or 0.0)
    if (worst.share or 0.0) >= GOOD:
        return ["Feeds that others can learn from: faster or further away next."]
    return [
        f"Next lesson in feeding: {worst.feeder}. Nearer, slower, and the same one again, until "
        f"{percent(GOOD)} are good."
    ]
