"""One run through today's blocks: start, next, skip, and the way back from an error."""

from datetime import timedelta

import pytest
from django.test import Client

from drill_ladder.apps.card.today.blocks import home_blocks
from drill_ladder.apps.card.today.running import minutes_today, next_after
from drill_ladder.apps.people.players.links import renew_link
from drill_ladder.apps.practice.models import Session, Skip
from drill_ladder.apps.prescriptions.models import Prescription
from drill_ladder.apps.weeks import services as weeks
from drill_ladder.apps.weeks.models import PlannedBlock
from drill_ladder.apps.weeks.publishing import publish
from tests.db.test_weeks import AT, has_days
from tests.make import current, drill, ladder, log, put_on, text


@pytest.fixture
def three(w, today):
    """Three ladders at home, in the order of their names."""
    w.drill.purpose, w.drill.caution_note, w.drill.tools = "To pass flat", "Look behind", ["ball"]
    w.drill.save()
    others = [ladder(w.club, drill(w.club, f"Drill {n}"), f"Gate {n}") for n in (2, 3)]
    on = today - timedelta(days=7)
    return [put_on(w, ladder=one, on=on, place="home") for one in (w.ladder, *others)]


def block(w, p):
    return f"/card/{w.token}/{current(p).pk}/"


def test_start_leads_from_block_to_block(w, three, today):
    card = Client().get(f"/card/{w.token}/")
    assert card.context["first"].stay.pk == current(three[0]).pk
    assert "Start" in text(card)
    blocks = home_blocks(w.player, today)
    assert minutes_today(blocks) == 12  # four minutes each
    first = Client().get(block(w, three[0]))
    assert first.context["next"].stay.pk == current(three[1]).pk
    session = log(three[0], today, 8, 8, observer="self")
    done = text(Client().get(f"/card/{w.token}/done/{session.pk}/"))
    assert f'href="{block(w, three[1])}run/">Next: Gate 1' in done
    log(three[1], today, 8, 8, observer="self")
    last = log(three[2], today, 8, 8, observer="self")
    assert "Next:" not in text(Client().get(f"/card/{w.token}/done/{last.pk}/"))
    assert next_after(home_blocks(w.player, today), current(three[2]).pk) is None


def test_before_the_clock_and_why(w, three):
    page = text(Client().get(block(w, three[0])))
    for words in ("Before you start", "Look behind", "You need: ball", "To pass flat"):
        assert page.count(words) == 1


def test_skipped_with_a_reason_the_coach_reads_it(w, coach, three, today):
    path = f"{block(w, three[0])}skip/"
    for _ in range(2):
        answer = Client().post(path, {"reason": "hard"})
    assert answer.headers["Location"] == f"{block(w, three[1])}run/"
    assert [(s.stay_id, s.on, s.why) for s in Skip.objects.all()] == [
        (current(three[0]).pk, today, "hard")
    ]
    assert not Session.objects.exists()
    last = Client().post(f"{block(w, three[2])}skip/", {"reason": "time"})
    assert last.headers["Location"] == f"/card/{w.token}/"
    assert Client().post(path, {"reason": "lazy"}).headers["Location"] == block(w, three[0])
    assert Skip.objects.count() == 2
    page = text(coach.get(f"/players/{w.player.pk}/"))
    assert "Left out on the card" in page
    assert f"{current(three[0]).rung.title}: too hard today" in page


def test_an_error_leads_a_child_back_to_the_card(w, three, coach):
    page = text(Client().get(f"/card/{w.token}/999999/"))
    assert f'href="/card/{w.token}/">Back to my card' in page
    closed = f"/card/{w.token}/"
    renew_link(member=w.coach, player=w.player)
    old = text(Client().get(closed))
    assert "opens nothing any more" in old
    assert "Back to the start" not in old
    assert "Back to the start" in text(coach.get("/nowhere/"))


def test_past_results_and_days_at_the_club_are_told(w, three, today):
    session = log(three[0], today, 8, 8, observer="self")
    page = text(Client().get(f"/card/{w.token}/"))
    assert f'href="/card/{w.token}/done/{session.pk}/"' in page
    assert "At the club you are expected" not in page
    has_days(w.player, *((n, 60, "club") for n in range(7)))
    Prescription.objects.update(place="coached")
    weeks.solve(member=w.coach, player=w.player, monday=today)
    publish(member=w.coach, player=w.player, monday=today, at=AT)
    page = text(Client().get(f"/card/{w.token}/"))
    days = sorted(b.on for b in PlannedBlock.objects.all() if b.on >= today)
    assert ("At the club you are expected" in page) == bool(days)
    assert "Start<small>" not in page
