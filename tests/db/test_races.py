"""Twenty equal posts at once are answered like the first: nobody sees an error of ours, and nothing
is there twice.
"""

from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from itertools import count
from threading import Barrier
from uuid import uuid4

import pytest
from django.db import connection, transaction
from django.test import Client
from django.utils import timezone

from drill_ladder.apps.history.models import SentForm
from drill_ladder.apps.library.models import Drill, Ladder, Skill
from drill_ladder.apps.people.models import Player, PlayerNote, SecretLink, Squad
from drill_ladder.apps.people.players.services import lock_club
from drill_ladder.apps.practice.models import HurtReport, Session, Stop
from drill_ladder.apps.practice.stops.services import open_stop
from drill_ladder.apps.prescriptions.models import Placement, Prescription
from drill_ladder.apps.review.models import Proposal
from tests.make import current, log, put_on, text, world

MANY = 20


@pytest.fixture
def club(transactional_db):
    return world()


def at_once(user, act):
    """The answers to the same thing done by many at the same moment, each with a connection of its
    own.
    """
    gate = Barrier(MANY)

    def one(_):
        client = Client(raise_request_exception=False)
        if user is not None:
            client.force_login(user)
        gate.wait()
        try:
            return act(client)
        finally:
            connection.close()

    with ThreadPoolExecutor(MANY) as pool:
        return list(pool.map(one, range(MANY)))


def same(answers):
    """Whether all were answered alike, and not by an error."""
    found = {(a.status_code, a.headers.get("Location", "").split("?")[0]) for a in answers}
    assert len(found) == 1, found
    assert next(iter(found))[0] in (200, 302), found


def posted(path, sent):
    return lambda client: client.post(path, sent)


def test_a_new_player_is_one(club):
    sent = {
        "name": "Bo Åker",
        "dominant_side": "right",
        "squad_name": "Under 12",
        "note": "came today",
    }
    same(at_once(club.coach.user, posted("/players/new/", sent | {"form_id": str(uuid4())})))
    assert (Player.objects.filter(name="Bo Åker").count(), Squad.objects.count()) == (1, 1)
    assert PlayerNote.objects.count() == 1


def test_a_squad_and_a_skill_are_one(club):
    """Without a form's id: each is a player of their own, and the squad is made once."""
    sent = {"name": "Bo", "dominant_side": "right", "squad_name": "Under 12"}
    answers = at_once(club.coach.user, posted("/players/new/", sent))
    assert {a.status_code for a in answers} == {302}
    assert Squad.objects.count() == 1
    focus = {"skill": "Passing", "priority": 2, "source": "test"}
    same(at_once(club.coach.user, posted(f"/players/{club.player.pk}/focus/", focus)))
    assert Skill.objects.count() == 1
    assert club.player.focuses.count() == 1


def test_prescribing_is_once(club):
    path = f"/players/{club.player.pk}/prescribe/{club.ladder.pk}/"
    sent = {"rung": club.rungs[0].pk, "per_week": 3, "place": "coached"}
    same(at_once(club.coach.user, posted(path, sent | {"form_id": str(uuid4())})))
    assert Prescription.objects.count() == 1
    # and without an id the others are told, not shown an error
    Prescription.objects.all().delete()
    answers = at_once(club.coach.user, posted(path, sent))
    assert sorted(a.status_code for a in answers) == [302] + [422] * (MANY - 1)


def test_ending_is_once(club):
    p = put_on(club)
    same(at_once(club.coach.user, posted(f"/prescriptions/{p.pk}/end/", {"form_id": str(uuid4())})))
    p.refresh_from_db()
    assert p.status == "ended"


def test_placing_is_once(club):
    path = f"/players/{club.player.pk}/place/{club.ladder.pk}/"
    probe = {"probe": club.rungs[1].pk, "good-0": "3", "good-1": "4", "number": "0"}
    same(at_once(club.coach.user, posted(path, probe | {"form_id": str(uuid4())})))
    assert [len(placing.probes) for placing in Placement.objects.all()] == [1]
    choice = {"choose": "1", "rung": club.rungs[0].pk, "reason": "saw it", "form_id": str(uuid4())}
    same(at_once(club.coach.user, posted(path, choice)))
    assert Placement.objects.filter(chosen__isnull=False).count() == 1


def test_links_and_drills_and_imports(club):
    same(at_once(club.coach.user, posted(f"/players/{club.player.pk}/link/card/", {})))
    assert SecretLink.objects.filter(player=club.player, opens="card").count() == 1
    new = {
        "title": "Wall pass",
        "kind": "makes",
        "caution": "home_alone",
        "revision": 0,
        "skill": "Passing",
    }
    new |= {
        f"{part}-{key}": n
        for part in ("fault", "version")
        for key, n in (("TOTAL_FORMS", 0), ("INITIAL_FORMS", 0))
    }
    same(at_once(club.coach.user, posted("/drills/new/", new | {"form_id": str(uuid4())})))
    assert Drill.objects.filter(title="Wall pass").count() == 1
    answers = at_once(club.coach.user, posted("/drills/new/", new | {"title": "Gate pass"}))
    assert sorted(a.status_code for a in answers) == [302] + [422] * (MANY - 1)
    same(at_once(club.coach.user, posted("/library/in/", {"starter": "yes", "sure": "yes"})))
    assert Ladder.objects.count() == 25
    roster = {"text": "name,squad\nBo,Under 9\nAda,Under 9", "sure": "yes"}
    same(at_once(club.coach.user, posted("/roster/in/", roster)))
    assert Player.objects.filter(name__in=["Bo", "Ada"]).count() == 2


def test_an_absence_is_noticed_once_and_by_no_look_at_a_page(club):
    today = timezone.localdate()
    p = put_on(club, rung=2, on=today - timedelta(days=60))
    log(p, today - timedelta(days=40), 8, 8)
    Proposal.objects.all().delete()
    pages = iter(["/", "/review/"] * MANY)
    same(at_once(club.coach.user, lambda client: client.get(next(pages))))
    assert Proposal.objects.count() == 0
    # the first write of the day brings it, of many at once just one
    answers = at_once(club.coach.user, lambda client: client.post("/ladders/marks/", {}))
    assert {answer.status_code for answer in answers} == {204}
    assert Proposal.objects.filter(kind="recheck", state="open").count() == 1


def test_a_session_and_a_report_are_one(club):
    stay = current(put_on(club))
    sent = {
        "session_id": str(uuid4()),
        "hurts": "yes",
        "hurt_where": "knee",
        "e0-makes": "8",
        "e1-makes": "8",
    }
    same(at_once(None, posted(f"/card/{club.token}/{stay.pk}/", sent)))
    assert (Session.objects.count(), Stop.objects.count(), HurtReport.objects.count()) == (1, 1, 1)


def test_a_report_does_not_wait_for_an_import(club):
    """While an import holds the club, a card is heard at once; an import that waited would block it
    for seconds.
    """
    with ThreadPoolExecutor(1) as pool, transaction.atomic():
        lock_club(club.club.pk)

        def tell():
            try:
                return Client().post(f"/card/{club.token}/hurt/", {"what": "knee"}).status_code
            finally:
                connection.close()

        assert pool.submit(tell).result(timeout=20) == 302
    assert HurtReport.objects.count() == 1


def test_an_import_and_a_save_of_the_same_drill_do_not_lock_each_other_out(club):
    """Both take the club first and the drill after it, whichever begins."""
    starter = {"starter": "yes", "sure": "yes"}
    at_once(club.coach.user, posted("/library/in/", starter))
    one = Drill.objects.exclude(pk=club.drill.pk).first()

    def act(client):
        if next(turns) % 2:
            return client.post("/library/in/", starter)
        return client.post(
            f"/drills/{one.pk}/plan/", {"plan": '{"units": "m", "markers": []}', "revision": 1}
        )

    turns = count()
    answers = at_once(club.coach.user, act)
    assert all(a.status_code < 500 for a in answers), [a.status_code for a in answers]


def test_a_stop_is_ended_by_one(club):
    stop = open_stop(player=club.player, what="knee", on=timezone.localdate(), actor=None)
    answers = at_once(
        club.coach.user, posted(f"/stops/{stop.pk}/end/", {"cleared_by": "physio", "reports": 1})
    )
    assert sorted(a.status_code for a in answers) == [302] + [422] * (MANY - 1)
    assert all("ended already by Ruth" in text(a) for a in answers if a.status_code == 422)


def test_two_coaches_on_one_player_see_each_other(club):
    """The second is shown both, nothing is overwritten; sent again, theirs takes its place."""
    client = Client()
    client.force_login(club.coach.user)
    path = f"/players/{club.player.pk}/edit/"
    base = {"name": "Ida Marlow", "dominant_side": "right", "revision": club.player.revision}
    days = {"day-0-minutes": "20", "day-0-place": "home"}
    assert client.post(path, base | {"home_tools": "stick", **days}).status_code == 302
    second = client.post(path, base | {"home_tools": "three balls", "guardian_name": "Another"})
    page = text(second)
    assert second.status_code == 422
    assert "Ruth (changed a player) changed this while you had it open" in page
    for words in ("Things at home", "stick", "three balls", "Monday", "20 min home", "Guardian 1"):
        assert words in page
    club.player.refresh_from_db()
    assert club.player.home_tools == "stick"
    again = base | {"home_tools": "three balls", "revision": club.player.revision}
    assert f'name="revision" value="{club.player.revision}"' in page
    assert client.post(path, again).status_code == 302
    club.player.refresh_from_db()
    assert club.player.home_tools == "three balls"


def test_a_form_that_was_refused_may_be_sent_again_mended(club):
    client, sent = Client(), {"form_id": str(uuid4()), "dominant_side": "right"}
    client.force_login(club.coach.user)
    assert client.post("/players/new/", sent).status_code == 422
    assert client.post("/players/new/", sent | {"name": "Bo"}).status_code == 302
    assert client.post("/players/new/", sent | {"name": "Bo"}).status_code == 302
    assert Player.objects.filter(name="Bo").count() == 1
    assert SentForm.objects.count() == 1
