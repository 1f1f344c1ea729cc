"""Turns owed: who misses early in a stay-alive drill plays least, and gets turns more
(docs/methods.md, 31).
"""

from collections import defaultdict
from collections.abc import Iterable

from drill_ladder.apps.floor.hall.settling import WORK, work_of
from drill_ladder.apps.floor.models import FloorTap
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.coaching import turns_of
from drill_ladder.core.judging import Streak
from drill_ladder.formats.words import many


def owed(taps: Iterable[FloorTap]) -> list[str]:
    """Who is owed how many turns, drill by drill, by name; nothing before two have played. taps: of
    a day in the hall.
    """
    by_stay: dict[int, list[FloorTap]] = defaultdict(list)
    for tap in taps:
        if tap.stay_id is not None and tap.act in WORK:
            by_stay[tap.stay_id].append(tap)
    played: dict[tuple[str, int], list[tuple[str, list[int]]]] = defaultdict(list)
    standing = Stay.objects.with_all().filter(pk__in=list(by_stay)) if by_stay else ()
    for stay in standing:
        measure = stay.terms.rung.measure
        if isinstance(measure, Streak) and measure.cap is not None:
            cap = measure.cap
            sets = work_of(by_stay[stay.pk], stay.terms.rung).sets
            runs = [s.makes for s in sets if measure.over(s.attempts, s.makes, None)]
            drill = stay.worked_on.drill.title
            played[drill, cap].append((stay.prescription.player.name, runs))
    return [
        line for (drill, cap), rows in sorted(played.items()) for line in _lines(drill, cap, rows)
    ]


def _lines(drill: str, cap: int, rows: list[tuple[str, list[int]]]) -> list[str]:
    begun = [(name, runs) for name, runs in rows if runs]
    if len(begun) < 2:
        return []
    found = turns_of(cap, sorted(begun))
    return [f"{one.id}: {many(one.top_up, 'turn')} more of {drill}" for one in found if one.top_up]
