"""Weeks that somebody changed by hand: what stays, what breaks, what would help. Small cases worked
by hand.
"""

from datetime import date, timedelta

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from drill_ladder.core.judging.ladders import Intent
from drill_ladder.core.planning.home_version import kit_of, tool
from drill_ladder.core.planning.week import Day, Placed, Wish, plan_week
from drill_ladder.core.planning.week_checks import Break, Help, breaks, what_would_help

MONDAY = date(2026, 3, 2)


def day(n, minutes=30, place="home", **more):
    return Day(MONDAY + timedelta(days=n), minutes, place, **more)


def wish(name="a", per_week=1, minutes=10, priority=1, **more):
    return Wish(name, per_week, minutes, priority, **more)


def on(n):
    return MONDAY + timedelta(days=n)


def placed_on(blocks, name):
    return [(b.on - MONDAY).days for b in blocks if b.id == name]


def test_a_fixed_block_stays_and_the_rest_goes_around_it():
    days = [day(0, 20), day(1, 20)]
    wishes = [wish("a", 1, 20, 1), wish("b", 1, 20, 2)]
    free, _ = plan_week(days, wishes)
    assert (placed_on(free, "a"), placed_on(free, "b")) == ([0], [1])
    held, unmet = plan_week(days, wishes, [(on(0), "b")])
    assert (placed_on(held, "a"), placed_on(held, "b")) == ([1], [0])
    assert unmet == []


def test_a_fixed_block_stays_even_where_it_breaks_everything():
    """No club day for it, twice the minutes, next to another one of its ladder, a second speed
    block.
    """
    days = [day(0, 10), day(1, 10)]
    wishes = [
        wish("a", 1, 20, 1, places=frozenset({"club"}), rest_day_between=True, intent=Intent.SPEED),
        wish("b", 2, 10, 2, intent=Intent.SPEED),
    ]
    fixed = [(on(0), "a"), (on(1), "a"), (on(0), "b")]
    blocks, unmet = plan_week(days, wishes, fixed)
    assert placed_on(blocks, "a") == [0, 1]
    assert placed_on(blocks, "b") == [0]
    assert [u.id for u in unmet] == ["b"]
    codes = {(b.code, b.id, (b.on - MONDAY).days) for b in breaks(days, wishes, blocks)}
    assert codes == {
        ("place", "a", 0),
        ("place", "a", 1),
        ("minutes", "b", 0),
        ("minutes", "a", 1),
        ("spacing", "a", 1),
        ("often", "a", 1),
        ("speed", "a", 0),
        ("speed", "b", 0),
    }


def test_how_many_minutes_a_day_is_over():
    days, wishes = [day(0, 25)], [wish("a", 1, 20), wish("b", 1, 15)]
    blocks = [Placed(on(0), "a", 1, 20), Placed(on(0), "b", 2, 15)]
    assert breaks(days, wishes, blocks) == [Break(on(0), "b", "minutes", 10)]


def test_twice_a_day_is_told_once():
    blocks = [Placed(on(0), "a", 1, 5), Placed(on(0), "a", 2, 5)]
    assert [b.code for b in breaks([day(0)], [wish("a", 2)], blocks)] == ["twice"]


@pytest.mark.parametrize(
    ("days", "wishes", "why", "help_"),
    [
        # 20 are taken on Monday, 10 on Tuesday: five more on Tuesday let a block of 25 in
        (
            [day(0, 30), day(1, 20)],
            [wish("a", 2, 20, 1), wish("b", 1, 25, 2)],
            "minutes",
            Help("minutes", on(0), 15),
        ),
        (
            [day(0), day(1)],
            [wish("a", 1, places=frozenset({"club"}))],
            "place",
            Help("place", on(0)),
        ),
        ([day(0), day(1, helpers=1)], [wish("a", 2, helpers=1)], "helpers", Help("helpers", on(0))),
        ([day(0, adult=True), day(1)], [wish("a", 2, adult=True)], "adult", Help("adult", on(1))),
        (
            [day(0)],
            [wish("a", 1, equipment=frozenset({"wall"}))],
            "equipment",
            Help("equipment", on(0)),
        ),
        ([day(0), day(1)], [wish("a", 2, rest_day_between=True)], "spacing", Help("spacing")),
        ([day(0)], [wish("a", 2)], "days", Help("days")),
    ],
)
def test_what_would_help(days, wishes, why, help_):
    blocks, unmet = plan_week(days, wishes)
    assert [u.why for u in unmet] == [why]
    assert what_would_help(days, wishes, blocks, unmet[0]) == help_


@settings(max_examples=60, deadline=None)
@given(
    minutes=st.lists(st.integers(5, 40), min_size=1, max_size=4),
    wanted=st.lists(
        st.tuples(st.integers(1, 3), st.integers(5, 25), st.booleans()), min_size=1, max_size=3
    ),
    data=st.data(),
)
def test_a_plan_of_the_solver_breaks_nothing_and_holds_what_is_fixed(minutes, wanted, data):
    days = [day(i, m) for i, m in enumerate(minutes)]
    wishes = [
        wish(f"w{i}", n, m, 1 + i % 2, rest_day_between=r) for i, (n, m, r) in enumerate(wanted)
    ]
    blocks, _ = plan_week(days, wishes)
    assert breaks(days, wishes, blocks) == []
    chosen = data.draw(st.sampled_from([(d.on, w.id) for d in days for w in wishes]))
    held, _ = plan_week(days, wishes, [chosen])
    assert chosen in {(b.on, b.id) for b in held}
    told = {(b.on, b.id) for b in breaks(days, wishes, held)}
    assert told <= {chosen} | {(b.on, b.id) for b in held if b.on == chosen[0]}


@pytest.mark.parametrize(
    ("text", "name"),
    [
        ("three balls", "ball"),
        ("A Ball", "ball"),
        ("6 shuttles", "shuttle"),
        ("sock ball", "sock ball"),
        ("a pair of shoes", "shoe"),
        ("boxes", "box"),
        ("glass", "glass"),
        ("trolleys", "trolley"),
        ("two", ""),
        ("  ", ""),
    ],
)
def test_tools_as_people_write_them(text, name):
    assert tool(text) == name
    assert kit_of([text, text.upper()]) == (frozenset({name}) if name else frozenset())
