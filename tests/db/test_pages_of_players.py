"""Pages about a player: what ends stays known, what is typed is kept, who is told."""

import json
import re
from datetime import date, timedelta

from django.test import Client

from drill_ladder.apps.people.models import Player
from drill_ladder.apps.people.players.services import save_player
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.practice.stops.services import open_stop
from drill_ladder.apps.review.models import Proposal
from tests.db.test_pages import two_passes
from tests.make import current, log, put_on, text


def test_ending_a_prescription_keeps_the_history(w, coach, today):
    p, _ = two_passes(w, today)
    coach.post(f"/prescriptions/{p.pk}/end/")
    page = text(coach.get(f"/players/{w.player.pk}/"))
    assert "Ended on" in page
    assert Proposal.objects.awaiting_review().count() == 0
    assert Session.objects.count() == 2


def test_pads_know_their_sets(w):
    page = text(Client().get(f"/card/{w.token}/{current(put_on(w)).pk}/"))
    found = json.loads(re.search(r'<script id="pad-entries"[^>]*>(.*?)</script>', page).group(1))
    assert found == [
        {"prefix": "e0", "title": "Left", "lane": "left", "asked": 10, "number": 1},
        {"prefix": "e1", "title": "Right", "lane": "right", "asked": 10, "number": 1},
    ]


def test_a_month_of_birth_is_a_month(w, coach):
    coach.post(
        f"/players/{w.player.pk}/edit/",
        {"name": "Ida", "dominant_side": "both", "birth_month": "2013-09"},
    )
    w.player.refresh_from_db()
    assert (w.player.birth_month, w.player.name) == (date(2013, 9, 1), "Ida")
    future = coach.post(
        f"/players/{w.player.pk}/edit/",
        {"name": "Ida", "dominant_side": "both", "birth_month": "2999-01"},
    )
    assert "in the future" in text(future)


def test_a_changed_ladder_is_told_and_taken(w, coach, today):
    stay = current(put_on(w, on=today))
    page = f"/players/{w.player.pk}/"
    assert "The ladder has changed since." not in text(coach.get(page))
    rung = w.rungs[0]
    rung.dose = {"sets": 2, "reps": 10}
    rung.save()
    told = text(coach.get(page))
    assert "Dose: 10 left, 10 right → 2 sets of 10, each both left and right" in told
    coach.post(f"/stays/{stay.pk}/new-terms/")
    assert "The ladder has changed since." not in text(coach.get(page))


def test_a_squad_is_made_by_its_name_and_found_again(w, coach):
    for name, squad in (("A", "Hockey under 12"), ("B", "hockey UNDER 12"), ("C", "")):
        coach.post("/players/new/", {"name": name, "dominant_side": "right", "squad_name": squad})
    assert [
        p.squad and p.squad.name for p in Player.objects.filter(name__in="ABC").order_by("name")
    ] == [
        "Hockey under 12",
        "Hockey under 12",
        None,
    ]
    page = text(coach.get(f"/players/{Player.objects.get(name='A').pk}/edit/"))
    assert 'value="Hockey under 12"' in page


def test_the_desk_is_quick_for_players_who_are_away_too(
    w, coach, today, django_assert_max_num_queries
):
    for n in range(12):
        player = Player(name=f"Idle {n:02}", joined_on=today)
        save_player(member=w.coach, player=player)
        p = put_on(w, player=player, rung=2, on=today - timedelta(days=60))
        log(p, today - timedelta(days=15), 6, 6)
    coach.get("/")
    with django_assert_max_num_queries(14):
        assert coach.get("/").status_code == 200


def test_a_stop_says_whom_to_tell(w):
    """The program tells no guardian by itself, says so, and has the number at hand."""
    open_stop(player=w.player, what="knee", on=date(2026, 3, 1), actor=None)
    client = Client()
    client.force_login(w.assistant.user)
    for address in ("/", f"/players/{w.player.pk}/"):
        page = client.get(address).content.decode()
        assert "rings nobody. To be told: <strong>Marlow family</strong>" in page
        assert 'href="tel:1"' in page
    w.player.guardians.all().delete()
    assert "no guardian is noted" in client.get("/").content.decode()
