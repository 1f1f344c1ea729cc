"""Contact and all-out effort are done fresh; what has to be worn is ticked, and kept."""

from datetime import timedelta

import pytest
from django.test import Client

from drill_ladder.apps.floor.hall.document import hall_of
from drill_ladder.apps.library.models import Drill
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.practice.sessions.services import record_session
from drill_ladder.apps.weeks.arranging import arrange_and_store
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.apps.weeks.plan import stored_plan
from tests.db.test_pages import BOTH, card_post
from tests.make import current, drill, given, ladder, put_on, text


@pytest.fixture
def hard(w):
    """Tackling, only when fresh."""
    return ladder(w.club, drill(w.club, "Tackle", only_fresh=True), "Tackles")


@pytest.fixture
def hit(w):
    """Hitting, with a helmet and eye wear."""
    return ladder(w.club, drill(w.club, "Hit", worn=["helmet", "eye wear"]), "Hits")


def test_done_tired_it_is_refused_when_it_is_logged(w, hard, today):
    stay = current(put_on(w, ladder=hard, on=today))
    with pytest.raises(Refused, match="done fresh, never tired"):
        record_session(stay=stay, entry=given(today, 8, 8, tired=True), today=today, actor=None)
    record_session(stay=stay, entry=given(today, 8, 8), today=today, actor=None)


def test_it_cannot_be_wanted_once_more_tired(w, hard, today):
    with pytest.raises(Refused, match="cannot be wanted once more tired"):
        put_on(w, ladder=hard, on=today, more={"tired_too": True})
    assert put_on(w, ladder=hard, on=today)


def test_nothing_offers_it_tired(w, coach, hard, today):
    """The caution was raised while it was wanted twice: log, hall and week follow."""
    Drill.objects.filter(title="Tackle").update(only_fresh=False)
    p = put_on(w, ladder=hard, on=today, more={"tired_too": True})
    assert 'name="tired"' in text(coach.get(f"/log/{current(p).pk}/"))
    Drill.objects.filter(title="Tackle").update(only_fresh=True)
    assert 'name="tired"' not in text(coach.get(f"/log/{current(p).pk}/"))
    [player] = hall_of(w.club, today)["players"]
    assert player["work"][0]["tired_too"] is False
    w.player.days.create(club=w.club, weekday=today.weekday(), minutes=60, place="club")
    plan = stored_plan(w.player, today - timedelta(days=today.weekday()))
    assert all(not wanted.tired_too for wanted in plan.demand.values())


def test_in_a_session_it_comes_before_conditioning_whatever_its_own_part(w, hard, today):
    from drill_ladder.apps.prescriptions.models import Prescription

    run = ladder(w.club, drill(w.club, "Runs"), "Runs", intent="endurance")
    both = [put_on(w, ladder=one, on=today) for one in (run, hard)]
    Prescription.objects.update(intent="endurance")
    [player] = hall_of(w.club, today)["players"]
    assert [one["ladder"] for one in player["work"]] == ["Tackles", "Runs"]
    monday = today - timedelta(days=today.weekday())
    week = Week.objects.create(club=w.club, player=w.player, monday=monday)
    for order, p in enumerate(both, 1):
        PlannedBlock.objects.create(
            club=w.club,
            week=week,
            prescription=p,
            stay=current(p),
            on=today,
            order=order,
            minutes=10,
            place="club",
        )
    plan = stored_plan(w.player, monday)
    arrange_and_store(plan)
    blocks = PlannedBlock.objects.order_by("order")
    assert [str(block.prescription.ladder) for block in blocks] == ["Tackles", "Runs"]


def test_what_has_to_be_worn_is_demanded_on_the_card_and_kept_with_the_session(w, hit, today):
    stay = current(put_on(w, ladder=hit, on=today - timedelta(days=1), place="home"))
    page = text(Client().get(f"/card/{w.token}/{stay.pk}/"))
    assert page.count('name="worn"') == 2
    answer, sent, path = card_post(w, stay, worn=["helmet"], **BOTH)
    assert answer.status_code == 422
    assert "Has to be worn, and ticked: eye wear" in text(answer)
    assert not Session.objects.exists()
    Client().post(path, sent | {"worn": ["helmet", "eye wear"]})
    assert Session.objects.get().worn == ["helmet", "eye wear"]


def test_a_coach_ticks_it_too_and_sees_it_later(w, coach, hit, today):
    stay = current(put_on(w, ladder=hit, on=today))
    path = f"/log/{stay.pk}/"
    sent = {"hurts": "no", "e0-makes": "8", "e1-makes": "8"}
    assert coach.post(path, sent).status_code == 422
    coach.post(path, sent | {"worn": ["helmet", "eye wear"]})
    session = Session.objects.get()
    assert "worn: helmet, eye wear" in text(coach.get(f"/sessions/{session.pk}/"))


def test_the_adults_tick_is_kept(w, today):
    w.player.home_adult = True
    w.player.save()
    steps = ladder(w.club, drill(w.club, "Clear", caution="home_with_adult"), "Clears")
    stay = current(put_on(w, ladder=steps, on=today, place="home"))
    card_post(w, stay, adult="on", **BOTH)
    assert Session.objects.get().adult


def test_the_others_are_a_reminder_and_look_like_one(w, today):
    Drill.objects.filter(pk=w.drill.pk).update(caution_note="Flat ground.", tools=["stick"])
    stay = current(put_on(w, on=today, place="home"))
    page = text(Client().get(f"/card/{w.token}/{stay.pk}/"))
    before = page.partition("Before you start")[2].partition("</section>")[0]
    assert "Flat ground." in before
    assert "checkbox" not in before
