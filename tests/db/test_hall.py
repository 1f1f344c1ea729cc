"""Taps of a hall: each once, on its player's own rung, judged when the dose is whole."""

import json
from datetime import datetime, time, timedelta
from uuid import uuid4

import pytest
from django.db import IntegrityError
from django.test import Client
from django.utils import timezone

from drill_ladder.apps.floor.hall.document import hall_of
from drill_ladder.apps.floor.hall.settling import close_halls
from drill_ladder.apps.floor.hall.taps import AFTER_STOP, FromDevice, take
from drill_ladder.apps.floor.models import FloorTap
from drill_ladder.apps.history.models import Event
from drill_ladder.apps.people.models import Club, Player
from drill_ladder.apps.practice.models import JudgedDay, Session, Stop
from drill_ladder.apps.practice.stops.services import end_stop, open_stop
from drill_ladder.apps.review.models import Proposal
from tests.make import current, drill, ladder, log, put_on


@pytest.fixture
def stay(w, today):
    return current(put_on(w, on=today - timedelta(days=3)))


class Device:
    """One tablet: its taps, each a second after the one before."""

    def __init__(self, user, begin=None):
        self.client, self.begin = Client(), begin or timezone.now() - timedelta(minutes=20)
        self.client.force_login(user)
        self.id, self.count, self.seen = str(uuid4()), 0, 0

    def tap(self, stay, act="stroke", lane="", **value):
        self.count += 1
        return {
            "id": str(uuid4()),
            "at": (self.begin + timedelta(seconds=self.count)).isoformat(),
            "player": stay.prescription.player_id,
            "stay": stay.pk,
            "act": act,
            "lane": lane,
            "value": value,
        }

    def strokes(self, stay, text, lane=""):
        return [self.tap(stay, stroke=stroke, lane=lane) for stroke in text]

    def send(self, *taps):
        body = {"device": self.id, "after": self.seen, "taps": taps}
        answer = self.client.post("/floor/taps/", json.dumps(body), "application/json")
        assert answer.status_code == 200
        found = answer.json()
        self.seen = max([self.seen, *(tap["n"] for tap in found["taps"])])
        return found


@pytest.fixture(autouse=True)
def night(w, today):
    """The night's work of today is done."""
    Club.objects.update(night_on=today)


@pytest.fixture
def tablet(w):
    return Device(w.coach.user)


@pytest.fixture
def phone(w):
    return Device(w.assistant.user)


def noon(w, on):
    """The middle of a day at the club, whatever its clock does at night."""
    return datetime.combine(on, time(12), w.club.zone)


def test_strokes_become_a_session_when_the_dose_is_whole(w, stay, tablet, today):
    tablet.send(*tablet.strokes(stay, "gggggggg01", "left"))
    assert not Session.objects.exists()
    answer = tablet.send(*tablet.strokes(stay, "gggggggggm", "right"))
    session = Session.objects.get()
    assert (session.on, session.observer, session.recorded_by) == (today, "coach", w.coach.user)
    left, right = session.sets.order_by("order")
    assert (left.lane, left.attempts, left.makes, left.faults) == (
        "left",
        10,
        8,
        {"wide": 1, "late": 1},
    )
    assert (right.makes, right.faults, right.strokes) == (9, {}, "gggggggggm")
    assert JudgedDay.objects.get().verdict == "pass"
    told = [tap for tap in answer["taps"] if tap["act"] == "told"]
    assert told[0]["value"]["headline"] == "Target reached"
    assert Proposal.objects.filter(stay=stay).exists()


def test_sent_again_nothing_is_doubled_and_lost_answers_do_no_harm(stay, tablet):
    first = tablet.strokes(stay, "gggg", "left")
    assert len(tablet.send(*first)["stored"]) == 4
    assert set(tablet.send(*first, *first)["stored"]) == {tap["id"] for tap in first}
    assert FloorTap.objects.count() == 4


def test_two_devices_on_one_player_lose_nothing_and_see_each_other(stay, tablet, phone):
    mine = tablet.strokes(stay, "ggggg", "left") + tablet.strokes(stay, "ggggg", "right")
    theirs = phone.strokes(stay, "ggggm", "left") + phone.strokes(stay, "ggggm", "right")
    tablet.send(*mine)
    answer = phone.send(*theirs)
    assert {tap["id"] for tap in answer["taps"]} >= {tap["id"] for tap in mine}
    sets = Session.objects.get().sets.all()
    assert sorted((s.lane, s.attempts, s.makes) for s in sets) == [
        ("left", 10, 9),
        ("right", 10, 9),
    ]
    assert Session.objects.get().observer == "helper"  # an assistant counted too
    seen = tablet.client.get(f"/floor/feed/?after={tablet.seen}").json()["taps"]
    assert {tap["id"] for tap in theirs} <= {tap["id"] for tap in seen}


def test_what_is_taken_back_after_it_was_judged_is_judged_anew(stay, tablet):
    left, right = (
        tablet.strokes(stay, "gggggggg00", "left"),
        tablet.strokes(stay, "g" * 10, "right"),
    )
    tablet.send(*left, *right)
    assert JudgedDay.objects.get().verdict == "pass"
    wrong = left[0]
    tablet.send(tablet.tap(stay, "undo", of=wrong["id"]), *tablet.strokes(stay, "m", "left"))
    day = JudgedDay.objects.get()
    assert (day.verdict, day.lanes["left"]) == ("near", 0.7)
    assert Session.objects.count() == 1
    assert not Event.objects.filter(verb="corrected a session").exists()


def test_enough_for_today_records_the_part_that_was_done(stay, tablet, today):
    tablet.send(*tablet.strokes(stay, "ggg", "left"), tablet.tap(stay, "enough"))
    assert Session.objects.get() == Session.objects.of_hall(stay, today).get()
    assert JudgedDay.objects.get().verdict == "short"
    tablet.send(tablet.tap(stay, "more"), *tablet.strokes(stay, "ggggggg", "left"))
    tablet.send(*tablet.strokes(stay, "g" * 10, "right"))
    assert JudgedDay.objects.get().verdict == "pass"


def test_an_hour_offline_arrives_on_its_own_day(w, stay, today):
    late = Device(w.coach.user, noon(w, today - timedelta(days=2)))
    late.send(*late.strokes(stay, "g" * 10, "left"), *late.strokes(stay, "g" * 10, "right"))
    assert Session.objects.get().on == today - timedelta(days=2)
    older = Device(w.coach.user, noon(w, today - timedelta(days=9)))
    refused = older.send(*older.strokes(stay, "g", "left"))["refused"]
    assert "more than a week ago" in next(iter(refused.values()))


def test_what_is_tapped_after_a_stop_is_kept_and_not_counted(w, stay, tablet, today):
    """The ten on the left were tapped before it hurt, and count; the others came after it."""
    before = tablet.strokes(stay, "g" * 10, "left")
    at = timezone.now() - timedelta(minutes=15)
    open_stop(player=w.player, what="knee", on=today, actor=None, at=at)
    tablet.begin = timezone.now() - timedelta(minutes=10)
    after = tablet.strokes(stay, "g" * 10, "right")
    answer = tablet.send(*before, *after, tablet.tap(stay, "enough"))
    assert set(answer["stored"]) == {tap["id"] for tap in before}
    assert set(answer["refused"].values()) == {AFTER_STOP}
    assert FloorTap.objects.filter(after_stop=True).count() == 11
    assert tablet.send(*after)["refused"].keys() == {tap["id"] for tap in after}
    assert w.player.pk in answer["rests"]
    assert close_halls(w.club, today + timedelta(days=1)) == 1
    assert [row.lane for row in Session.objects.get().sets.all()] == ["left"]


def test_hurt_is_told_in_the_hall_once_and_before_everything_else(w, other, stay, tablet, today):
    hurt = tablet.tap(stay, "hurt", word="left knee")
    theirs = tablet.tap(stay, "hurt", word="mine") | {"player": other.player.pk}
    answer = tablet.send(*tablet.strokes(stay, "gq"), hurt | {"stay": "x", "lane": 7}, theirs)
    assert (Stop.objects.get().player, Stop.objects.get().what) == (w.player, "left knee")
    assert hurt["id"] in answer["stored"]
    assert theirs["id"] in answer["refused"]
    end_stop(member=w.coach, stop=Stop.objects.get(), cleared_by="physio", on=today)
    assert tablet.send(hurt)["rests"] == []  # sent again, it opens nothing
    assert Stop.objects.open().count() == 0


def test_a_stop_told_on_the_card_is_on_the_next_answer_of_every_hall(w, stay, tablet, phone):
    assert tablet.client.get("/floor/feed/").json()["rests"] == []
    Client().post(f"/card/{w.token}/hurt/", {"what": "knee"})
    for device in (tablet, phone):
        assert device.client.get("/floor/feed/").json()["rests"] == [w.player.pk]


def test_who_is_here_is_what_was_received_last_whatever_the_clocks_say(w, stay, tablet, phone):
    """The phone is ten minutes ahead: its "gone" can be put right all the same."""
    phone.begin = timezone.now() + timedelta(minutes=10)
    gone, back = (
        device.tap(stay, "here", word=word) for device, word in ((phone, "gone"), (tablet, "in"))
    )
    for tap in (gone, back):
        tap["stay"] = None
    phone.send(gone)
    tablet.send(back)
    seen = tablet.client.get("/floor/feed/").json()["taps"]
    assert [tap["value"]["word"] for tap in seen] == ["gone", "in"]
    assert FloorTap.objects.get(uid=gone["id"]).at <= timezone.now()


def test_the_order_of_a_device_is_its_own_count_not_its_clock(stay, tablet):
    """The clock was put back in the middle of a set."""
    row = tablet.strokes(stay, "ggmm", "left")
    for number, tap in enumerate(row):
        tap["c"] = number + 1
    row[2]["at"], row[3]["at"] = ((tablet.begin - timedelta(minutes=n)).isoformat() for n in (5, 4))
    tablet.send(*row[::-1])
    seen = tablet.client.get("/floor/feed/").json()["taps"]
    assert [tap["value"]["stroke"] for tap in seen] == ["g", "g", "m", "m"]


def test_the_way_to_the_server_makes_nothing_later(w, stay, tablet, today):
    """A second under way says nothing about the device's clock: what was tapped before a stop
    counts.
    """
    now = timezone.now()
    tap = tablet.strokes(stay, "g", "left")[0] | {"at": (now - timedelta(seconds=1)).isoformat()}
    open_stop(player=w.player, what="knee", on=today, actor=None, at=now)
    shown = (now - timedelta(seconds=2)).isoformat()
    tablet.client.post(
        "/floor/taps/",
        json.dumps({"device": "d", "device_now": shown, "taps": [tap]}),
        "application/json",
    )
    assert [row.after_stop for row in FloorTap.objects.all()] == [False]


def test_a_wrong_clock_is_asked_about_before_anything_is_stored(w, stay, tablet, today):
    body = {"device": "d", "device_now": (timezone.now() + timedelta(days=3)).isoformat()}
    taps = tablet.strokes(stay, "gg", "left")
    for tap in taps:
        tap["at"] = body["device_now"]
    send = lambda **more: tablet.client.post(
        "/floor/taps/", json.dumps(body | {"taps": taps} | more), "application/json"
    ).json()
    asked = send()
    assert (asked["ask"][0], asked["stored"]) == (f"{today}", [])
    assert not FloorTap.objects.exists()
    assert len(send(day=f"{today - timedelta(days=1)}")["stored"]) == 2
    assert {tap.on for tap in FloorTap.objects.all()} == {today - timedelta(days=1)}


def test_a_session_of_the_hall_cannot_be_taken_by_who_guesses_its_id(w, other, stay, tablet, today):
    """Its id is nobody's to know, and there is one a stay and day."""
    tablet.send(*tablet.strokes(stay, "ggg", "left"), tablet.tap(stay, "enough"))
    assert Session.objects.get().pk.version == 4
    with pytest.raises(IntegrityError):
        Session.objects.create(club=w.club, stay=stay, on=today, observer="coach", hall=True)


def test_a_tap_of_another_club_under_the_same_id_is_a_tap_of_its_own(w, other, stay, tablet, today):
    theirs = current(put_on(other, on=today))
    tap = tablet.strokes(stay, "g", "left")[0]
    foreign = Device(other.coach.user)
    copied = foreign.strokes(theirs, "m", "left")[0] | {"id": tap["id"]}
    foreign.send(copied)
    assert tablet.send(tap)["stored"] == [tap["id"]]
    assert FloorTap.objects.filter(uid=tap["id"]).count() == 2


def test_another_clubs_player_and_another_players_rung_are_refused(w, other, stay, tablet, today):
    theirs = current(put_on(other, on=today))
    second = Player.objects.create(club=w.club, name="Second", joined_on=today)
    strange = tablet.strokes(theirs, "g")[0]
    swapped = tablet.strokes(stay, "g")[0] | {"player": second.pk}
    answer = tablet.send(strange, swapped, {"id": "x"}, 7, {"id": "y" * 36, "act": "stroke"})
    assert set(answer["refused"]) == {strange["id"], swapped["id"], "x", "y" * 36}
    assert not FloorTap.objects.exists()


@pytest.mark.parametrize(
    "wrong",
    [
        {"act": "dance"},
        {"value": {"stroke": "gg"}},
        {"value": {"stroke": "q"}},
        {"act": "result", "value": {"numbers": {"height": 3}}},
        {"act": "result", "value": {"numbers": {"seconds": -1}}},
        {"act": "result", "value": {"numbers": {"seconds": 1e9}}},
        {"act": "comfort", "stay": None, "value": {"numbers": {"level": 9}}},
        {"act": "tempo", "value": {"numbers": {"share": 1.5}}},
        {"act": "read", "value": {"word": "wins"}},
        {"act": "result", "value": {"numbers": {"attempts": 3, "makes": 5}}},
        {"act": "result", "value": {"numbers": {"ticks": 1.5}}},
        {"act": "result", "value": {"numbers": {"share": 1.5}}},
        {"act": "result", "value": {"numbers": {"seconds": 9}, "faults": {"\u0000": 1}}},
        {"lane": "left\u0000"},
        {"value": {"stroke": "g", "word": "\ud800"}},
        {"at": "9999-12-31T23:59:59-12:00"},
        {"at": "0001-01-01T00:00:00+12:00"},
        {"at": "yesterday"},
        {"at": "2026-11-26T10:00:00"},
        {"id": "z" * 36},
        {"stay": None},
    ],
)
def test_what_is_no_entry_is_refused_with_a_reason(stay, tablet, wrong):
    sent = tablet.strokes(stay, "g", "left")[0] | wrong
    answer = tablet.send(sent)
    assert answer["stored"] == []
    assert answer["refused"][sent["id"]].startswith(("This entry", "Comfort"))


def test_a_body_that_is_none_is_answered_in_words(tablet):
    for body in (b"[]", b"{", b'{"taps": 1}', b"\xff"):
        answer = tablet.client.post("/floor/taps/", body, "application/json")
        assert answer.status_code == 422
        assert "Nothing was stored" in answer.json()["why"]


def test_timed_trials_and_counts_land_as_they_are(w, today, tablet):
    timed = drill(w.club, "Shuttle", measure={"kind": "time"}, lanes=[], faults=["fell"])
    own = ladder(w.club, timed, "Run", target={"value": 10}, floor=14, dose={"sets": 3})
    stay = current(put_on(w, ladder=own, on=today - timedelta(days=3)))
    taps = [
        tablet.tap(stay, "result", numbers={"seconds": s}, faults={"fell": n})
        for s, n in ((9.8, 0), (10.4, 1), (9.6, 0))
    ]
    tablet.send(*taps)
    sets = Session.objects.get().sets.order_by("order")
    assert [(s.seconds, s.faults) for s in sets] == [
        (9.8, {"fell": 0}),
        (10.4, {"fell": 1}),
        (9.6, {"fell": 0}),
    ]


def test_the_hall_knows_who_is_planned_and_what_each_should_do(w, stay, today):
    found = hall_of(w.club, today)
    player = found["players"][0]
    assert (player["name"], player["planned"], player["rests"]) == ("Ida Marlow", False, False)
    work = player["work"][0]
    assert work["stay"] == stay.pk
    assert (work["sets"], work["reps"], work["lanes"]) == (1, 10, ("left", "right"))
    assert work["faults"] == ("wide", "late")


def test_comfort_is_asked_at_most_once_a_week(w, stay, tablet, today):
    assert hall_of(w.club, today)["players"][0]["comfort"]
    sent = tablet.tap(stay, "comfort", numbers={"level": 4}) | {"stay": None}
    assert tablet.send(sent)["stored"]
    assert not hall_of(w.club, today)["players"][0]["comfort"]


def test_home_logs_and_hall_taps_of_one_day_stand_beside_each_other(w, stay, tablet, today):
    log(stay.prescription, today, 8, 8)
    tablet.send(*tablet.strokes(stay, "g" * 10, "left"), *tablet.strokes(stay, "g" * 10, "right"))
    assert Session.objects.count() == 2


def test_few_questions_for_sixty_players(w, today, tablet, django_assert_max_num_queries):
    for number in range(60):
        player = Player.objects.create(club=w.club, name=f"P{number}", joined_on=today)
        put_on(w, player=player, on=today - timedelta(days=3))
    with django_assert_max_num_queries(14):
        assert len(hall_of(w.club, today)["players"]) == 61
    stay = current(put_on(w, on=today))
    tap = tablet.strokes(stay, "g", "left")
    with django_assert_max_num_queries(22):
        take(w.coach, tap, FromDevice("device"))
