"""Drafts, looking for drills, lists that stay quick, archiving."""

import pytest

from drill_ladder.apps.library.models import Drill, Ladder
from tests.db.test_library import DRAFT
from tests.make import current, drill, put_on, text


def test_a_draft_changes_one_thing_a_rung(w, coach):
    given = {**DRAFT, "drill": w.drill.pk, "steps_2": "known, random"}
    answer = coach.post("/ladders/draft/", given)
    rows = [form.initial for form in answer.context["rows"].forms]
    assert [r["title"] for r in rows] == ["4 m, known", "6 m, known", "6 m, random", "8 m, random"]
    assert [r.get("axis") for r in rows] == [None, "distance", "predictability", "distance"]
    assert [r.get("changes") for r in rows] == [None, "6 m", "random", "8 m"]
    assert all((r["makes"], r["reps"], r["each_lane"]) == (8, 10, True) for r in rows)
    assert Ladder.objects.count() == 1
    assert 'action="/ladders/new/"' in text(answer)


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"steps_2": "known"}, "Two steps at least"),
        ({"steps_1": ""}, "This field is required."),
        ({"axis_2": "distance", "steps_2": "a, b"}, "Each way of getting harder once"),
        ({"steps_2": ",".join(str(i) for i in range(40))}, "more than 30 rungs"),
        ({"steps_2": "a, b", "makes": 11}, "More good ones than attempts."),
    ],
)
def test_a_draft_that_cannot_be(w, coach, change, words):
    answer = coach.post("/ladders/draft/", {**DRAFT, "drill": w.drill.pk, **change})
    assert answer.status_code == 422
    assert words in text(answer)
    if "steps_1" not in change:
        assert "4 m, 6 m, 8 m" in text(answer)


@pytest.mark.parametrize(
    ("query", "titles"),
    [
        ("", ["Catch low", "Push pass", "Wall taps"]),
        ("words=WALL+taps", ["Wall taps"]),
        ("words=knees", ["Catch low"]),
        ("words=wall+knees", []),
        ("kind=streak", ["Wall taps"]),
        ("lane=left", ["Push pass"]),
        ("caution=coached_only", ["Catch low"]),
        ("skill=nonsense&kind=odd", ["Catch low", "Push pass", "Wall taps"]),
    ],
)
def test_looking_for_drills(w, coach, query, titles):
    drill(w.club, "Wall taps", measure={"kind": "streak"}, lanes=[])
    drill(w.club, "Catch low", how="Bend the knees.", caution="coached_only", lanes=["a"])
    answer = coach.get(f"/drills/?{query}")
    assert [d.title for d in answer.context["drills"]] == titles
    if not titles:
        assert "No drill like that" in text(answer)


def test_lists_stay_quick_at_500_drills_and_100_ladders(w, coach, django_assert_max_num_queries):
    Drill.objects.bulk_create(
        [
            Drill(club=w.club, title=f"Drill {n}", measure={"kind": "makes"}, lanes=["left"])
            for n in range(500)
        ]
    )
    Ladder.objects.bulk_create(
        [Ladder(club=w.club, title=f"Ladder {n}", rule={"school": "one_pass"}) for n in range(100)]
    )
    for path in ("/drills/", "/ladders/", "/drills/?words=drill"):
        with django_assert_max_num_queries(11):
            assert coach.get(path).status_code == 200


def test_put_aside_and_brought_back(w, coach):
    p = put_on(w)
    coach.post(f"/library/ladders/{w.ladder.pk}/aside/")
    coach.post(f"/library/drills/{w.drill.pk}/aside/")
    page = text(coach.get("/ladders/"))
    assert "Archived (1)" in page
    assert "No ladders yet" in page
    assert "Archived (1)" in text(coach.get("/drills/"))
    # whoever is on it goes on; nobody new is given it
    assert current(p).rung.position == 1
    assert "No ladder left" in text(coach.get(f"/players/{w.player.pk}/prescribe/"))
    p.status = "ended"
    p.save()
    start = coach.post(
        f"/players/{w.player.pk}/prescribe/{w.ladder.pk}/",
        {"rung": w.rungs[0].pk, "per_week": 2, "place": "home"},
    )
    assert "is archived: restore it first" in text(start)
    coach.post(f"/library/ladders/{w.ladder.pk}/aside/")
    assert "Archived" not in text(coach.get("/ladders/"))
    assert coach.post("/library/people/1/aside/").status_code == 404
