"""How at ease a player is: asked where it is done, and twice not at ease makes a rung easier."""

from datetime import timedelta
from importlib import import_module
from uuid import uuid4

import pytest
from django.db import connection
from django.test import Client
from django.utils import timezone

from drill_ladder.apps.floor.hall.document import hall_of
from drill_ladder.apps.floor.models import FloorTap
from drill_ladder.apps.library.models import Rung
from drill_ladder.apps.library.routines.services import PartInput, RoutineHead, save_routine
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.models import Felt, Session
from drill_ladder.apps.practice.observations import keep_felt
from drill_ladder.apps.practice.routines.log import stays_of
from drill_ladder.apps.prescriptions.routines.services import give_routine
from drill_ladder.apps.review.models import Proposal, State
from drill_ladder.apps.review.services import settle, undo
from drill_ladder.core.judging import Advice
from tests.db.test_hall import Device
from tests.make import current, drill, ladder, log, put_on, text

MIGRATIONS = "drill_ladder.apps.floor.migrations"
QUESTION = "How at ease are you with it?"


@pytest.fixture
def stay(w, today):
    return current(put_on(w, on=today - timedelta(days=20)))


def said(stay, on, level, *makes):
    return log(stay.prescription, on, *(makes or (6, 6)), at_ease=level)


def waiting():
    return Proposal.objects.get(state=State.OPEN)


def card_page(w, stay):
    return text(Client().get(f"/card/{w.token}/{stay.pk}/"))


def test_twice_running_makes_it_easier_at_once_and_asks_the_coach(w, stay, today):
    said(stay, today - timedelta(days=3), 2)
    assert not Proposal.objects.filter(state=State.OPEN).exists()
    said(stay, today, 1)
    assert current(stay.prescription).eased
    proposal = waiting()
    assert (proposal.kind, [r.code for r in proposal.said.reasons]) == ("ease", [Advice.UNEASY])
    assert proposal.said.reasons[0].text == (
        "Said twice running not to be at ease with it: 1 of 5 the last time."
    )
    assert "Easier for now" in card_page(w, stay)


def test_a_later_session_does_not_take_the_question_away(w, stay, today):
    for back in (6, 3):
        said(stay, today - timedelta(days=back), 2)
    log(stay.prescription, today - timedelta(days=1), 6, 6)
    assert waiting().kind == "ease"
    log(stay.prescription, today, 9, 9)  # met, made easier: back to the full one, nothing to ask
    assert not current(stay.prescription).eased
    assert not Proposal.objects.filter(state=State.OPEN).exists()


def test_hold_goes_back_to_the_full_one_and_undo_asks_again(w, coach, stay, today):
    for back in (3, 0):
        said(stay, today - timedelta(days=back), 2)
    page = text(coach.get("/review/"))
    assert "bigger gate. Hold goes back to the full one." in page
    taken = settle(member=w.coach, proposal=waiting(), action="hold", on=today)
    assert not current(stay.prescription).eased
    undo(member=w.coach, decision=taken)
    assert current(stay.prescription).eased
    settle(member=w.coach, proposal=waiting(), action="confirm", on=today)
    assert current(stay.prescription).eased


@pytest.mark.parametrize("levels", [(2, 3), (3, 2), (2, 5, 2)])
def test_once_or_with_a_better_day_between_changes_nothing(w, stay, today, levels):
    for back, level in zip((6, 3, 0), levels, strict=False):
        said(stay, today - timedelta(days=back), level)
    assert not current(stay.prescription).eased


def test_a_rung_without_an_easier_way_is_told_as_stuck(w, stay, today):
    Rung.objects.update(ease_note="")
    for back in (3, 0):
        said(stay, today - timedelta(days=back), 1)
    codes = [reason.code for reason in waiting().said.reasons]
    assert (waiting().kind, codes) == ("stalled", [Advice.UNEASY, Advice.EASIER_RUNG])
    assert not current(stay.prescription).eased


def test_whoever_is_ready_to_climb_is_not_eased(w, stay, today):
    for back in (3, 0):
        said(stay, today - timedelta(days=back), 2, 9, 9)
    assert waiting().kind == "climb"
    assert not current(stay.prescription).eased


def test_the_card_asks_once_a_week_and_again_after_a_bad_day(w, stay, today):
    assert QUESTION in card_page(w, stay)
    said(stay, today - timedelta(days=1), 4)
    assert QUESTION not in card_page(w, stay)
    Felt.objects.update(level=2)
    assert QUESTION in card_page(w, stay)
    Felt.objects.update(on=today)
    assert QUESTION not in card_page(w, stay)
    Felt.objects.update(on=today - timedelta(days=7), level=4)
    assert QUESTION in card_page(w, stay)


def test_the_card_keeps_what_was_said(w, stay, today):
    sent = {"hurts": "no", "at_ease": "2", "e0-attempts": "10", "e0-makes": "6"}
    sent |= {"e1-attempts": "10", "e1-makes": "6", "on": today.isoformat()}
    assert Client().post(f"/card/{w.token}/{stay.pk}/", sent).status_code == 302
    assert Session.objects.count() == 1
    assert Felt.objects.values_list("player", "stay", "on", "level").get() == (
        w.player.pk,
        stay.pk,
        today,
        2,
    )


def test_the_hall_asks_about_the_rung_and_a_slip_is_taken_back(w, stay, today):
    said(stay, today - timedelta(days=9), 1)
    tablet = Device(w.coach.user)
    tap = tablet.tap(stay, "comfort", numbers={"level": 1}, about=stay.pk) | {"stay": None}
    assert tablet.send(tap)["stored"]
    assert not hall_of(w.club, today)["players"][0]["comfort"]
    assert current(stay.prescription).eased
    assert tablet.send(tablet.tap(stay, "undo", of=tap["id"]) | {"stay": None})["stored"]
    assert list(Felt.objects.values_list("level", flat=True)) == [1]


@pytest.mark.parametrize(
    ("back", "level", "asks"), [(0, 1, False), (1, 2, True), (1, 3, False), (7, 5, True)]
)
def test_the_hall_asks_once_a_week_and_again_after_a_bad_day(w, stay, today, back, level, asks):
    said(stay, today - timedelta(days=back), level)
    assert hall_of(w.club, today)["players"][0]["comfort"] is asks


def test_a_rung_of_somebody_else_is_not_asked_about(w, stay, today):
    other = current(put_on(w, ladder=w.ladder, player=_second(w)))
    tablet = Device(w.coach.user)
    tap = tablet.tap(stay, "comfort", numbers={"level": 1}, about=other.pk) | {"stay": None}
    assert tablet.send(tap)["stored"]
    assert Felt.objects.values_list("player", "stay").get() == (w.player.pk, None)


def _second(w):
    return Player.objects.create(club=w.club, name="Ole", joined_on=w.player.joined_on)


def test_what_the_hall_kept_before_moves_along_without_what_was_taken_back(w, today):
    def tapped(back, act="comfort", **value):
        on = today - timedelta(days=back)
        more = {"on": on, "at": timezone.now(), "act": act, "value": value}
        return FloorTap.objects.create(uid=uuid4(), club=w.club, player=w.player, **more)

    for level in (2, 3):
        tapped(9, numbers={"level": level})  # the latest of a day counts
    slip = tapped(2, numbers={"level": 1})
    tapped(2, act="undo", of=str(slip.uid))
    with connection.cursor() as cursor:
        cursor.execute(import_module(f"{MIGRATIONS}.0004_at_ease_has_its_own_place").MOVE)
    rows = list(Felt.objects.values_list("player", "stay", "on", "level"))
    assert rows == [(w.player.pk, None, today - timedelta(days=9), 3)]


# --- where several rungs are done as one: a routine, and on paper; from outside by the door


def morning(w, today):
    wall = ladder(w.club, drill(w.club, "Wall"), "Wall passes")
    parts = [PartInput(w.ladder), PartInput(wall)]
    routine = save_routine(
        member=w.coach, routine=None, head=RoutineHead("Set", "", 20), parts=parts
    )
    first = put_on(w, on=today - timedelta(days=20))
    given = give_routine(
        member=w.coach, routine=routine, player=w.player, per_week=2, place="home", on=today
    )
    newest = next(one for one in stays_of(given) if one.prescription_id != first.pk)
    return given, current(first), newest


def routine_sent(page, today, **more):
    """What the page posts with one part counted."""
    form = page.context["page"].parts
    sent = {"hurts": "no", "on": today.isoformat(), **more}
    for part in form:
        for entry in part.form.entries:
            sent |= {
                f"{part.key}-{entry.prefix}-attempts": 10,
                f"{part.key}-{entry.prefix}-makes": 6,
            }
    return sent


def test_a_routine_asks_about_its_newest_rung_and_keeps_the_answer_there(w, today):
    given, _, newest = morning(w, today)
    address = f"/card/{w.token}/routine/{given.pk}/"
    page = Client().get(address)
    assert "How at ease are you with Wall passes?" in text(page)
    about = page.context["page"].day["about"].value()
    assert about == newest.pk
    Client().post(address, routine_sent(page, today, at_ease="2", about=about))
    assert Session.objects.count() == 2
    assert list(Felt.objects.values_list("stay", "level")) == [(newest.pk, 2)]
    # once a week, and again where it was not at ease
    assert "How at ease" not in text(Client().get(address))
    Felt.objects.update(on=today - timedelta(days=2))
    assert "How at ease are you with Wall passes?" in text(Client().get(address))


def test_a_routine_asks_first_where_it_was_not_at_ease(w, today):
    given, older, _ = morning(w, today)
    keep_felt(older, today - timedelta(days=2), 2)
    page = Client().get(f"/card/{w.token}/routine/{given.pk}/")
    assert f"How at ease are you with {w.ladder}?" in text(page)


def test_who_is_asked_about_nothing_is_kept_nowhere(w, today):
    """An answer about a rung that is none of the routine's is dropped."""
    given, _, _ = morning(w, today)
    other = current(put_on(w, player=Player.objects.create(
        club=w.club, name="Bea", joined_on=today
    )))  # fmt: skip
    address = f"/card/{w.token}/routine/{given.pk}/"
    sent = routine_sent(Client().get(address), today, at_ease="1", about=other.pk)
    Client().post(address, sent)
    assert Session.objects.count() == 2
    assert not Felt.objects.exists()
