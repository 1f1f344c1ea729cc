"""What a rung's caller calls in each set, for the browser: the order is the core's, seeded by the
stay and the day, so that a page opened twice calls the same.
"""

from collections.abc import Sequence
from dataclasses import replace
from datetime import date
from math import atan2, degrees, hypot
from typing import Any

from drill_ladder.apps.practice.work.entries import Entry
from drill_ladder.core.coaching import calls, sequence, shown_on
from drill_ladder.core.judging import Caller, Cue, Rung, Way
from drill_ladder.core.plans import Plan, swapped, way_to

USUAL_CALLS, MOST_CALLS = 10, 300


def caller_of(
    rung: Rung, entries: Sequence[Entry], plan: Plan | None, seed: int, mirrored: bool = False
) -> dict[str, Any] | None:
    """The calls of every set; None where the rung has no caller. seed: of this stay and day;
    mirrored: left and right are changed over, as they are in the plan.
    """
    caller = rung.caller
    if caller is None:
        return None
    if mirrored:
        caller = replace(caller, cues=tuple(_over(cue) for cue in caller.cues))
    turns = arrows(caller, plan) if caller.way == Way.ARROW else {}
    return {
        "calls": [_calls(caller, rung, entry, turns, seed + i) for i, entry in enumerate(entries)],
        "late_s": caller.late_s,
        "late_at": caller.late_at,
        "reached": reached(caller, plan),
        "way": caller.way.value,
    }


def reached(caller: Caller, plan: Plan | None) -> float | None:
    """Seconds from the start until the marker of a late call is reached at the told speed; None
    where nobody told it, or the plan does not have the marker.
    """
    if plan is None or not caller.late_at or not caller.late_speed:
        return None
    metres = way_to(plan, caller.late_at)
    return None if metres is None else round(metres / caller.late_speed, 2)


def _over(cue: Cue) -> Cue:
    return Cue(swapped(cue.name), swapped(cue.action), swapped(cue.by))


def seed_of(stay: int, on: date) -> int:
    """A number that stays all day, and is another one tomorrow."""
    return stay * 100_003 + on.toordinal()


def _calls(
    caller: Caller, rung: Rung, entry: Entry, turns: dict[str, float], seed: int
) -> list[dict[str, Any]]:
    order = sequence(caller.names, _how_many(caller, rung, entry), caller.mode, seed=seed)
    low, high = ((1 + way * caller.spread) * caller.every_s for way in (-1, 1))
    cues = {cue.name: cue for cue in caller.cues}
    called = calls(order, (low, high), leave_share=caller.leave, seed=seed)
    on = shown_on([call.cue for call in called], caller.clash, seed)
    return [
        {
            "cue": call.cue,
            "action": cues[call.cue].action,
            "by": cues[call.cue].by,
            "leave": call.leave,
            "wait": round(call.delay_s, 2),
            "turn": turns.get(call.cue),
            "on": colour,
        }
        for call, colour in zip(called, on, strict=True)
    ]


def _how_many(caller: Caller, rung: Rung, entry: Entry) -> int:
    """Calls to answer as many as attempts are asked, and those to be left beside them."""
    if rung.measure.window:
        wanted = rung.measure.window / caller.every_s
    else:
        wanted = (entry.asked or rung.dose.reps or USUAL_CALLS) / (1 - caller.leave)
    return max(1, min(MOST_CALLS, round(wanted)))


def arrows(caller: Caller, plan: Plan | None) -> dict[str, float]:
    """Call -> degrees clockwise from straight ahead, seen from the first marker of the floor plan,
    for the calls that are markers of it.
    """
    if plan is None or not plan.markers:
        return {}
    x, y = next(iter(plan.markers.values()))
    ways = {name: (mx - x, my - y) for name, (mx, my) in plan.markers.items()}
    return {
        name: round(degrees(atan2(*ways[name])), 1)
        for name in caller.names
        if name in ways and hypot(*ways[name]) > 0
    }
