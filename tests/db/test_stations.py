"""Stations for a group: set up, who is where, and planned anew when somebody comes late or goes."""

from dataclasses import replace
from datetime import date

import pytest
from django.test import Client

from drill_ladder.apps.floor.models import GroupSession
from drill_ladder.apps.floor.stations.services import (
    change_players,
    named,
    names_in,
    rotation,
    set_up,
    where,
)
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Player, Squad
from drill_ladder.apps.practice.stops.services import open_stop
from drill_ladder.core.planning import Station
from tests.make import text

GATE = Station("Gate", 2, ("worker", "retriever"), 6)
WALL = Station("Wall", 1, ("worker",), 4)
FORM = {
    "title": "Tuesday",
    "squad": "",
    "minutes": 4,
    "change_s": 20,
    "station-TOTAL_FORMS": 6,
    "station-INITIAL_FORMS": 2,
    "station-0-name": "Push pass",
    "station-0-capacity": 1,
    "station-0-roles": "worker",
    "station-0-s_per_rep": 4,
}


@pytest.fixture
def three(w):
    """Ann, Bo and Cy."""
    on = date(2026, 1, 1)
    return [
        Player.objects.create(club=w.club, name=name, joined_on=on) for name in ("Ann", "Bo", "Cy")
    ]


def form(three, **change):
    return FORM | {"people": [player.pk for player in three]} | change


def ids(w, *names):
    on = date(2026, 1, 1)
    return [
        Player.objects.get_or_create(club=w.club, name=name, defaults={"joined_on": on})[0].pk
        for name in names
    ]


def made(w, *names, stations=(WALL, GATE)):
    players = ids(w, *names)
    given = {"players": players, "stations": list(stations), "slot_s": 240, "change_s": 20}
    return set_up(member=w.coach, title="Tuesday", on=date(2026, 3, 3), **given)


def test_balls_that_are_shared_are_counted_and_said(w, coach, three):
    """Three at a station with one ball: each does a third of what they would with their own."""
    sent = form(three, **{"station-0-capacity": 3, "station-0-balls": 1})
    page = coach.post("/stations/", sent, follow=True)
    # 240 s, one in 4 s: 60 with a ball each, 20 with one of three
    said = "Push pass: 1 ball for 3 workers, so 20 repetitions each in a slot; with a ball each"
    assert f"{said} it would be 60." in text(page)
    assert [line.reps for line in page.context["lines"]] == [60, 60, 60]
    plenty = coach.post("/stations/", sent | {"station-0-balls": 3}, follow=True)
    assert "with a ball each" not in text(plenty)
    refused = coach.post("/stations/", sent | {"station-0-balls": 0})
    assert refused.status_code == 422


def test_who_is_where_names_roles_where_there_are_some(w):
    session = made(w, "Ann", "Bo", "Cy", "Dee")
    first = where(session, rotation(session), names_in(session))[0]
    seen = {name: [(one.name, one.role) for one in there] for name, there in first.stations.items()}
    assert seen == {"Wall": [("Ann", "")], "Gate": [("Bo", "worker"), ("Cy", "retriever")]}
    assert first.rest == ["Dee"]


def test_after_a_late_arrival_the_slots_are_numbered_on(w):
    session = made(w, "Ann", "Bo", "Cy")
    before = where(session, rotation(session), names_in(session))
    players = ids(w, "Ann", "Bo", "Cy", "Dee")
    session = change_players(session=session, players=players, slot=2)
    after = where(session, rotation(session), names_in(session))
    assert [one.number for one in before] == [1, 2, 3]
    assert [one.number for one in after] == [2, 3]
    there = {place.name for one in after for places in one.stations.values() for place in places}
    assert "Dee" in there
    assert session.past[0][players[0]].station == "Wall"
    session.refresh_from_db()
    assert session.past[0][players[0]].station == "Wall"


@pytest.mark.parametrize(
    ("names", "slot", "why"), [(["Ann"], 1, "From 2 to 60"), (["Ann", "Bo"], 4, "3 slots left")]
)
def test_what_cannot_be_changed_is_said(w, names, slot, why):
    session = made(w, "Ann", "Bo", "Cy")
    with pytest.raises(Refused, match=why):
        change_players(session=session, players=ids(w, *names), slot=slot)
    assert GroupSession.objects.get().players == ids(w, "Ann", "Bo", "Cy")


def test_too_few_for_every_station_is_refused(w):
    with pytest.raises(Refused, match="no station can be filled"):
        made(w, "Ann", "Bo", stations=[replace(GATE, capacity=4)])
    assert GroupSession.objects.count() == 0


def test_set_up_on_the_page_from_the_clubs_own_records(w, coach, three):
    page = coach.post("/stations/", form(three), follow=True).content.decode()
    assert "2 of 3 rest at any time. 2 more places" in page
    session = GroupSession.objects.get()
    assert session.stations == (replace(WALL, name="Push pass"),)
    assert session.players == [player.pk for player in three]
    assert session.drills == {"Push pass": w.drill.pk}
    assert f"/floor/?player={three[0].pk}&amp;drill={w.drill.pk}" in page


def test_the_feeders_account_goes_with_the_link(coach, three):
    roles = {"station-0-capacity": 2, "station-0-roles": "worker, feeder"}
    page = coach.post("/stations/", form(three, **roles), follow=True).content.decode()
    assert "&amp;feeder=Bo" in page


def test_a_chosen_number_of_slots(w, coach, three):
    coach.post("/stations/", form(three, slots=2))
    session = GroupSession.objects.get()
    assert len(rotation(session).slots) == 2
    longer = made(w, "Ann", "Bo", "Cy")
    assert len(rotation(longer).slots) == 3


def test_two_of_one_name_are_told_apart(w, three):
    twin = Player.objects.create(club=w.club, name="Ann", joined_on=date(2026, 1, 1))
    assert list(named([*three, twin]).values()) == ["Ann", "Bo", "Cy", "Ann (2)"]


def test_who_comes_late_is_ticked_and_who_is_known_keeps_the_place(w, coach, three):
    coach.post("/stations/", form(three))
    session = GroupSession.objects.get()
    dee = Player.objects.create(club=w.club, name="Dee", joined_on=date(2026, 1, 1))
    people = [three[2].pk, three[0].pk, dee.pk]
    coach.post(f"/stations/{session.pk}/players/", {"people": people, "slot": 1})
    session.refresh_from_db()
    assert session.players == [three[0].pk, three[2].pk, dee.pk]


def test_who_is_renamed_or_erased_is_named_as_now(w, coach, three):
    """Who it is is kept by id, in what was run as well: no name stays behind in the stations."""
    session = change_players(session=made(w, "Ann", "Bo", "Cy"), players=ids(w, "Bo", "Cy"), slot=2)
    Player.objects.filter(pk=three[0].pk).update(name="Erased 12AB")
    Player.objects.filter(pk=three[1].pk).update(name="Bo Blue")
    page = text(coach.get(f"/stations/{session.pk}/"))
    assert "Bo Blue" in page
    assert "Ann" not in page


@pytest.mark.parametrize(
    ("change", "why"),
    [
        ({"people": []}, "From 2 to 60 players"),
        ({"station-0-name": "Nothing of ours"}, "Select a valid choice"),
        ({"station-0-roles": "worker, worker"}, "A role is named twice."),
        ({"station-0-capacity": ""}, "How many players?"),
        ({"station-0-roles": "worker, feeder"}, "With 2 roles: 2, 4, 6..."),
        ({"station-0-s_per_rep": ""}, "How long does one take?"),
        ({"station-0-name": ""}, "At least one station, please."),
    ],
)
def test_a_set_up_that_cannot_be_keeps_what_was_typed(coach, three, change, why):
    answer = coach.post("/stations/", form(three) | change)
    assert answer.status_code == 422
    page = answer.content.decode()
    assert why in page
    assert 'value="Tuesday"' in page
    assert GroupSession.objects.count() == 0


def test_a_squads_players_who_rest_are_left_out(w, coach, three):
    squad = Squad.objects.create(club=w.club, name="Under 12")
    w.player.squad = squad
    w.player.save()
    open_stop(player=w.player, what="knee", on=date(2026, 3, 1), actor=None)
    coach.post("/stations/", form(three, squad=squad.pk))
    assert GroupSession.objects.get().players == [player.pk for player in three]


def test_another_clubs_session_is_not_found(w, other):
    session = made(w, "Ann", "Bo")
    stranger = Client()
    stranger.force_login(other.coach.user)
    assert stranger.get(f"/stations/{session.pk}/").status_code == 404
    assert (
        stranger.post(f"/stations/{session.pk}/players/", {"people": [1], "slot": 1}).status_code
        == 404
    )
