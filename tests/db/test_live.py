"""The line to open halls: who may hear, what is told, and when."""

import http.client
from contextlib import closing, contextmanager
from time import monotonic, sleep
from urllib.parse import urlsplit

import pytest
from django.conf import settings
from django.db import transaction
from django.test import Client
from django.utils import timezone

from drill_ladder.apps.floor.models import FloorTap
from drill_ladder.apps.people.models import Membership
from drill_ladder.apps.practice.stops.services import end_stop, open_stop
from drill_ladder.web import live
from tests.db.test_hall import Device
from tests.line import served
from tests.make import current, put_on, world

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def club():
    return world()


@pytest.fixture(scope="module")
def address(django_db_setup):
    with served() as at:
        yield at


def cookie_of(member):
    client = Client()
    client.force_login(member.user)
    return f"{settings.SESSION_COOKIE_NAME}={client.cookies[settings.SESSION_COOKIE_NAME].value}"


@contextmanager
def asked(address, cookie="", path="", **headers):
    """The answer to a request, which is read on from."""
    of = urlsplit(address)
    with closing(http.client.HTTPConnection(of.hostname, of.port, timeout=5)) as to:
        to.request("GET", path or of.path, headers={"Cookie": cookie, **headers})
        with closing(to.getresponse()) as answer:
            yield answer


def status(*given, **headers):
    with asked(*given, **headers) as answer:
        return answer.status


@contextmanager
def heard(address, member):
    """Reads the next number that is told."""
    with asked(address, cookie_of(member)) as answer:
        assert answer.status == 200
        assert answer.readline() == b"retry: 2000\n"

        def following():
            while True:
                line = answer.readline()
                assert line, "the line has ended"
                if line.startswith(b"data: "):
                    return int(line[6:])

        yield following


def test_a_tap_is_told_with_its_number_to_its_club_and_to_no_other(club, address):
    stay = current(put_on(club))
    elsewhere = world("Elsewhere")
    with heard(address, club.coach) as here, heard(address, elsewhere.coach) as there:
        tablet = Device(club.coach.user)
        tablet.send(tablet.tap(stay, lane="left", stroke="g"))
        assert here() == FloorTap.objects.latest("pk").pk
        other = current(put_on(elsewhere))
        tablet = Device(elsewhere.coach.user)
        tablet.send(tablet.tap(other, lane="left", stroke="m"))
        # what is heard first is their own: nothing of the first club came
        assert there() == FloorTap.objects.filter(club=elsewhere.club).latest("pk").pk


def test_a_stop_and_its_end_are_told_without_a_number(club, address, today):
    with heard(address, club.coach) as here:
        stop = open_stop(player=club.player, what="knee", on=today, actor=None)
        assert here() == live.ANYTHING
        end_stop(stop=stop, member=club.coach, on=today, cleared_by="A doctor")
        assert here() == live.ANYTHING


def test_what_is_not_committed_is_never_told(club, address):
    stay = current(put_on(club))
    row = {"club": club.club, "player": club.player, "stay": stay, "on": club.club.today()}
    with heard(address, club.coach) as here:
        with transaction.atomic():
            FloorTap.objects.create(uid=live_id(1), at=timezone.now(), act="stroke", **row)
            transaction.set_rollback(True)
        kept = FloorTap.objects.create(uid=live_id(2), at=timezone.now(), act="stroke", **row)
        assert here() == kept.pk


def live_id(n):
    return f"00000000-0000-4000-8000-{n:012}"


def test_whoever_is_not_signed_in_hears_nothing(club, address):
    assert status(address) == 401
    assert status(address, f"{settings.SESSION_COOKIE_NAME}=none") == 401
    assert status(address, "a=b; =;;;") == 401
    assert status(address, cookie_of(club.coach), "/") == 404
    stranger = cookie_of(club.coach)
    Membership.objects.filter(pk=club.coach.pk).delete()
    assert status(address, stranger) == 401


def test_another_host_is_refused_and_only_a_page_of_the_same_host_may_read(club, address):
    cookie = cookie_of(club.coach)
    assert status(address, cookie, Host="elsewhere.example") == 400
    with asked(address, cookie, Origin="http://127.0.0.1:8000") as near:
        assert near.headers["Access-Control-Allow-Origin"] == "http://127.0.0.1:8000"
        assert near.headers["Access-Control-Allow-Credentials"] == "true"
    with asked(address, cookie, Origin="http://elsewhere.example") as far:
        assert "Access-Control-Allow-Origin" not in far.headers


def test_a_club_has_so_many_lines_and_no_more(club, address, monkeypatch):
    monkeypatch.setattr(live, "MOST", 1)
    with heard(address, club.coach):
        assert status(address, cookie_of(club.coach)) == 503


def test_a_line_that_is_still_says_so_and_ends_after_a_while(club, address, monkeypatch):
    monkeypatch.setattr(live, "STILL_S", 0.05)
    monkeypatch.setattr(live, "AGAIN_S", 0.3)
    with asked(address, cookie_of(club.coach)) as answer:
        said = answer.read()
    assert said.startswith(b"retry: 2000\n\n: still here\n\n")
    assert said.count(b"still here") >= 3


def test_whoever_is_away_is_forgotten(club, address):
    with heard(address, club.coach):
        assert len(live.LINE.ears) == 1
    ends = monotonic() + 5
    while live.LINE.ears and monotonic() < ends:
        sleep(0.02)
    assert not live.LINE.ears


def test_what_was_missed_while_the_database_was_away_is_asked_for():
    """Once it listens again everybody is told of anything."""
    line = live.Line()
    with line.ear(3) as one, line.ear(3) as two, line.ear(4) as other:
        line.tell("3:17")
        line.tell("5:1")
        line.tell_all()
        assert [live._latest(ear.get_nowait(), ear) for ear in (one, two)] == [0, 0]
        assert other.get_nowait() == 0
    assert not line.ears
    with line.ear(3) as one:
        line.tell("3:17")
        line.tell("3:19")
        assert live._latest(one.get_nowait(), one) == 19
