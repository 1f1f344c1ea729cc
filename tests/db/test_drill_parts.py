"""What a drill needs and what treats its faults; the rung's finer terms; who stands where; timer;
coverage; cues.
"""

import json

import pytest

from drill_ladder.apps.library.drills.services import TreatmentInput, set_treatments
from drill_ladder.apps.library.files.exchange import import_library, library_document
from drill_ladder.apps.library.models import Drill, Ladder, Treatment
from drill_ladder.apps.people.models import Club
from drill_ladder.core.planning import SoloVersion
from drill_ladder.formats.library_file import read_library
from drill_ladder.formats.mistakes import Mistakes
from tests.db.test_library import DRILL, text
from tests.make import drill, member

FIRST = "$.drills[0].treatments[0]"


def parts(w, **more):
    """A drill's form with one treated fault and one version."""
    treated = {
        "fault-0-cue": "Stick early",
        "fault-0-by": f"drill-{w.drill.pk}",
        "fault-1-by": f"rung-{w.rungs[0].pk}",
        "version-0-name": "Against a mattress",
        "version-0-loses": "no bounce, no feed",
        "version-0-tools": "stick, ball",
    }
    needs = {
        "people": "group",
        "group_of": 4,
        "tools": "stick, cones, stick",
        "surfaces": "turf",
        "wall": "on",
    }
    return {**DRILL, **treated, **needs, "axes": ["distance", "tempo"], "sources": "My own", **more}


def test_a_drill_says_what_it_needs_and_what_treats_its_faults(w, coach):
    answer = coach.post("/drills/new/", parts(w))
    assert answer.status_code == 302
    made = Drill.objects.get(title="Wall pass")
    assert (made.people, made.group_of, made.tools, made.wall) == (
        "group",
        4,
        ["stick", "cones"],
        True,
    )
    mattress = SoloVersion(
        "Against a mattress", "solo", tools=("stick", "ball"), loses=("no bounce", "no feed")
    )
    assert made.versions == (mattress,)
    page = text(coach.get(answer.headers["Location"]))
    for words in (
        "say “Stick early”",
        "A group of 4",
        "Lost: no bounce, no feed",
        "distance, tempo",
        "My own",
    ):
        assert words in page
    assert f'href="/ladders/{w.ladder.pk}/"' in page
    # opened again, everything is where it was; saved again, nothing changes
    again = text(coach.get(f"/drills/{made.pk}/edit/"))
    assert f'value="drill-{w.drill.pk}" selected' in again
    assert 'value="Stick early"' in again
    assert "no bounce, no feed" in again


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"fault-2-cue": "Look up"}, "Which fault does this treat?"),
        ({"fault-2-name": "LATE"}, "This fault is named twice."),
        ({"version-0-loses": ""}, "Say what is lost"),
        ({"version-0-name": ""}, "What is this way called?"),
        ({"people": "group", "group_of": ""}, "How many players?"),
        ({"fault-0-by": "drill-999999"}, "Select a valid choice"),
    ],
)
def test_wrong_parts_keep_everything(w, coach, change, words):
    answer = coach.post("/drills/new/", parts(w, **change))
    page = text(answer)
    assert answer.status_code == 422
    assert words in page
    assert "Stick early" in page
    assert not Drill.objects.filter(title="Wall pass").exists()
    assert Treatment.objects.count() == 0


def test_a_treatment_never_points_into_another_club(w, coach):
    other = Club.objects.create(name="Other")
    strange = drill(other, "Theirs")
    answer = coach.post("/drills/new/", parts(w, **{"fault-0-by": f"drill-{strange.pk}"}))
    assert answer.status_code == 422


def test_overtaken_on_a_drill_and_sent_again_on_purpose(w, coach):
    path = f"/drills/{w.drill.pk}/edit/"
    mine = {**DRILL, "title": "Push pass", "kind": "makes", "revision": 1}
    coach.post(path, {**mine, "purpose": "theirs"})
    late = coach.post(path, {**mine, "purpose": "mine"})
    assert late.status_code == 422
    assert 'name="revision" value="2"' in text(late)
    assert coach.post(path, {**mine, "purpose": "mine", "revision": 2}).status_code == 302
    w.drill.refresh_from_db()
    assert w.drill.purpose == "mine"


def test_a_library_with_treatments_goes_out_and_in_again(w):
    set_treatments(
        w.drill,
        [
            TreatmentInput("wide", "Look first", by_rung_id=w.rungs[0].pk),
            TreatmentInput("late", by_drill_id=drill(w.club, "Slow").pk),
        ],
    )
    rung = w.rungs[1]
    rung.success_low, rung.success_high, rung.reps_high, rung.tempo, rung.intent = (
        0.2,
        0.4,
        20,
        0.5,
        "speed",
    )
    rung.rule = {"school": "one_pass", "min_sessions": 3}
    rung.save()
    document = library_document(
        Drill.objects.of_club(w.club).for_file(), Ladder.objects.of_club(w.club)
    )
    data = json.dumps(document).encode()
    other = Club.objects.create(name="Other")
    boss = member(other, "Jonas", "coach")
    import_library(member=boss, library=read_library(data))
    copied = Drill.objects.of_club(other).get(title="Push pass")
    assert [(t.fault, t.cue, str(t.by_drill), str(t.by_rung)) for t in copied.treatments.all()] == [
        ("wide", "Look first", "None", "1. Gate 1"),
        ("late", "", "Slow", "None"),
    ]
    assert copied.treatments.first().by_rung.club_id == other.pk
    found = Ladder.objects.of_club(other).get().rungs.get(position=2)
    assert (found.success, found.reps_high, found.tempo, found.intent) == (
        (0.2, 0.4),
        20,
        0.5,
        "speed",
    )
    assert found.rule.min_sessions == 3
    assert all(
        change.what == "same" for change in import_library(member=boss, library=read_library(data))
    )


def test_one_ladders_file_is_complete_in_itself(w, coach):
    set_treatments(w.drill, [TreatmentInput("late", "Go", drill(w.club, "Slow").pk)])
    answer = coach.get(f"/library.json?ladder={w.ladder.pk}")
    read_library(answer.content)
    document = json.loads(answer.content)
    assert [d["title"] for d in document["drills"]] == ["Push pass"]
    assert document["drills"][0]["treatments"] == [
        {"fault": "late", "cue": "Go", "drill": "", "ladder": "", "rung": ""}
    ]


@pytest.mark.parametrize(
    ("change", "line"),
    [
        (
            {"treatments": [{"fault": "odd", "cue": "x"}]},
            f"{FIRST}.fault: is 'odd', which is no fault",
        ),
        (
            {"treatments": [{"fault": "late", "drill": "No"}]},
            f"{FIRST}.drill: is 'No', which is no dri",
        ),
        (
            {"treatments": [{"fault": "late", "rung": "No"}]},
            f"{FIRST}.rung: is 'No', which is no rung",
        ),
        ({"people": "crowd"}, "$.drills[0].people: is not one of"),
        ({"axes": ["colour"]}, "$.drills[0].axes[0]: is not one of"),
    ],
)
def test_a_file_with_faults_in_its_new_parts(change, line):
    given_drill = {
        "title": "D",
        "measure": {"kind": "makes"},
        "caution": "home_alone",
        "faults": ["late"],
        **change,
    }
    with pytest.raises(Mistakes) as caught:
        read_library(json.dumps({"format": "drill-ladder/1", "drills": [given_drill]}).encode())
    assert any(found.startswith(line) for found in caught.value.lines)


@pytest.mark.parametrize(
    ("more", "line"),
    [
        ({"reps_high": 5}, "$.ladders[0].rungs[0].reps_high: is under the dose's reps"),
        ({"success": [0.6, 0.4]}, "$.ladders[0].rungs[0].success: runs from high to low"),
        ({"success": [0.6, 40]}, "$.ladders[0].rungs[0].success[1]: is over 1"),
        ({"tempo": 2}, "$.ladders[0].rungs[0].tempo"),
        ({"intent": "fun"}, "$.ladders[0].rungs[0].intent: is not one of"),
    ],
)
def test_a_file_with_faults_in_a_rungs_finer_terms(more, line):
    one = {"title": "D", "measure": {"kind": "makes"}, "caution": "home_alone"}
    step = {
        "drill": "D",
        "title": "R",
        "dose": {"reps": 10},
        "target": {"makes": 8, "of": 10},
        **more,
    }
    document = {"format": "drill-ladder/1", "drills": [one]}
    document["ladders"] = [{"title": "L", "rule": {"school": "one_pass"}, "rungs": [step]}]
    with pytest.raises(Mistakes) as caught:
        read_library(json.dumps(document).encode())
    assert any(found.startswith(line) for found in caught.value.lines)
