"""A drill set up otherwise on one rung: drawn, kept, copied, taken out, shown wherever the drill's
plan would be.
"""

import json
from copy import deepcopy

import pytest
from django.core.exceptions import ValidationError
from django.test import Client

from drill_ladder.apps.card.today.blocks import home_way
from drill_ladder.apps.library.files.exchange import import_library, library_document, preview
from drill_ladder.apps.library.ladders.rung_form import HiddenPlan
from drill_ladder.apps.library.models import Drill, Ladder
from drill_ladder.formats.documents import PLAN
from drill_ladder.formats.library_file import read_library
from drill_ladder.formats.mistakes import Mistakes
from tests.make import current, put_on

NEAR = {
    "units": "m",
    "markers": [{"id": "A", "x": 0, "y": 0}, {"id": "B", "x": 0, "y": 4}],
    "legs": [{"from": "A", "to": "B", "way": "", "do": ""}],
    "zones": [],
    "paths": [],
    "margin": 0.5,
}
FAR = deepcopy(NEAR)
FAR["markers"][1]["y"] = 8


@pytest.fixture
def coach(w):
    w.drill.plan = NEAR
    w.drill.save()
    client = Client()
    client.force_login(w.coach.user)
    return client


def path(w, position=1):
    return f"/rungs/{w.rungs[position - 1].pk}/plan/"


def far_on(w, position=1):
    w.ladder.rungs.filter(position=position).update(plan=FAR)


def page(response):
    return response.content.decode()


def test_it_begins_with_the_drills_plan_and_changes_this_rung_only(w, coach):
    assert "a change here is for this rung only" in page(coach.get(path(w)))
    answer = coach.post(path(w), {"plan": json.dumps(FAR), "revision": w.ladder.revision})
    assert answer.status_code == 302
    assert [rung.floor_plan for rung in w.rungs] == [PLAN.read(plan) for plan in (FAR, NEAR, NEAR)]
    w.drill.refresh_from_db()
    assert w.drill.plan == PLAN.read(NEAR)
    assert "in its own way" in page(coach.get(path(w)))
    assert "Its own floor plan" in page(coach.get(f"/ladders/{w.ladder.pk}/"))


@pytest.mark.parametrize("sent", [{"plan": json.dumps(NEAR)}, {"plan": "", "as_drill": "yes"}])
def test_back_to_the_drills(w, coach, sent):
    far_on(w)
    coach.post(path(w), {**sent, "revision": w.ladder.revision})
    assert w.rungs[0].plan is None


def test_somebody_was_quicker(w, coach):
    answer = coach.post(path(w), {"plan": json.dumps(FAR), "revision": 9})
    assert answer.status_code == 422
    assert "changed this while you had it open" in page(answer)
    assert w.rungs[0].plan is None


def test_the_drills_own_page_cannot_be_emptied_that_way(w, coach):
    sent = {"plan": "", "as_drill": "yes", "revision": w.drill.revision}
    assert coach.post(f"/drills/{w.drill.pk}/plan/", sent).status_code == 422
    w.drill.refresh_from_db()
    assert w.drill.plan == PLAN.read(NEAR)


def test_what_cannot_be_read_is_refused_everywhere(w, coach):
    bad = {**FAR, "units": "shoe"}
    assert (
        coach.post(path(w), {"plan": json.dumps(bad), "revision": w.ladder.revision}).status_code
        == 422
    )
    rung = w.rungs[0]
    rung.plan = bad
    with pytest.raises(ValidationError):
        rung.full_clean()
    document = library_document(
        Drill.objects.of_club(w.club).for_file(), Ladder.objects.of_club(w.club).for_file()
    )
    document["ladders"][0]["rungs"][1]["plan"] = {**FAR, "legs": [{"from": "A", "to": "Z"}]}
    with pytest.raises(Mistakes) as found:
        read_library(json.dumps(document).encode())
    assert found.value.lines == [
        "$.ladders[0].rungs[1].plan.legs[0].to: is 'Z', which is no marker"
    ]


def sent_rows(w):
    """The builder's form as the page has it."""
    rows = {"title": w.ladder.title, "revision": w.ladder.revision, "rung-INITIAL_FORMS": 0}
    for n, rung in enumerate(w.rungs):
        plan = HiddenPlan().prepare_value(PLAN.write(rung.plan) if rung.plan else None)
        row = {"id": rung.pk, "drill": w.drill.pk, "title": rung.title, "plan": plan}
        row |= {"sets": 1, "reps": 10, "makes": 8, "of": 10, "each_lane": "on", "floor": 40}
        rows |= {f"rung-{n}-{key}": value for key, value in row.items()}
    return rows | {"rung-TOTAL_FORMS": len(w.rungs)}


def test_the_builder_keeps_it_and_a_copied_row_has_it_too(w, coach):
    far_on(w, 2)
    edit = f"/ladders/{w.ladder.pk}/edit/"
    rows = sent_rows(w)
    stepped = coach.post(edit, rows | {"step": "copy-1"})
    plans = [form["plan"].value() for form in stepped.context["rows"].forms]
    assert [json.loads(plan) if plan else None for plan in plans] == [
        None,
        *[PLAN.write(PLAN.read(FAR))] * 2,
        None,
    ]
    assert coach.post(edit, rows).status_code == 302
    assert [rung.plan for rung in w.rungs] == [None, PLAN.read(FAR), None]
    rows["revision"] = 2
    assert "cannot be read" in page(coach.post(edit, rows | {"rung-0-plan": '{"units": "m"}'}))


def test_it_goes_out_and_in_with_the_ladder(w, other, coach):
    far_on(w)
    drills, ladders = (
        Drill.objects.of_club(w.club).for_file(),
        Ladder.objects.of_club(w.club).for_file(),
    )
    document = read_library(json.dumps(library_document(drills, ladders)).encode())
    Ladder.objects.filter(club=other.club).delete()
    import_library(member=other.coach, library=document)
    mine = Ladder.objects.get(club=other.club)
    assert [bool(rung.plan) for rung in mine.rungs.all()] == [True, False, False]
    assert {change.what for change in preview(other.club, document)} == {"same"}


def test_the_card_shows_how_this_rung_is_set_up(w, coach):
    far_on(w)
    stay = current(put_on(w))
    card = page(Client().get(f"/card/{w.token}/{stay.pk}/"))
    assert "8\u00a0m" in card
    assert ">4\u00a0m" not in card


def test_whether_it_fits_at_home_goes_by_the_rungs_own_plan(w, coach):
    w.player.home_width, w.player.home_depth = 3, 5
    w.player.save()
    stay = current(put_on(w))
    assert home_way(stay).scale == 1
    far_on(w)
    stay = current(w.player.prescriptions.get())
    assert home_way(stay).scale == pytest.approx(0.5)
