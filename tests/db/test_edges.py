"""Rough edges found by walking: placing over dry rungs, rest between trials, starter intents."""

import pytest

from drill_ladder.apps.library.models import Rung
from drill_ladder.apps.library.starter.ladders import starter_document
from drill_ladder.apps.prescriptions.placing.placement import (
    add_probe,
    by_baseline,
    by_probing,
    choose,
    counted,
    current,
    found,
)
from drill_ladder.apps.prescriptions.placing.trial import from_trial
from drill_ladder.formats.rung_words import rest_lines
from tests.make import drill, ladder, put_on, text


@pytest.fixture
def dry(w):
    """Two dry rungs under three that count."""
    shadow = drill(w.club, "Shadow", measure={"kind": "checklist", "items": ["low"]}, lanes=[])
    for rung in w.ladder.rungs.order_by("-position"):
        Rung.objects.filter(pk=rung.pk).update(position=rung.position + 2)
    for position in (1, 2):
        Rung.objects.create(
            club=w.club,
            ladder=w.ladder,
            drill=shadow,
            position=position,
            title=f"Dry {position}",
            dose={"sets": 1},
            target={"value": 1},
        )
    return list(w.ladder.rungs.select_related("drill").order_by("position"))


def probe(w, placement, rung, makes):
    return add_probe(
        member=w.coach,
        placement=placement,
        rung=rung,
        attempts=10,
        makes=makes,
        number=len(placement.probes),
    )


def test_dry_rungs_are_passed_over(w, dry, today, coach):
    assert by_probing(dry)
    assert [rung.title for rung in counted(dry)] == ["Gate 1", "Gate 2", "Gate 3"]
    placement = current(w.player, w.ladder, today)
    assert found(placement, dry).upcoming.title == "Gate 2"
    page = text(coach.get(f"/players/{w.player.pk}/place/{w.ladder.pk}/"))
    assert "Gate 2" in page
    placement = probe(w, placement, dry[3], 8)
    assert found(placement, dry).upcoming.title == "Gate 3"
    assert found(placement, dry).start.title == "Gate 2"


def test_who_does_not_hold_the_first_that_counts_starts_dry(w, dry, today):
    placement = probe(w, current(w.player, w.ladder, today), dry[2], 2)
    assert found(placement, dry).start.title == "Dry 2"
    choose(member=w.coach, placement=placement, rung=dry[1], proposed=dry[1], reason="")


def test_one_trial_passes_over_dry_rungs_too(w, dry):
    for rung, seconds in zip(dry[2:], (9, 8, 7), strict=True):
        rung.drill.measure = {"kind": "time"}
        rung.target = {"value": seconds}
        rung.floor = None
        rung.drill.save()
        rung.save()
    rungs = list(w.ladder.rungs.select_related("drill").order_by("position"))
    assert by_baseline(rungs)
    assert from_trial(counted(rungs), 8.5).title == "Gate 2"


def test_trials_inside_a_set_have_no_rest_between(w):
    run = drill(w.club, "Run", measure={"kind": "time"}, lanes=[])
    given = {"target": {"value": 6}, "floor": None, "dose": {"sets": 2, "reps": 2, "rest_s": 60}}
    fast = ladder(w.club, run, "Fast", rungs=1, **given)
    fast.rungs.update(intent="speed")
    (line,) = rest_lines(fast.rungs.get().core)
    assert line.startswith("Speed work with 0 s rest")
    fast.rungs.update(dose={"sets": 4, "rest_s": 60})
    assert rest_lines(fast.rungs.get().core) == []


def test_a_players_own_rest_is_looked_at(w, coach):
    w.ladder.rungs.update(dose={"sets": 4, "reps": 5, "rest_s": 60}, intent="speed")
    p = put_on(w)
    path = f"/prescriptions/{p.pk}/change/"
    form = coach.get(path).context["form"]
    sent = {name: form[name].value() or "" for name in form.fields} | {"rest_s": "15,5"}
    coach.post(path, sent)
    assert "Speed work with 15.5 s rest" in text(coach.get(path))


def test_starter_ladders_carry_their_intents():
    intents = {
        ladder["title"]: {rung.get("intent", "skill") for rung in ladder["rungs"]}
        for ladder in starter_document()["ladders"]
    }
    assert intents["Interval speed"] == intents["Change of direction"] == {"speed"}
    assert intents["Interval endurance"] == {"endurance"}
    assert intents["React to the caller"] == {"pressure"}
    assert intents["Target gates"] == {"skill"}
