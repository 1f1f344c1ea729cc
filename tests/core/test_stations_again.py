"""Stations whose players change on the way: worked by hand for three, and properties for many."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from drill_ladder.core.errors import CoreError
from drill_ladder.core.planning.stations import Station, resume, rotate

A, B = Station("a", 1, ("worker",), 10), Station("b", 1, ("worker",), 20)


def seats(found):
    return [[(t.player, t.station) for t in slot] for slot in found.slots]


def test_a_late_player_goes_where_the_others_have_been():
    """Two players have each been at a and b once; a third comes. Two slots more of a rotation of
    three.

    By hand: begun at slot 1 the new one gets nothing and then b; at slot 2 b and then a; at slot 3
    a and then nothing. Squares of the counts: (2,1,1,2 and 0,1) = 11; (2,1 ... ) the least is where
    the new one works twice.
    """
    before = [{"a": 1, "b": 1}, {"a": 1, "b": 1}, {}]
    found = resume(3, [A, B], 2, before, 60)
    new = [
        station for slot in found.slots for t in slot if t.player == 3 for station in [t.station]
    ]
    assert sorted(new) == ["a", "b"]
    assert len(found.slots) == 2
    # 6 reps at a and 3 at b in a minute
    assert found.players[2].reps == 9
    assert found.idle_share == pytest.approx(1 / 3)


@pytest.mark.parametrize(
    ("capacity", "roles", "balls", "reps"),
    [
        # by hand: one in 6 s for 60 s is 10; with 2 balls for 3 workers each has one for 40 s
        (3, ("worker",), None, 10),
        (3, ("worker",), 2, 6),
        (3, ("worker",), 1, 3),
        (3, ("worker",), 3, 10),
        (3, ("worker",), 9, 10),
        # of four players two work: one ball is half a minute each
        (4, ("worker", "feeder"), 1, 5),
        (2, ("worker", "feeder"), 1, 10),
    ],
)
def test_one_ball_between_several_is_a_share_of_the_time(capacity, roles, balls, reps):
    """All those who share a ball together never do more than the ball allows."""
    station = Station("a", capacity, roles, 6, balls)
    assert station.reps(60) == reps
    assert station.workers * station.reps(60) * 6 <= 60 * min(balls or 99, station.workers)
    found = rotate(capacity, [station], 60)
    worked = [one.roles.get(roles[0], 0) for one in found.players]
    assert [one.reps for one in found.players] == [n * reps for n in worked]


def test_without_a_past_it_is_the_beginning_of_a_rotation():
    assert seats(resume(4, [A, B], 4, [{}] * 4, 60)) == seats(rotate(4, [A, B], 60))


def test_fewer_players_leave_a_station_out():
    wide = Station("wide", 4, ("worker", "feeder"), 5)
    found = resume(3, [A, wide], 2, [{}] * 3, 60)
    assert found.left_out == ["wide"]
    with pytest.raises(CoreError):
        resume(2, [wide], 1, [{}] * 2, 60)


@settings(max_examples=60, deadline=None)
@given(
    players=st.integers(2, 12), slots=st.integers(1, 15), capacity=st.integers(1, 3), data=st.data()
)
def test_nobody_is_in_two_places_and_every_place_is_taken(players, slots, capacity, data):
    stations = [A, Station("c", min(capacity, players - 1), ("worker",), 6)]
    before = data.draw(
        st.lists(
            st.fixed_dictionaries({"a": st.integers(0, 3)}), min_size=players, max_size=players
        )
    )
    found = resume(players, stations, slots, before, 60, 10)
    assert len(found.slots) == slots
    for slot in found.slots:
        names = [turn.player for turn in slot]
        assert len(set(names)) == len(names) == sum(s.capacity for s in stations)
    assert sum(p.reps for p in found.players) == slots * (6 + (10 * stations[1].capacity))
