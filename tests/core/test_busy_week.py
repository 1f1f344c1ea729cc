"""A week that is hard to plan is planned alike on an idle machine and on a busy one."""

import random
from datetime import date, timedelta

from drill_ladder.core.planning.week import Day, Wish, plan_within
from drill_ladder.core.planning.week_checks import breaks

D = date(2026, 9, 7)


def hard_week():
    """Twelve wishes that hardly fit: the solver needs more than two thousand nodes."""
    chance = random.Random(112)
    days = [Day(D + timedelta(days=n), chance.choice([31, 41, 47]), "home") for n in range(7)]
    wishes = [
        Wish(
            f"w{n}",
            chance.randint(2, 4),
            chance.choice([9, 11, 13, 14, 17]),
            chance.choice([1, 2]),
            rest_day_between=chance.random() < 0.3,
        )
        for n in range(12)
    ]
    return days, wishes


def test_a_busy_machine_plans_the_same_week():
    """Nodes are counted, whatever the clock says: stopped early, the plan is still the same."""
    days, wishes = hard_week()
    plans = [plan_within(days, wishes, (), 20, spread=True) for _ in range(2)]
    assert plans[0] == plans[1]
    assert not plans[0].proven
    assert breaks(days, wishes, plans[0].blocks) == []
