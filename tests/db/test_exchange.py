"""The library out and in: nothing lost on the way, nothing half brought in."""

import json
from copy import deepcopy
from datetime import date

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from drill_ladder.apps.library.drills.services import TreatmentInput, set_treatments
from drill_ladder.apps.library.files.exchange import import_library, library_document, preview
from drill_ladder.apps.library.models import Drill, Ladder
from drill_ladder.apps.library.starter.ladders import starter_document
from drill_ladder.apps.library.words import WORDS
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Club
from drill_ladder.demo.load import make_library
from drill_ladder.formats.library_file import read_library
from drill_ladder.formats.measures import MEASURES
from drill_ladder.formats.mistakes import Mistakes
from tests.make import drill, ladder, member, put_on

TODAY = date(2026, 11, 24)


def out(club):
    drills = Drill.objects.filter(club=club).order_by("title")
    return library_document(drills, Ladder.objects.filter(club=club).order_by("title"))


def read(document):
    return read_library(json.dumps(document).encode())


def test_the_demo_library_goes_out_and_into_an_empty_club(w, other):
    demo = Club.objects.create(name="The demo's library")
    make_library(member(demo, "Mila", "coach"))
    document = out(demo)
    Ladder.objects.filter(club=other.club).delete()
    Drill.objects.filter(club=other.club).delete()
    changes = import_library(member=other.coach, library=read(document))
    assert {c.what for c in changes} == {"new"}
    assert read(out(other.club)) == read(document)
    again = import_library(member=other.coach, library=read(document))
    assert {c.what for c in again} == {"same"}
    assert {c.what for c in preview(demo, read(document))} == {"same"}


def test_what_changes_is_named(w):
    document = out(w.club)
    document["drills"][0]["purpose"] = "Another one"
    document["ladders"][0]["rungs"][1]["target"]["makes"] = 9
    document["ladders"][0]["rule"] = {"school": "one_pass"}
    found = {c.kind: c for c in preview(w.club, read(document))}
    assert found["drill"].fields == ["purpose"]
    assert sorted(found["ladder"].fields) == ["rule", "rungs"]
    import_library(member=w.coach, library=read(document))
    w.ladder.refresh_from_db()
    assert w.ladder.rule.school.name == "one_pass"
    assert w.ladder.rungs.get(position=2).target.makes == 9
    assert {c.what for c in preview(w.club, read(document))} == {"same"}


def test_three_faults_are_told_with_their_places(w):
    document = out(w.club)
    document["ladders"][0]["rungs"][0]["drill"] = "Nothing"
    document["ladders"][0]["rungs"][1]["target"]["makes"] = 11
    document["drills"][0]["caution"] = "anywhere"
    with pytest.raises(Mistakes) as caught:
        read(document)
    lines = "\n".join(caught.value.lines)
    assert "$.ladders[0].rungs[0].drill: is 'Nothing', which is no drill of this file" in lines
    assert "$.ladders[0].rungs[1].target.makes: is more than of" in lines
    assert "$.drills[0].caution: is not one of" in lines
    assert len(caught.value.lines) == 3


@pytest.mark.parametrize(
    ("change", "fault"),
    [
        ({"format": "other/1"}, "$.format"),
        ({"drills": None}, "$.drills"),
        ({"extra": 1}, "$.extra: is not a known key"),
        (
            {"ladders": [{"title": "x", "rule": {"school": "one_pass"}, "rungs": []}]},
            "$.ladders[0].rungs",
        ),
    ],
)
def test_files_that_are_none(w, change, fault):
    with pytest.raises(Mistakes) as caught:
        read({**out(w.club), **change})
    assert any(line.startswith(fault) for line in caught.value.lines)


def test_all_or_nothing(w):
    """A rung that was worked on would go: nothing of the file is brought in, the new drill
    neither.
    """
    put_on(w, rung=3)
    document = out(w.club)
    document["ladders"][0]["rungs"].pop()
    document["drills"].append({**deepcopy(document["drills"][0]), "title": "A new one"})
    with pytest.raises(Refused, match="worked on"):
        import_library(member=w.coach, library=read(document))
    assert not Drill.objects.filter(title="A new one").exists()
    assert w.ladder.rungs.count() == 3


def test_two_steps_on_the_page(w, coach):
    taken = coach.get("/library.json")
    assert taken.headers["Content-Disposition"] == 'attachment; filename="library.json"'
    document = json.loads(taken.content)
    document["drills"].append({**document["drills"][0], "title": "Brought in"})
    data = json.dumps(document).encode()
    looked = coach.post("/library/in/", {"file": SimpleUploadedFile("x.json", data)})
    page = looked.content.decode()
    assert "Brought in" in page
    assert not Drill.objects.filter(title="Brought in").exists()
    sure = coach.post("/library/in/", {"text": data.decode(), "sure": "yes"})
    assert sure.status_code == 302
    assert Drill.objects.filter(title="Brought in", club=w.club).exists()


def test_a_wrong_file_stores_nothing_and_stays_on_the_page(w, coach):
    answer = coach.post(
        "/library/in/", {"text": '{"format": "drill-ladder/1", "drills": [{}]}', "sure": "yes"}
    )
    page = answer.content.decode()
    assert answer.status_code == 422
    assert "Nothing was stored." in page
    assert "$.drills[0].title: is required" in page
    assert "&quot;drill-ladder/1&quot;" in page


def test_one_ladder_with_its_drills(w, coach):
    Drill.objects.create(club=w.club, title="Not on it", measure={"kind": "streak"})
    found = json.loads(coach.get(f"/library.json?ladder={w.ladder.pk}").content)
    assert [d["title"] for d in found["drills"]] == ["Push pass"]
    assert [x["title"] for x in found["ladders"]] == ["Gate"]
    assert coach.get("/library.json?ladder=abc").status_code == 404


def test_the_starter_library_comes_in_through_the_same_door(w, coach):
    page = coach.post("/library/in/", {"starter": "yes"}).content.decode()
    assert "Nine-spot aim" in page
    document = read(starter_document())
    assert {c.what for c in preview(w.club, document)} == {"new"}
    import_library(member=w.coach, library=document)
    assert {c.what for c in preview(w.club, document)} == {"same"}
    drills = Drill.objects.filter(club=w.club).exclude(title="Push pass")
    kinds = {d.measure.kind for d in drills}
    assert kinds == {form.kind.kind for form in MEASURES}
    assert all(d.plan for d in drills)
    schools = {x.rule.school.name for x in Ladder.objects.filter(club=w.club)}
    assert schools == {"one_pass", "in_a_row", "window", "evidence", "volume"}
    for one in Ladder.objects.filter(club=w.club).exclude(title="Gate"):
        assert coach.get(f"/ladders/{one.pk}/").status_code == 200
        assert all(len(rung.axis) <= 1 for rung in one.rungs.all())
    for one in drills:
        assert coach.get(f"/drills/{one.pk}/").status_code == 200


def test_one_drill_goes_out_alone_and_into_another_club(w, other, coach):
    w.drill.purpose = "A flat pass"
    w.drill.save()
    answer = coach.get(f"/library.json?drill={w.drill.pk}")
    assert answer.headers["Content-Disposition"] == 'attachment; filename="push-pass.json"'
    document = json.loads(answer.content)
    assert [one["title"] for one in document["drills"]] == ["Push pass"]
    assert document["ladders"] == []
    assert {c.what for c in preview(w.club, read(document))} == {"same"}
    import_library(member=other.coach, library=read(document))
    assert Drill.objects.get(club=other.club, title="Push pass").purpose == "A flat pass"
    for asked in ("drill=0", "drill=x", f"drill={other.drill.pk}", f"ladder={other.ladder.pk}"):
        assert coach.get(f"/library.json?{asked}").status_code == 404


def test_what_leads_out_of_a_file_stays_as_it_is(w, coach):
    """One drill is taken out, its wording changed, and brought in again: where its faults lead to
    is not lost.
    """
    wall, rung = drill(w.club, "Wall pass"), w.ladder.rungs.first()
    by = [
        TreatmentInput("wide", by_drill_id=wall.pk),
        TreatmentInput("late", "Look first", by_rung_id=rung.pk),
    ]
    set_treatments(w.drill, by)
    document = json.loads(coach.get(f"/library.json?drill={w.drill.pk}").content)
    assert {c.what for c in preview(w.club, read(document))} == {"same"}
    document["drills"][0]["purpose"] = "Another one"
    document["drills"][0]["treatments"][0]["cue"] = "Eyes up"
    changed = import_library(member=w.coach, library=read(document))
    assert changed[0].fields == ["purpose", "treatments"]
    kept = {t.fault: (t.cue, t.by_drill, t.by_rung) for t in w.drill.treatments.all()}
    assert kept == {"wide": ("", wall, None), "late": ("Eyes up", None, rung)}
    assert {c.what for c in preview(w.club, read(document))} == {"same"}
    # a file that holds the place and does not name it takes it away
    whole = out(w.club)
    for one in whole["drills"]:
        one["treatments"] = [t for t in one["treatments"] if t["fault"] != "wide"]
    import_library(member=w.coach, library=read(whole))
    assert [t.fault for t in w.drill.treatments.all()] == ["late"]


def test_the_preview_says_it_in_words(w, coach):
    document = out(w.club)
    same = coach.post("/library/in/", {"text": json.dumps(document)}).content.decode()
    assert "Everything in it is here already." in same
    assert "Import it" not in same
    document["drills"][0] |= {"caution_note": "Look behind you", "purpose": "Another one"}
    document["drills"].append({**document["drills"][0], "title": "A new one"})
    page = coach.post("/library/in/", {"text": json.dumps(document)}).content.decode()
    assert "1 new, 1 changed, 1 the same." in page
    assert "What it is for, Safety first" in page


def test_every_field_of_the_file_has_a_word(w):
    told = out(w.club)
    named = {*told["drills"][0], *told["ladders"][0]}
    assert named == set(WORDS)


def test_a_preview_asks_no_more_for_more_ladders(w, django_assert_max_num_queries):
    for n in range(6):
        ladder(w.club, w.drill, f"Ladder {n}")
    document = read(out(w.club))
    with django_assert_max_num_queries(6):
        preview(w.club, document)
