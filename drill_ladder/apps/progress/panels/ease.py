"""How at ease a player is with the ball, by their own word: it never gates anything."""

from datetime import date

from drill_ladder.apps.practice.models import Felt
from drill_ladder.apps.progress.panels.panel import Panel
from drill_ladder.apps.progress.player import Record
from drill_ladder.charts import scores as scores_chart
from drill_ladder.core.coaching import comfort

WORDS = {1: "not at ease", 2: "a little at ease", 3: "all right", 4: "at ease", 5: "at home"}


def ease_panel(record: Record) -> Panel | None:
    """What they said when they were asked, in the hall and at home."""
    told = Felt.objects.of_player(record.player, record.since, record.today)
    ends = comfort(told)
    if ends is None:
        return None
    first, last = ends
    lines = [
        _sentence(first, last, len(told)),
        "Told by the player, in the hall and at home.",
    ]
    rows = [[f"{on:%-d %b %Y}", f"{level} of 5", WORDS[level]] for on, level in reversed(told)]
    return Panel("ease", "At ease?", lines, _drawn(told, lines[0]), ["Day", "Said", ""], rows)


def _sentence(first: int, last: int, count: int) -> str:
    if count == 1:
        return f"Said {last} of 5, {WORDS[last]}, the one time it was asked."
    if first == last:
        return f"{last} of 5, {WORDS[last]}, at the beginning and now."
    return f"From {first} of 5, {WORDS[first]}, to {last} of 5, {WORDS[last]}."


def _drawn(told: list[tuple[date, int]], title: str) -> str:
    if len({on for on, _ in told}) < 2:
        return ""
    points = [scores_chart.Point(on, level, False, f"{level} of 5") for on, level in told]
    return scores_chart.scores(points, None, None, lambda v: f"{v:.0f}", title)
