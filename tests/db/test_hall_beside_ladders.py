"""What goes on in the hall beside the ladders: guests, groups in one touch, trials of a day."""

from datetime import timedelta
from uuid import uuid4

import pytest
from django.utils import timezone

from drill_ladder.apps.floor.hall.beside import stations_of, trial_days_of
from drill_ladder.apps.floor.hall.guests import Ask, add_guest, guests_go
from drill_ladder.apps.floor.hall.taps import AFTER_STOP
from drill_ladder.apps.floor.models import FloorTap, GroupSession, Trial
from drill_ladder.apps.floor.stations.group_block import begin_group
from drill_ladder.apps.floor.test_days.services import (
    TrialInput,
    add_trial,
    bring_trial_back,
    finish,
    new_battery,
    save_protocol,
    take_trial_back,
)
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Club, Player
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.practice.stops.services import open_stop
from drill_ladder.apps.prescriptions.models import Prescription
from tests.db.test_hall import Device
from tests.make import drill, put_on


@pytest.fixture(autouse=True)
def night(w, today):
    """The night's work of today is done."""
    Club.objects.update(night_on=today)


@pytest.fixture
def tablet(w):
    return Device(w.coach.user)


# --- guests


def test_a_guest_is_counted_like_everybody_and_comes_again_as_the_same(w, today, client):
    client.force_login(w.coach.user)
    asked = {"name": " Bo ", "ladder": w.ladder.pk, "rung": 2}
    there = client.post("/floor/guests/", asked).headers["Location"]
    guest = Player.objects.get(name="Bo")
    assert there == f"/floor/?player={guest.pk}"
    assert guest.guest_on == today
    stay = Prescription.objects.get(player=guest).stays.get()
    assert (stay.rung.position, stay.prescription.place) == (2, "coached")
    client.post("/floor/guests/", asked | {"name": "bo"})
    assert Player.objects.count() == 2
    assert Prescription.objects.filter(player=guest).count() == 1
    tablet = Device(w.coach.user)
    tablet.send(*tablet.strokes(stay, "gg", "left"), tablet.tap(stay, "enough"))
    assert Session.objects.get().stay == stay
    assert "guest" in client.get("/players/").content.decode()
    assert "Take them on" in client.get(f"/players/{guest.pk}/").content.decode()


def test_a_guest_without_a_rung_is_only_here(w, today):
    guest = add_guest(member=w.coach, ask=Ask("Bo"), on=today)
    assert not Prescription.objects.filter(player=guest).exists()


def test_what_is_no_guest_is_said_and_keeps_what_was_typed(w, client, today):
    client.force_login(w.coach.user)
    answer = client.post("/floor/guests/", {"name": "Bo", "ladder": w.ladder.pk, "rung": 99})
    page = answer.content.decode()
    assert answer.status_code == 422
    assert "no such rung" in page
    assert 'value="Bo"' in page
    assert not Player.objects.guests().exists()
    with pytest.raises(Refused, match="name"):
        add_guest(member=w.coach, ask=Ask("  "), on=today)


def test_an_assistant_brings_no_guests(w, client):
    client.force_login(w.assistant.user)
    client.post("/floor/guests/", {"name": "Bo"})
    assert not Player.objects.guests().exists()


def test_who_does_not_come_again_is_put_aside_and_who_stays_is_not(w, client, today):
    gone = add_guest(member=w.coach, ask=Ask("Gone"), on=today - timedelta(days=40))
    again = add_guest(member=w.coach, ask=Ask("Again"), on=today - timedelta(days=40))
    Player.objects.filter(pk=again.pk).update(seen_on=today - timedelta(days=3))
    taken = add_guest(member=w.coach, ask=Ask("Taken"), on=today - timedelta(days=40))
    client.force_login(w.coach.user)
    client.post(f"/floor/guests/{taken.pk}/stays/")
    assert guests_go(w.club, today) == 1
    archived = {row.name for row in Player.objects.filter(archived_on=today)}
    assert archived == {gone.name}
    assert Player.objects.get(pk=taken.pk).guest_on is None


# --- a group block in one touch


def crowd(w, today, count):
    names = [f"Player {n}" for n in range(count)]
    return [Player.objects.create(club=w.club, name=n, joined_on=today) for n in names]


@pytest.mark.parametrize(
    ("people", "count", "places", "slots"),
    [("solo", 3, 3, 1), ("feeder", 4, 4, 2), ("feeder", 5, 4, 5), ("partner", 2, 2, 2)],
)
def test_a_group_block_has_everybody_in_its_roles(w, today, people, count, places, slots):
    of = drill(w.club, "Together", people=people)
    made = begin_group(member=w.coach, title="", drill=of, players=crowd(w, today, count), on=today)
    assert (made.stations[0].capacity, made.slots, made.title) == (places, slots, "Together")
    assert made.drills == {"Together": of.pk}
    document = stations_of(w.club, today)[0]
    worked = {
        place["player"]
        for slot in document["slots"]
        for station in slot["stations"]
        for place in station["places"]
        if place["works"]
    }
    assert worked == set(made.players)


def test_it_begins_from_the_page_and_without_those_who_rest(w, client, today):
    players = crowd(w, today, 3)
    open_stop(player=players[0], what="knee", on=today, actor=None)
    client.force_login(w.coach.user)
    asked = {"title": "Left", "drill": w.drill.pk, "players": [one.pk for one in players]}
    answer = client.post("/stations/begin/", asked)
    assert answer.headers["Location"] == "/floor/?view=stations"
    assert GroupSession.objects.get().players == [players[1].pk, players[2].pk]


def test_each_worker_of_two_pairs_has_a_feeder_of_their_own(w, today):
    of = drill(w.club, "Together", people="feeder")
    begin_group(member=w.coach, title="", drill=of, players=crowd(w, today, 4), on=today)
    for slot in stations_of(w.club, today)[0]["slots"]:
        places = slot["stations"][0]["places"]
        feeders = [place["feeder"] for place in places if place["works"]]
        assert len(set(feeders)) == 2
        fed_by = {p["feeder"]: p["player"] for p in places if p["works"]}
        ids = {p.name: p.pk for p in Player.objects.all()}
        assert set(map(ids.get, fed_by)) == {p["player"] for p in places if not p["works"]}


def test_it_changes_by_turns_where_that_is_asked(w, client, today):
    players = crowd(w, today, 2)
    client.force_login(w.coach.user)
    asked = {"drill": w.drill.pk, "players": [one.pk for one in players], "turn_reps": "5"}
    client.post("/stations/begin/", asked)
    made = GroupSession.objects.get()
    assert (made.turn_reps, made.slot_s) == (5, 20)  # five of four seconds each
    assert stations_of(w.club, today)[0]["turn_reps"] == 5
    client.post("/stations/begin/", asked | {"turn_reps": "many"})
    assert GroupSession.objects.first().turn_reps is None


def test_too_few_for_its_roles_are_told_so(w, client, today):
    of = drill(w.club, "Together", people="feeder")
    with pytest.raises(Refused, match="takes 2"):
        begin_group(member=w.coach, title="", drill=of, players=crowd(w, today, 1), on=today)


# --- trials of a test day, as taps


@pytest.fixture
def sprint(w):
    run = drill(w.club, "Ten metres", measure={"kind": "time"}, lanes=[], faults=[])
    values = {"title": "Sprint", "drill": run, "trials": 2, "score_by": "best", "rest_s": 180}
    return save_protocol(member=w.coach, protocol=None, values=values)


@pytest.fixture
def day(w, sprint, today):
    made = {"title": "Day", "on": today, "protocols": [sprint], "players": [w.player]}
    return new_battery(member=w.coach, **made)


@pytest.fixture
def trial(w, day, sprint, tablet, today):
    stay = put_on(w).stays.get()

    def make(value, lane=""):
        value = {"battery": day.pk, "test": sprint.pk, "numbers": {"trial": value}}
        return tablet.tap(stay, "trial", lane, **value) | {"stay": None}

    return make


def test_a_trial_is_measured_once_however_often_it_is_sent(w, day, tablet, trial, today):
    one = trial(2.31)
    tablet.send(one)
    tablet.send(one)
    row = Trial.objects.get()
    assert (str(row.uid), row.value, row.player, row.by) == (
        one["id"],
        2.31,
        w.player,
        w.coach.user,
    )
    document = trial_days_of(w.club, today)[0]
    assert [trial["value"] for trial in document["done"]] == [2.31]
    other = Device(w.coach.user)
    assert [tap["act"] for tap in other.send()["taps"]] == ["trial"]


@pytest.mark.parametrize(
    ("value", "lane", "why"),
    [(4000, "", "At most 3600"), (2.3, "left", "which side"), (-1, "", "cannot be read")],
)
def test_what_cannot_be_is_said_and_nothing_is_stored(day, tablet, trial, value, lane, why):
    one = trial(value, lane)
    assert why in tablet.send(one)["refused"][one["id"]]
    assert not Trial.objects.exists()
    assert not FloorTap.objects.filter(act="trial").exists()


def test_one_trial_too_many_and_another_day_s_test_are_refused(w, day, tablet, trial):
    third = [trial(2.3), trial(2.2), trial(2.1)]
    refused = tablet.send(*third)["refused"]
    assert list(refused) == [third[2]["id"]]
    assert "all 2 trials" in refused[third[2]["id"]]
    theirs = trial(2.0)
    theirs["value"]["battery"] = day.pk + 1
    assert "not of this player" in tablet.send(theirs)["refused"][theirs["id"]]


def test_undo_takes_it_back_and_the_record_keeps_it(day, tablet, trial):
    one = trial(2.3)
    tablet.send(one)
    undo = trial(1) | {"act": "undo", "value": {"of": one["id"]}}
    tablet.send(undo)
    assert Trial.objects.get().taken_back


def test_an_open_hall_learns_of_what_gates_and_the_day_s_page_measure(
    w, day, sprint, tablet, today
):
    row, _ = add_trial(
        battery=day,
        trial=TrialInput(uuid4(), w.player, sprint, 2.4, timezone.now()),
        by=w.coach.user,
    )
    (tap,) = tablet.send()["taps"]
    assert (tap["act"], tap["id"], tap["value"]["numbers"]) == (
        "trial",
        str(row.uid),
        {"trial": 2.4},
    )
    take_trial_back(member=w.coach, trial=row)
    (tap,) = tablet.send()["taps"]
    assert (tap["act"], tap["value"]) == ("undo", {"of": str(row.uid)})
    bring_trial_back(member=w.coach, trial=row)
    (tap,) = tablet.send()["taps"]
    assert (tap["act"], tap["value"]["numbers"]) == ("trial", {"trial": 2.4})
    assert tap["id"] != str(row.uid)


def test_after_a_stop_a_trial_is_kept_and_does_not_count(w, day, tablet, trial, today):
    open_stop(
        player=w.player,
        what="knee",
        on=today,
        actor=None,
        at=timezone.now() - timedelta(hours=1),
    )
    one = trial(2.3)
    assert tablet.send(one)["refused"] == {one["id"]: AFTER_STOP}
    assert FloorTap.objects.get(act="trial").after_stop
    assert not Trial.objects.exists()


def test_a_finished_day_is_left_as_it_is(w, day, tablet, trial, today):
    finish(member=w.coach, battery=day)
    tablet.begin = timezone.now() + timedelta(seconds=5)
    one = trial(2.3)
    assert "finished" in tablet.send(one)["refused"][one["id"]]
    assert trial_days_of(w.club, today) == []


def test_another_club_s_test_day_is_nobody_s(w, other, day, trial):
    one = trial(2.3)
    theirs = Device(other.coach.user)
    assert "not of this club" in theirs.send(one)["refused"][one["id"]]
    mine = one | {"player": other.player.pk}
    assert "test day" in theirs.send(mine)["refused"][mine["id"]]
