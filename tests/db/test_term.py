"""A term in advance: from the record, by few questions, and asked of the past."""

from copy import deepcopy
from datetime import timedelta

import numpy as np
import pytest
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from drill_ladder.apps.people.models import Player
from drill_ladder.apps.prescriptions.models import Arrival
from drill_ladder.apps.progress.decisions.record import how_they_went
from drill_ladder.apps.progress.season.term import (
    Wish,
    assumptions,
    hindsight_of,
    simulated,
    start_of,
    steepest,
)
from tests import make
from tests.make import current, log, put_on, text


@pytest.fixture(scope="module")
def made(once):
    """A club with nine players who each came up one rung three weeks ago after two good days, and
    have worked there since.
    """
    w, found, today = make.world(), [], timezone.localdate()
    squad = w.club.squads.create(name="Under 14")
    for number in range(9):
        player = Player.objects.create(
            club=w.club, name=f"Player {number}", squad=squad, joined_on=today, seen_on=today
        )
        p = put_on(w, player=player, on=today - timedelta(days=42), place="coached")
        for days in (35, 32, 28):
            log(p, today - timedelta(days=days), 8, 8)
        up(p, today - timedelta(days=24))
        for days in (21, 18, 14, 10, 7, 3):
            log(p, today - timedelta(days=days), 6, 5 + number % 3)
        found.append(p)
    return w, squad, found


@pytest.fixture
def crowded(made, db):
    """As it was made: what a test changes, rows and values, is its own."""
    return deepcopy(made)


@pytest.fixture
def w(crowded):
    return crowded[0]


@pytest.fixture
def squad(crowded):
    return crowded[1]


@pytest.fixture
def crowd(crowded):
    return crowded[2]


def up(p, on):
    """Moved to the next rung on a day."""
    from drill_ladder.apps.prescriptions.models import Stay

    stay = current(p)
    Stay.objects.filter(pk=stay.pk).update(left=on)
    above = p.ladder.rungs.get(position=stay.rung.position + 1)
    Stay.objects.create(
        club=p.club, prescription=p, rung=above, arrived=on, how=Arrival.CLIMB, terms=stay.terms
    )


def start(w, squad, day):
    rungs = list(w.ladder.rungs.select_related("drill"))
    players = list(squad.players.all())
    return start_of(w.ladder, rungs, players, how_they_went(w.ladder), day, 0.05)


def test_it_starts_where_everybody_stands(w, squad, crowd, today):
    found = start(w, squad, today)
    assert found.enough
    assert [one.at for one in found.starters] == [1] * 9
    assert found.stays == 18
    names = [one.player.name for one in found.starters]
    assert names == sorted(names)
    then = start(w, squad, today - timedelta(days=30))
    assert [one.at for one in then.starters] == [0] * 9
    assert all(len(one.climber.after) == 2 for one in then.starters)


def test_more_work_and_easier_rules_never_bring_fewer_through(w, squad, crowd, today):
    found = start(w, squad, today)
    plain = simulated(found, Wish(8))
    assert plain.reached.shape == (9, 400, len(found.rungs) + 1)
    assert (simulated(found, Wish(8)).reached == plain.reached).all()
    more = simulated(found, Wish(8, more=2))
    assert more.climbs()[1] >= plain.climbs()[1]
    one_pass = simulated(found, Wish(8, school="one_pass"))
    three = simulated(found, Wish(8, school="in_a_row"))
    assert one_pass.climbs()[1] >= three.climbs()[1]
    low, middle, high = plain.through_by(2, 8)
    assert 0 <= low <= middle <= high <= 9


def test_a_half_step_leaves_the_rungs_as_they_are_counted(w, squad, crowd, today):
    found = start(w, squad, today)
    half = simulated(found, Wish(8, half=3))
    assert half.reached.shape[2] == len(found.rungs) + 1
    assert (half.reached[:, :, :2] == 0).all()
    assert np.isfinite(half.reached[:, :, 2]).any()
    assert steepest(found) in (None, *range(3, len(found.rungs) + 1))


def test_the_past_is_asked_with_what_was_known_then(w, squad, crowd, today):
    then = start(w, squad, today - timedelta(days=30))
    assert then.model is not None
    told = hindsight_of(then, 4, how_they_went(w.ladder), today)
    assert told.really == 9
    assert told.of == 9
    assert 0 <= told.inside <= 9
    assert told.climbs[0] <= told.climbs[1] <= told.climbs[2]


def test_the_page_tells_it_and_what_it_goes_by(w, squad, crowd, today, coach):
    with CaptureQueriesContext(connection) as asked:
        page = coach.get(f"/squads/{squad.pk}/term/?weeks=8&through=2")
    said = text(page)
    assert "of 9 are through rung 2" in said
    assert "Player 3" in said
    assert "A half-step below rung" in said or "One more session a week" in said
    assert len(asked) <= 16
    for line in assumptions(start(w, squad, today)):
        assert line.split(",")[0][:30] in said
    table = coach.get(f"/squads/{squad.pk}/term/changes.csv?weeks=8&through=2")
    assert "One more session a week" in table.content.decode()
    assert coach.get(f"/squads/{squad.pk}/term/through.svg?weeks=8").status_code == 200
    assert coach.get(f"/squads/{squad.pk}/term/nothing.svg").status_code == 404


def test_too_little_is_said_and_not_simulated(other, today):
    w, coach, squad = other, Client(), other.club.squads.create(name="Under 12")
    coach.force_login(w.coach.user)
    assert "Nobody of this squad is on a ladder" in text(coach.get(f"/squads/{squad.pk}/term/"))
    player = Player.objects.create(club=w.club, name="One", squad=squad, joined_on=today)
    put_on(w, player=player, on=today - timedelta(days=3))
    said = text(coach.get(f"/squads/{squad.pk}/term/?weeks=9e9&through=-4&ladder=x"))
    assert "Too little is known yet" in said
