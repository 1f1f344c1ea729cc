"""`./ladder bench`: what the core costs on this machine, each figure beside its limit and a
yardstick of the same run.

The yardstick is a plain Python loop of ten million additions: where it takes longer, everything
does.
"""

import subprocess
import sys
import time
from collections.abc import Callable
from datetime import date, timedelta
from pathlib import Path
from typing import Any

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from drill_ladder.core.judging import (
    Dose,
    Evidence,
    InARow,
    Intent,
    Ladder,
    Makes,
    Observer,
    Rule,
    Rung,
    Session,
    SetResult,
    Target,
    Volume,
    Window,
    decide,
)
from drill_ladder.core.looking_back import (
    DayOf,
    Left,
    PastStay,
    RungStay,
    backtest,
    club_model,
    health_of,
)
from drill_ladder.core.odds import MakesSession, Question, find_rules, odds
from drill_ladder.core.planning import Day, Station, Wish, plan_week, rotate

SIDES = ("left", "right")
D = date(2020, 1, 1)
RUNGS = tuple(
    Rung(f"r{i}", Makes(), Dose(reps=10), Target(8, 10, each_lane=True), lanes=SIDES, floor=0.4)
    for i in range(1, 7)
)
LADDER = Ladder(RUNGS, Rule(InARow(2)))


def sessions(days: int, sets: int, a_day: int = 1) -> list[Session]:
    """Believable enough: makes that go up and down."""
    return [
        Session(
            D + timedelta(days=2 * (i // a_day)),
            Observer.SELF,
            tuple(SetResult(SIDES[s % 2], 5, (i + s) % 6, faults={"late": 1}) for s in range(sets)),
        )
        for i in range(days)
    ]


def timed(act: Callable[[], Any], runs: int = 3) -> float:
    """Seconds of the best of a few runs."""
    best = float("inf")
    for _ in range(runs):
        start = time.perf_counter()
        act()
        best = min(best, time.perf_counter() - start)
    return best


def yardstick() -> None:
    """Ten million additions."""
    total = 0
    for i in range(10_000_000):
        total += i


def many_decisions(number: int, sets: int) -> Callable[[], None]:
    """Decide on as many prescriptions of twelve sessions."""
    history = sessions(12, sets)

    def act() -> None:
        for _ in range(number):
            decide(LADDER, "r2", history, D + timedelta(days=30))

    return act


def one_big_decision() -> None:
    """One hundred thousand sets."""
    decide(LADDER, "r2", BIG, D + timedelta(days=10_000))


BIG = sessions(25_000, 4, a_day=10)


def many_odds() -> None:
    """A whole curve, two lanes."""
    rates = [[i / 100, i / 100] for i in range(101)]
    odds(MakesSession(10, 8, 2, True, 0.4), Rule(InARow(2)), rates, 20)


def many_spread_odds() -> None:
    """The same, of days that differ."""
    rates = [[i / 100, i / 100] for i in range(101)]
    odds(MakesSession(10, 8, 2, True, 0.4), Rule(InARow(2)), rates, 20, 0.05)


def learning() -> None:
    """200 players, 200 days each, on six rungs."""
    club_model(
        [
            DayOf(f"p{p}", 1 + day // 40, day, 10, (p + 3 * day + p * day % 7) % 11)
            for p in range(200)
            for day in range(200)
        ]
    )


def finder() -> None:
    """All schools."""
    rules = [
        Rule(s) for s in (InARow(1), InARow(2), Window(2, 3), Evidence(0.8, 3), Volume(reps=99))
    ]
    find_rules(Question(0.6, 0.85, 0.1, 0.1, 6, 30), rules)


def week() -> None:
    """Seven days, twelve wishes."""
    days = [Day(D + timedelta(days=i), 45, "home" if i % 2 else "club") for i in range(7)]
    wishes = [
        Wish(f"w{i}", 3, 10 + i, 1 + i % 4, list(Intent)[i % 4], rest_day_between=i % 3 == 0)
        for i in range(12)
    ]
    plan_week(days, wishes)


def looking_back() -> None:
    """Two hundred stays of thirty days under five rules."""
    told = sessions(30, 2)
    stays = [PastStay(tuple(told[i % 20 :] + told[: i % 20]), Left.UP) for i in range(200)]
    schools = (InARow(1), InARow(2), InARow(3), Window(2, 3), Window(3, 5))
    backtest(RUNGS[0], [Rule(school) for school in schools], stays)


def ladder_health() -> None:
    """Two thousand stays."""
    left = list(Left)
    stays = [
        RungStay(f"r{1 + i % 6}", 1 + i % 9, left[i % 3], (i % 10) / 10, (i % 7) / 7, i % 5 == 0)
        for i in range(2000)
    ]
    health_of([rung.id for rung in RUNGS], stays)


def stations() -> None:
    """Sixty players."""
    rotate(
        60, [Station(f"s{i}", 6, ("worker", "feeder", "retriever"), 4) for i in range(10)], 180, 30
    )


def cold(command: list[str], data: bytes = b"") -> Callable[[], None]:
    """A process from a cold start."""
    return lambda: subprocess.run(command, input=data, check=True, capture_output=True)  # type: ignore[return-value]


def main() -> int:
    """Print the table; 1 when a limit is broken."""
    unit = timed(yardstick)
    imported = timed(cold([sys.executable, "-c", "import pydantic"]), 5)
    case = Path(__file__).parents[1] / "tests" / "core" / "case.json"
    decision = cold(["./ladder", "core", "decide"], case.read_bytes())
    # what, seconds, its yardstick in seconds, how many of these it may take
    rows = [
        ("10,000 decisions, 12 sessions x 4 sets", timed(many_decisions(10_000, 4), 2), unit, 5.0),
        (
            "2,500 with 16 sets (linear: as many sets)",
            timed(many_decisions(2_500, 16), 2),
            unit,
            1.5,
        ),
        ("one decision on 100,000 sets", timed(one_big_decision), unit, 0.4),
        ("odds: 101 rates, horizon 20, two lanes", timed(many_odds), unit, 0.2),
        ("the same of days that differ", timed(many_spread_odds), timed(many_odds), 5.0),
        ("learning: 200 players x 200 days", timed(learning, 1), unit, 20.0),
        ("rule finder up to 30 attempts, all schools", timed(finder), unit, 0.1),
        ("a week of 7 days and 12 wishes", timed(week), unit, 1.0),
        ("a plan of stations for 60 players", timed(stations), unit, 0.1),
        ("backtest: 200 stays x 30 days x 5 rules", timed(looking_back, 2), unit, 5.0),
        ("ladder-health: 2,000 stays", timed(ladder_health), unit, 0.1),
        ("./ladder core decide, cold", timed(decision, 5), imported, 2.5),
    ]
    print(f"{'what':50} {'seconds':>9} {'yardsticks':>11} {'at most':>8}")
    for name, seconds, of, most in rows:
        times = seconds / of
        print(f"{name:50} {seconds:9.3f} {times:11.2f} {most:8.2f}{'   OVER' * (times > most)}")
    print(f"{'yardstick: ten million additions':50} {unit:9.3f}")
    print(f"{'yardstick of the cold start: import pydantic':50} {imported:9.3f}")
    return int(any(seconds / of > most for _, seconds, of, most in rows))


if __name__ == "__main__":
    sys.exit(main())
