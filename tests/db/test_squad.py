"""A squad at one look: how everybody stands, what many share, by few questions."""

from datetime import timedelta

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.models import Stop
from drill_ladder.apps.practice.sessions.services import SessionInput, SetInput, record_session
from drill_ladder.apps.progress.squad.overview import (
    Standing,
    covered,
    covered_lines,
    kept,
    rows_of,
    shared,
    squad_record,
)
from tests.make import current, log, put_on, text


@pytest.fixture
def squad(w):
    return w.club.squads.create(name="Under 14")


@pytest.fixture
def member_of(w, squad, today):
    """A player of the squad on the ladder for five weeks."""

    def make(name, place="coached", **more):
        player = Player.objects.create(
            club=w.club, name=name, squad=squad, joined_on=today, seen_on=today, **more
        )
        return put_on(w, player=player, on=today - timedelta(days=35), place=place)

    return make


def strokes(p, on, today, left, right, fault="wide"):
    """A session of ten a lane with faults on the misses."""
    sets = [
        SetInput(
            None,
            lane,
            {"attempts": 10, "makes": made, "faults": {fault: 10 - made} if made < 10 else {}},
        )
        for lane, made in (("left", left), ("right", right))
    ]
    entry = SessionInput(id=None, on=on, observer="coach", sets=sets)
    return record_session(stay=current(p), entry=entry, today=today, actor=None)


def test_everybody_stands_somewhere_and_who_needs_a_coach_comes_first(w, squad, member_of, today):
    climbs, rests, behind, away = (
        member_of("Climbs"),
        member_of("Rests"),
        member_of("Behind", place="home"),
        member_of("Away"),
    )
    holds = member_of("Holds")
    log(climbs, today - timedelta(days=4), 10, 10)
    log(climbs, today - timedelta(days=2), 10, 10)
    Stop.objects.create(club=w.club, player=rests.player, opened_on=today, what="knee")
    log(behind, today - timedelta(days=3), 5, 5)
    Player.objects.filter(pk=away.player_id).update(seen_on=today - timedelta(days=20))
    log(holds, today - timedelta(days=3), 5, 5)
    rows = rows_of(squad_record(squad, today))
    assert [(row.player.name, row.standing) for row in rows] == [
        ("Rests", Standing.RESTS),
        ("Behind", Standing.BEHIND),
        ("Away", Standing.AWAY),
        ("Holds", Standing.HOLDS),
        ("Climbs", Standing.CLIMBS),
    ]
    said = {row.player.name: row.said for row in rows}
    assert said["Behind"] == f"1 of {behind.per_week} days in the last week."
    assert said["Climbs"] == "May climb: it waits in Review."
    assert said["Holds"] == "1 day here in four weeks."


def test_a_fault_that_half_of_them_share_and_not_one_that_two_do(w, squad, member_of, today):
    on = today - timedelta(days=3)
    for name in ("A", "B", "C"):
        strokes(member_of(name), on, today, 2, 10)
    strokes(member_of("D"), on, today, 2, 10, fault="late")
    lines = [one.line for one in shared(squad_record(squad, today))]
    assert f"3 of 4 on {w.ladder.title} miss most often by “wide” on the left" in lines[0]
    assert any("4 of 4" in line and "weaker on the left, for real" in line for line in lines)
    # two are not many; and who is clean was counted, who was not counted is not
    assert not any("late" in line for line in lines)
    for name in ("E", "F", "G"):
        strokes(member_of(name), on, today, 10, 10)
    lines = [one.line for one in shared(squad_record(squad, today))]
    assert not any("wide" in line for line in lines)


def test_where_nobody_counted_faults_nothing_is_shared(w, squad, member_of, today):
    for name in ("A", "B", "C"):
        log(member_of(name), today - timedelta(days=3), 7, 7)
    assert shared(squad_record(squad, today)) == []


def test_lanes_lately_and_weeks_kept(w, squad, member_of, today):
    first, second = member_of("A"), member_of("B")
    log(first, today - timedelta(days=3), 5, 5)
    log(second, today - timedelta(days=30), 5, 5)
    found = squad_record(squad, today)
    assert [(one.lane, one.seen, one.of) for one in covered(found)] == [
        ("left", 1, 2),
        ("right", 1, 2),
    ]
    assert covered_lines(found) == [(w.ladder.title, "left 1 of 2, right 1 of 2")]
    names = [player.name for player, _, _ in kept(found)]
    assert names == ["A", "B"]
    assert all(" planned" in said and "<svg" in svg for _, svg, said in kept(found))


def test_sixty_players_by_the_questions_of_one(w, squad, member_of, today, coach):
    """At most 12 queries, sign-in and all."""
    path = f"/squads/{squad.pk}/progress/"
    for number in range(60):
        p = member_of(f"Player {number:02}")
        if number % 10 == 0:
            log(p, today - timedelta(days=2), 5, 5)
    with CaptureQueriesContext(
        connection,
    ) as asked:
        page = text(coach.get(path))
    assert page.count('class="whole"') == 60
    assert len(asked) <= 12


def test_sorted_and_by_ladder_and_a_group_block_goes_to_the_floor(
    w, squad, member_of, today, coach
):
    for name in ("C", "A", "B"):
        strokes(member_of(name), today - timedelta(days=3), today, 3, 9)
    path = f"/squads/{squad.pk}/progress/"
    page = text(coach.get(f"{path}?by=name&ladder={w.ladder.pk}"))
    assert "<td><svg" in page
    assert page.index("<strong>A<") < page.index("<strong>B<") < page.index("<strong>C<")
    assert "Nobody on a ladder" in text(coach.get(f"{path}?ladder=999999&by=%00"))
    floor = text(coach.get(f"/stations/?squad={squad.pk}&title=Gate:+wide"))
    assert 'value="Gate: wide"' in floor
    assert f'<option value="{squad.pk}" selected>' in floor


def test_another_clubs_squad_is_not_there(other, squad, coach):
    theirs = other.club.squads.create(name="Theirs")
    assert coach.get(f"/squads/{theirs.pk}/progress/").status_code == 404
