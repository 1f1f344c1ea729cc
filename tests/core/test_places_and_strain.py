"""Lanes at their places, and a week that keeps to what a body can take."""

from collections import Counter
from datetime import date, timedelta

import pytest

from drill_ladder.core.planning.week import Day, Wish, plan_within
from drill_ladder.core.plans import FloorPlan, Marker, Unit, Zone, lane_places

D = date(2026, 3, 2)


def day_of(n):
    return Day(D + timedelta(days=n), 30, "home")


def test_lanes_lie_where_zones_or_markers_bear_their_names():
    plan = FloorPlan(
        Unit.FT,
        (Marker("A", 0, 0), Marker("F", 6, -3), Marker("B", -6, -3)),
        zones=(
            Zone("left gate", ((-8, 12), (-5, 12), (-5, 13), (-8, 13))),
            Zone("right gate", ((5, 12), (8, 12), (8, 13), (5, 13))),
        ),
    )
    found = lane_places(plan, ["left", "right"])
    assert found is not None
    assert found["left"] == pytest.approx((-6.5 * 0.3048, 12.5 * 0.3048))
    corners = lane_places(plan, ["forehand corner", "backhand corner"])
    assert corners == {
        "forehand corner": pytest.approx((6 * 0.3048, -3 * 0.3048)),
        "backhand corner": pytest.approx((-6 * 0.3048, -3 * 0.3048)),
    }
    assert lane_places(plan, ["left", "middle"]) is None
    assert lane_places(plan, []) is None


def test_the_planner_keeps_to_what_a_week_has_room_for():
    """By hand: blocks of 20 throws, 50 allowed: two of three; the other ladder throws nothing."""
    days = [day_of(n) for n in range(5)]
    throws = Wish("t", 3, 10, 1, strain={"throws": 20})
    plain = Wish("p", 3, 10, 2)
    planned = plan_within(days, [throws, plain], limits={"throws": 50})
    assert Counter(block.id for block in planned.blocks) == {"t": 2, "p": 3}
    assert [(one.id, one.given, one.why) for one in planned.unmet] == [("t", 2, "strain")]
    assert len(plan_within(days, [throws, plain]).blocks) == 6
    held = {(D, "t"), (D + timedelta(days=1), "t"), (D + timedelta(days=2), "t")}
    kept = plan_within(days, [throws, plain], held, limits={"throws": 10})
    assert Counter(block.id for block in kept.blocks) == {"t": 3, "p": 3}
