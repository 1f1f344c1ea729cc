"""Who rests is planned nowhere; what was told keeps its time, and reaches somebody late, too."""

import json
from datetime import timedelta

import pytest
from django.db import IntegrityError, transaction
from django.test import Client
from django.utils import timezone

from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Player, Squad
from drill_ladder.apps.people.players.links import close_link
from drill_ladder.apps.practice.models import HurtReport
from drill_ladder.apps.practice.stops.services import open_stop
from drill_ladder.apps.prescriptions.changes.differences import CHANGES  # noqa: F401  the app is loaded
from drill_ladder.apps.prescriptions.services import prescribe
from tests.db.test_hurt_first import WORDS, told
from tests.make import current, ladder, log, put_on, text


def test_who_rests_is_put_nowhere(w, coach, today):
    """Placement, prescribing, stations, deciding: refused with the reason (planning:
    test_weeks_caution).
    """
    p = put_on(w, rung=2, on=today - timedelta(days=9))
    log(p, today - timedelta(days=2), 8, 8)
    log(p, today - timedelta(days=1), 8, 8)
    waits = text(coach.get("/review/"))
    decide = waits.split('action="/review/')[1].split('"')[0]
    open_stop(player=w.player, what="knee", on=today, actor=None)
    other = ladder(w.club, w.drill, "Another")
    why = "Ida Marlow rests since"
    placed = coach.post(
        f"/players/{w.player.pk}/place/{other.pk}/",
        {"probe": other.rungs.first().pk, "good-0": "3", "good-1": "3"},
    )
    assert why in text(placed)
    started = coach.post(
        f"/players/{w.player.pk}/prescribe/{other.pk}/",
        {"rung": other.rungs.first().pk, "per_week": 3, "place": "coached"},
    )
    assert (started.status_code, why in text(started)) == (422, True)
    assert why in text(coach.post(f"/review/{decide}", {"action": "confirm"}))
    station = {"name": "Gate", "capacity": 2, "s_per_rep": 4.0, "roles": ["worker"]}
    rows = {"station-TOTAL_FORMS": 1, "station-INITIAL_FORMS": 0} | {
        f"station-0-{k}": v for k, v in (station | {"roles": "worker"}).items()
    }
    rows["station-0-name"] = w.drill.title
    bo, ada, twin = (
        Player.objects.create(club=w.club, name=name, joined_on=today)
        for name in ("Bo", "Ada", "Ida Marlow")
    )
    group = {"title": "x", "people": [w.player.pk, bo.pk], "minutes": 4, "change_s": 20}
    refused = coach.post("/stations/", group | rows)
    assert "Ida Marlow rests" in text(refused)
    made = coach.post("/stations/", group | rows | {"people": [bo.pk, ada.pk]})
    change = f"{made.headers['Location']}players/"
    changed = coach.post(change, {"people": [bo.pk, w.player.pk], "slot": 1}, follow=True)
    assert "Ida Marlow rests" in text(changed)
    # another one of that name does not rest
    there = coach.post(change, {"people": [bo.pk, twin.pk], "slot": 1}, follow=True)
    assert "planned anew" in text(there)


def test_a_squad_names_who_rests_and_goes_on(w, coach, today):
    group = Squad.objects.create(club=w.club, name="Under 12")
    w.player.squad = group
    w.player.save()
    open_stop(player=w.player, what="knee", on=today, actor=None)
    first = w.rungs[0].pk
    answer = coach.post(
        f"/ladders/{w.ladder.pk}/squads/{group.pk}/",
        {f"rung-{w.player.pk}": first, "per_week": 2, "place": "both"},
        follow=True,
    )
    assert "Ida Marlow rests since" in text(answer)
    with pytest.raises(Refused, match="knee"):
        prescribe(
            member=w.coach,
            player=w.player,
            ladder=w.ladder,
            rung=w.rungs[0],
            per_week=2,
            place="both",
            on=today,
        )


def test_a_report_says_something_and_belongs_to_its_stop(w, today):
    stop = open_stop(player=w.player, what="knee", on=today, actor=None)
    with pytest.raises(IntegrityError), transaction.atomic():
        HurtReport.objects.create(club=w.club, stop=stop, words="")


def test_the_same_words_hours_later_have_their_own_time(w, today):
    stop = open_stop(player=w.player, what="knee", on=today, actor=None)
    HurtReport.objects.update(at=timezone.now() - timedelta(hours=2))
    open_stop(player=w.player, what="knee", on=today, actor=None)
    open_stop(player=w.player, what="knee", on=today, actor=None)
    assert told() == ["knee", "knee"]
    stop.refresh_from_db()
    assert stop.what == "knee"


def test_who_was_signed_out_is_told_so(w):
    """Without a script: no silent way to the sign-in."""
    stay = current(put_on(w))
    for path in (f"/log/{stay.pk}/", f"/players/{w.player.pk}/stop/", "/stops/new/"):
        answer = Client().post(path, {"hurts": "yes", "hurt_where": WORDS, "what": WORDS})
        assert answer.status_code == 403
        assert f"“{WORDS}” did not reach the coach." in text(answer)
        assert "You are signed out" in text(answer)
    assert told() == []


def test_a_closed_link_answers_a_device_too(w):
    old = w.token
    close_link(member=w.coach, player=w.player)
    answer = Client().post(
        f"/card/{old}/hurt/", {"what": WORDS}, headers={"Accept": "application/json"}
    )
    assert json.loads(answer.content) == {"told": WORDS}
    assert told() == [WORDS]
    Client().post(f"/card/{old}/hurt/", {"what": ""})
    assert told() == [WORDS, "Something hurts"]
