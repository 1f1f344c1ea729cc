"""Floor plans on their pages: shown, edited, refused, not overwritten."""

import json

import pytest
from django.test import Client

from tests.make import current, put_on, text

PLAN = {
    "units": "m",
    "markers": [{"id": "A", "x": 0, "y": 0}, {"id": "B", "x": 2, "y": 6}],
    "legs": [{"from": "A", "to": "B", "way": "sprint", "do": ""}],
    "zones": [],
    "paths": [],
    "margin": 1,
}


def save(client, w, plan, revision=1):
    return client.post(
        f"/drills/{w.drill.pk}/plan/", {"plan": json.dumps(plan), "revision": revision}
    )


def test_a_plan_is_saved_and_shown_in_any_unit(w, coach):
    assert save(coach, w, PLAN).status_code == 302
    page = text(coach.get(f"/drills/{w.drill.pk}/"))
    assert "6.32\u00a0m sprint" in page
    assert "4\u00a0m wide, 8\u00a0m deep" in page
    assert "20.7\u00a0ft sprint" in text(coach.get(f"/drills/{w.drill.pk}/?units=ft"))
    assert "6.9\u00a0yd sprint" in text(coach.get(f"/drills/{w.drill.pk}/?units=yd"))
    assert "m sprint" in text(coach.get(f"/drills/{w.drill.pk}/?units=furlong"))


@pytest.mark.parametrize(
    ("width", "depth", "words"),
    [
        (4, 8, "Yes, as it is."),
        (4, 7.4, "Yes, at 90\u00a0% of its size."),
        (
            4,
            5,
            "No: it would fit at 50\u00a0% of its size, and it takes 80\u00a0% to be the drill.",
        ),
        (1, 9, "No: not even its margin"),
    ],
)
def test_does_it_fit(w, coach, width, depth, words):
    save(coach, w, PLAN)
    assert words in text(coach.get(f"/drills/{w.drill.pk}/?width={width}&depth={depth}"))


def test_the_card_shows_it_and_turns_it_round_for_left_handers(w, coach):
    save(coach, w, PLAN)
    stay = current(put_on(w))
    path = f"/card/{w.token}/{stay.pk}/"
    right = text(Client().get(path))
    w.player.dominant_side = "left"
    w.player.save()
    left = text(Client().get(path))
    assert "floor-plan" in right
    assert "floor-plan" in left
    assert right.count("<polygon") == left.count("<polygon")
    assert right != left


@pytest.mark.parametrize(
    ("plan", "words"),
    [
        (
            {**PLAN, "legs": [{"from": "A", "to": "Z"}]},
            "$.legs[0].to: is &#x27;Z&#x27;, which is no marker",
        ),
        ({**PLAN, "markers": []}, "has too few entries"),
        ([], "is not an object"),
    ],
)
def test_what_is_wrong_is_said_and_what_was_typed_is_kept(w, coach, plan, words):
    answer = save(coach, w, plan)
    page = text(answer)
    assert answer.status_code == 422
    assert words in page
    if isinstance(plan, dict):
        assert json.dumps(plan["legs"][:1])[1:20] in page.replace("\\u0022", '"')
    w.drill.refresh_from_db()
    assert (w.drill.plan, w.drill.revision) == (None, 1)


@pytest.mark.parametrize("body", ["", "{", "x" * 70_000])
def test_what_is_no_plan_at_all(w, coach, body):
    answer = coach.post(f"/drills/{w.drill.pk}/plan/", {"plan": body, "revision": 1})
    assert answer.status_code == 422
    assert "is no floor plan" in text(answer)


def test_two_coaches_on_one_plan(w, coach):
    save(coach, w, PLAN)
    answer = save(coach, w, {**PLAN, "margin": 3}, revision=1)
    assert answer.status_code == 422
    assert "Ruth (changed the floor plan) changed this while you had it open" in text(answer)
    w.drill.refresh_from_db()
    assert w.drill.plan.margin == 1


def test_looking_before_saving(w, coach):
    found = coach.post("/plans/look/", {"plan": json.dumps(PLAN)}).json()
    assert found["faults"] == []
    assert found["svg"].startswith("<svg")
    assert set(found["hold"]) == {"left", "top", "pixels"}
    wrong = coach.post("/plans/look/", {"plan": json.dumps({**PLAN, "units": "mile"})}).json()
    assert wrong["faults"][0].startswith("$.units: is not one of")
    for body in ("", "[1]", "null"):
        assert coach.post("/plans/look/", {"plan": body}).json()["faults"] == [
            "$: is no floor plan"
        ]


def test_shapes_with_numbers(coach):
    found = coach.get("/plans/shape/star/", {"points": "4", "radius": "2.5"}).json()["plan"]
    assert len(found["markers"]) == 5
    assert len(found["legs"]) == 8
    for bad in ({"points": "999"}, {"radius": "-1"}, {"radius": "wide"}, {"points": "nan"}):
        assert coach.get("/plans/shape/star/", bad).status_code == 422
    assert coach.get("/plans/shape/blob/").status_code == 422


def test_the_wall_template_draws_a_wall_and_passes(w, coach):
    found = coach.get("/plans/shape/wall/", {"distance": "3,5", "width": "2"}).json()["plan"]
    assert found["walls"] == [{"points": [[-1.5, 3.5], [1.5, 3.5]]}]
    assert ([p["kind"] for p in found["paths"]], found["legs"]) == (["ball", "ball"], [])
    save(coach, w, {"units": "m", "margin": 0.5, **found})
    page = text(coach.get(f"/drills/{w.drill.pk}/"))
    assert 'class="plan-wall"' in page
    assert "Thick line: the wall." in page
    assert "4\u00a0m wide, 4.5\u00a0m deep" in page  # the wall's three and the margin


def test_a_plan_beyond_200_m_is_questioned(w, coach):
    """Five yards typed as five hundred."""
    far = {**PLAN, "units": "yd", "markers": [PLAN["markers"][0], {"id": "B", "x": 0, "y": 500}]}
    page = text(save(coach, w, far))
    assert "It is 457\u00a0m (500 yd) from end to end. Is that right?" in page
    path = f"/drills/{w.drill.pk}/plan/"
    coach.post(path, {"plan": json.dumps(far), "revision": 1, "sure": "yes"})
    w.drill.refresh_from_db()
    assert w.drill.plan.markers[1].y == 500
