"""The weeks of many players, planned or told by a handful of questions however many they are.
Whoever cannot be planned or told is named with the reason, and the rest goes on.
"""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.weeks.arranging import arrange, place, store, worked_on
from drill_ladder.apps.weeks.board import BEST_FOUND
from drill_ladder.apps.weeks.models import Week
from drill_ladder.apps.weeks.plan import WeekPlan, week_plans
from drill_ladder.apps.weeks.publishing import tell_locked
from drill_ladder.apps.weeks.services import locked_plans

Line = tuple[Player, str]  # whose week, and what is to be said of it


@dataclass(frozen=True, slots=True)
class Solved:
    """A week as it was worked out, and what it was worked out from."""

    plan: WeekPlan
    of: tuple[Any, ...]


def solve_ahead(
    players: Sequence[Player], monday: date, each: Callable[[int], None]
) -> dict[int, Solved]:
    """Player id -> the week worked out anew and not stored: nobody has to wait for the solver.
    each: told how many are done, after each one.
    """
    plans = week_plans(players, monday, Week.objects.of_players(players).beginning(monday))
    worked = worked_on(plans)
    solved = {}
    for done, plan in enumerate(plans, 1):
        of = _depends_on(plan)
        place(plan)
        arrange(plan, worked)
        solved[plan.player.pk] = Solved(plan, of)
        each(done)
    return solved


def _depends_on(plan: WeekPlan) -> tuple[Any, ...]:
    kept = sorted((block.pk, block.stay_id or 0) for block in plan.asked_blocks if block.locked)
    asked = [(want.stay.pk, want.rung) for want in plan.demand.values()]
    return plan.sign(), kept, asked


def store_solved(
    member: Membership, players: Sequence[Player], monday: date, solved: dict[int, Solved]
) -> list[Line]:
    """What was worked out is stored, in a transaction of the caller's; a week that is another by
    now is worked out again. What is to be said of whom. Raises Refused for whoever may not.
    """
    plans, resting = locked_plans(member, players, monday)
    worked = worked_on(plans)
    for plan in plans:
        ahead = solved.get(plan.player.pk)
        if ahead is not None and ahead.of == _depends_on(plan):
            _take_over(plan, ahead.plan)
        else:
            place(plan)
            arrange(plan, worked)
    store(plans)
    unproven = {plan.player.pk: BEST_FOUND for plan in plans if not plan.proven}
    return list(_lines(players, _refused(resting) | unproven))


def _take_over(plan: WeekPlan, ahead: WeekPlan) -> None:
    for block in ahead.blocks:
        block.week = plan.week
    plan.blocks, plan.proven = ahead.blocks, ahead.proven
    plan.week.unplaced, plan.week.unplaced_of = ahead.week.unplaced, ahead.week.unplaced_of


def publish_many(
    member: Membership, players: Sequence[Player], monday: date, at: datetime
) -> list[Line]:
    """Each of them is told the week, in a transaction of the caller's; who was not, and why. Raises
    Refused for whoever may not.
    """
    plans, resting = locked_plans(member, players, monday)
    return list(_lines(players, _refused(resting) | tell_locked(member, plans, at)))


def _refused(resting: dict[int, str]) -> dict[int, str]:
    return {pk: f"{why} Nothing was changed." for pk, why in resting.items()}


def _lines(players: Sequence[Player], said: dict[int, str]) -> Iterator[Line]:
    return ((player, said[player.pk]) for player in players if player.pk in said)
