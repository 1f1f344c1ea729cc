"""Short ways to say rungs, rules and sessions in tests."""

from datetime import date, timedelta
from typing import Any

from drill_ladder.core.judging.ladders import InARow, Ladder, Rule, Rung, School, Target
from drill_ladder.core.judging.measures import (
    Dose,
    Makes,
    Measure,
    SetResult,
)
from drill_ladder.core.judging.sessions import Observer, Session

START = date(2026, 3, 2)


def on(day: int) -> date:
    """Day 1 is Monday 2 March 2026."""
    return START + timedelta(days=day - 1)


def rung(
    id: str = "r1",
    makes: int = 8,
    of: int = 10,
    lanes: tuple[str, ...] = (),
    each: bool = False,
    measure: Measure | None = None,
    target: Target | None = None,
    dose: Dose | None = None,
    **more: Any,
) -> Rung:
    """A rung of ten attempts, eight of them good, unless said otherwise."""
    goal = target or Target(makes=makes, of=of, each_lane=each)
    return Rung(id, measure or Makes(), dose or Dose(reps=of), goal, lanes=lanes, **more)


def ladder(*rungs: Rung, school: School | None = None, **gates: Any) -> Ladder:
    """A ladder; one pass climbs unless said otherwise."""
    return Ladder(rungs, Rule(school or InARow(1), **gates))


def made(
    day: int,
    *makes: int,
    of: int = 10,
    lanes: tuple[str, ...] = (),
    seen: str = "coach",
    **more: Any,
) -> Session:
    """A session: makes of `of`, one set for each number given, in the order of the lanes."""
    sets = tuple(
        SetResult(lane=lanes[i] if lanes else None, attempts=of, makes=m)
        for i, m in enumerate(makes)
    )
    return Session(on(day), Observer(seen), sets, **more)
