"""Looking back at one's own rules: recorded stays replayed under any rule (docs/methods.md, 33).

Only what was recorded up to the real move is known, so a rule can be asked whether it would have
moved a player by then, and no more. Climbs only: easing and stepping down are taken as they were.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from drill_ladder.core.judging.decision import Settings, judge_days, upwards
from drill_ladder.core.judging.ladders import Ladder, Rule, Rung
from drill_ladder.core.judging.schools import Extra
from drill_ladder.core.judging.sessions import OBSERVED, Session
from drill_ladder.core.judging.verdicts import Judged, Yardstick
from drill_ladder.core.looking_back.survival import Left, median_up

Days = Sequence[Judged]


@dataclass(frozen=True, slots=True)
class PastStay:
    """A finished stay on the rung. came_back: whether who went up came down or was eased within the
    first three full sessions there; None where that is not known.
    """

    sessions: tuple[Session, ...]
    moved: Left
    came_back: bool | None = None


@dataclass(frozen=True, slots=True)
class Back:
    """How many came back, of those of whom it is known."""

    n: int
    of: int


@dataclass(frozen=True, slots=True)
class Backtest:
    """A rule replayed. moves: stays that it moves at all; of those really moved up: by_then, those
    that it had moved by that day, later, those that it would have made wait; how many of each came
    back; median_sessions: full sessions until half are moved, None where that is not reached.
    """

    moves: int
    by_then: int
    later: int
    back_if_moved: Back
    back_if_waited: Back
    median_sessions: int | None


def backtest(
    rung: Rung, rules: Sequence[Rule], stays: Sequence[PastStay], settings: Settings = Settings()
) -> list[Backtest]:
    """One answer for each rule; the rung's own rule is not used."""
    judged: dict[float, list[Days]] = {}
    found = []
    for rule in rules:
        if rule.min_share not in judged:
            yardstick = Yardstick(rung, rule.min_share)
            judged[rule.min_share] = [_days(yardstick, stay, settings) for stay in stays]
        found.append(_replayed(_ladder(rung, rule), stays, judged[rule.min_share], settings))
    return found


def _days(yardstick: Yardstick, stay: PastStay, settings: Settings) -> Days:
    return judge_days(yardstick, stay.sessions, settings)[0]


def _ladder(rung: Rung, rule: Rule) -> Ladder:
    """The rung with two above it, so that a skip has somewhere to go."""
    return Ladder(tuple(replace(rung, id=f"r{i}", rule=None) for i in range(3)), rule)


def _replayed(
    ladder: Ladder, stays: Sequence[PastStay], judged: Sequence[Days], settings: Settings
) -> Backtest:
    moved_after = [
        _moved_after(ladder, stay, days, settings) for stay, days in zip(stays, judged, strict=True)
    ]
    up = [
        (stay, after is not None)
        for stay, after in zip(stays, moved_after, strict=True)
        if stay.moved is Left.UP
    ]
    return Backtest(
        moves=sum(after is not None for after in moved_after),
        by_then=sum(moved for _, moved in up),
        later=sum(not moved for _, moved in up),
        back_if_moved=_back([stay for stay, moved in up if moved]),
        back_if_waited=_back([stay for stay, moved in up if not moved]),
        median_sessions=median_up(_times(judged, moved_after)),
    )


def _times(judged: Sequence[Days], moved_after: Sequence[int | None]) -> list[tuple[int, Left]]:
    """(full sessions until the move or the end of the stay, whether it moved), without stays of no
    full session.
    """
    times = []
    for days, after in zip(judged, moved_after, strict=True):
        seen = days if after is None else days[:after]
        full = sum(day.full for day in seen)
        if any(day.full for day in days):
            times.append((full, Left.OPEN if after is None else Left.UP))
    return times


def _moved_after(ladder: Ladder, stay: PastStay, days: Days, settings: Settings) -> int | None:
    """After how many days the rule moves the player; None if it never does."""
    extra = [s for s in stay.sessions if s.extra]
    for number in range(1, len(days) + 1):
        on = days[number - 1].on
        done: Extra = [(s.observer in OBSERVED, s.sets) for s in extra if s.on <= on]
        if upwards(ladder, ladder.rungs[0].id, days[:number], on, settings, done):
            return number
    return None


def _back(stays: Sequence[PastStay]) -> Back:
    known = [stay.came_back for stay in stays if stay.came_back is not None]
    return Back(sum(known), len(known))
