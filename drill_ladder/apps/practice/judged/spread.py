"""By how much a player's days differ at a club, from its own record; measured at night."""

from collections import defaultdict
from datetime import date, timedelta

from drill_ladder.apps.people.models import Club
from drill_ladder.apps.practice.models import JudgedDay
from drill_ladder.core.looking_back import day_spread

LATELY = timedelta(days=180)
Counts = tuple[date, int, int]


def measure_spread(club: Club, today: date) -> None:
    """Kept with the club: what odds, finder and builder reckon with."""
    spread = day_spread(_stays(club, today))
    Club.objects.filter(pk=club.pk).update(day_spread=spread.spread, day_spread_df=spread.df)


def _stays(club: Club, today: date) -> list[list[Counts]]:
    """Each stay and lane with the counts of its full days, as asked."""
    rows = JudgedDay.objects.of_club(club).since(today - LATELY).full_as_asked()
    lanes: dict[tuple[int, str], list[Counts]] = defaultdict(list)
    for row in rows.only("stay_id", "on", "sets"):
        counts: dict[str, list[int]] = defaultdict(lambda: [0, 0])
        for s in row.sets:
            if s.attempts is not None and s.makes is not None:
                pooled = counts[s.lane or ""]
                pooled[0], pooled[1] = pooled[0] + s.attempts, pooled[1] + s.makes
        for lane, (attempts, makes) in counts.items():
            lanes[row.stay_id, lane].append((row.on, attempts, makes))
    return list(lanes.values())
