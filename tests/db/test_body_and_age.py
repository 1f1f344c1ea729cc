"""Body, age and limits where the work stands: card, run, log, hall and paper."""

from datetime import date, timedelta

import pytest
from django.test import Client

from drill_ladder.apps.card.paper.pages import sizes_note
from drill_ladder.apps.floor.hall.document import hall_of
from drill_ladder.apps.library.models import Rung, ToolLimit
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.work import work_of
from drill_ladder.core.work import Place
from drill_ladder.formats.work_words import told_work
from tests.make import current, put_on, text

OVER = "Stick of 95\u00a0cm: at most 91\u00a0cm is allowed under 12 (Union, 1 September 2026)."
SET = "Tee: 41 to 75\u00a0cm, knee to navel"


@pytest.fixture
def stay(w, today):
    w.drill.kit = [{"tool": "tee", "low": 0.3, "high": 0.55, "by": "knee to navel"}]
    w.drill.tools = ["stick", "tee"]
    w.drill.save()
    Rung.objects.update(by_age=[{"to": 8, "how": "3 m"}, {"to": None, "how": "5 m"}])
    born = date(today.year - 8, 1, 1)
    Player.objects.update(height_cm=136, birth_month=born, kit_cm={"stick": 95})
    ToolLimit.objects.create(
        club=w.club, tool="stick", most_cm=91, under=12, body="Union", of=date(2026, 9, 1)
    )
    w.player.refresh_from_db()
    return current(put_on(w, on=today - timedelta(days=3)))


def test_card_run_log_and_hall_say_it(w, coach, stay, today):
    pages = [
        text(Client().get(f"/card/{w.token}/{stay.pk}/")),
        text(Client().get(f"/card/{w.token}/{stay.pk}/run/")),
        text(coach.get(f"/log/{stay.pk}/")),
    ]
    for page in pages:
        assert OVER in page
        assert SET in page
        assert "3 m (age 8)" in page
    assert "3 m (age 8). Target" in text(Client().get(f"/card/{w.token}/"))
    work = hall_of(w.club, today)["players"][0]["work"][0]
    assert (work["kit"], work["set_to"]) == ((OVER,), (SET,))
    assert work["dose"].endswith(", 3 m (age 8)")


def test_paper_says_it(stay, today):
    assert sizes_note(told_work(work_of(stay, today, Place.HOME))) == f"Set {SET}. {OVER}"


def test_an_older_one_has_another_distance_and_no_such_limit(w, stay, today):
    Player.objects.update(birth_month=date(today.year - 12, 1, 1))
    told = told_work(work_of(current(stay.prescription), today))
    assert told.kit == ()
    assert told.dose.endswith(", 5 m (age 12)")


def test_limits_are_entered_replaced_and_taken_away(w, coach, today):
    sent = {"tool-tool": "stick", "tool-most_cm": "91,4", "tool-under": "12"}
    sent |= {"tool-body": "Union", "tool-of": "2026-09-01"}
    assert coach.post("/limits/tools/", sent).status_code == 302
    coach.post("/limits/tools/", sent | {"tool-tool": "STICK", "tool-most_cm": "90"})
    limit = ToolLimit.objects.get()
    page = text(coach.get("/limits/"))
    assert "Stick: at most 90\u00a0cm under 12" in page
    assert "1 player without a month of birth" in page
    coach.post(f"/limits/tools/{limit.pk}/away/")
    assert not ToolLimit.objects.exists()


@pytest.mark.parametrize(
    ("wrong", "words"),
    [
        ({"tool-most_cm": ""}, "How long may it be?"),
        ({"tool-least_cm": "95"}, "This is less than what it has to be at least."),
        ({"tool-of": "2036-09-01"}, "That day has not come yet."),
        ({"tool-under": "2"}, "3"),
    ],
)
def test_a_limit_that_says_nothing_is_asked_about(coach, wrong, words):
    sent = {"tool-tool": "stick", "tool-most_cm": "91", "tool-under": "12"}
    sent |= {"tool-body": "Union", "tool-of": "2026-09-01"}
    answer = coach.post("/limits/tools/", sent | wrong)
    assert answer.status_code == 422
    assert words in text(answer)
    assert not ToolLimit.objects.exists()
