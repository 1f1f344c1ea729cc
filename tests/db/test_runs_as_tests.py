"""Longest runs, attempts to so many, good ones until so many are lost: tests like a time."""

from uuid import uuid4

import pytest

from drill_ladder.apps.floor.hall.beside import trial_days_of
from drill_ladder.apps.floor.models import Protocol
from tests.make import drill, text


@pytest.mark.parametrize(
    ("measure", "label", "good", "worse", "said_as", "wrong", "why"),
    [
        ({"kind": "streak"}, "Longest run", 9, 7, "9 in a row", "8.5", "whole numbers"),
        ({"kind": "to_n", "n": 10}, "Attempts it took", 12, 15, "12 attempts", "9", "below 10"),
        (
            {"kind": "until_lost", "lost": 3},
            "Good ones",
            14,
            11,
            "14 good ones",
            "10001",
            "At most 10000",
        ),
    ],
)
def test_runs_races_and_lives_are_tests_too(
    w, coach, today, measure, label, good, worse, said_as, wrong, why
):
    run = drill(w.club, "Tested", measure=measure, lanes=[], faults=[])
    form = {"title": "Test", "drill": run.pk, "trials": 2, "score_by": "best", "rest_s": 0}
    assert coach.post("/tests/new/", form).status_code == 302
    test = Protocol.objects.get()
    asked = {"title": "Day", "protocols": [test.pk], "players": [w.player.pk]}
    page = coach.post("/test-days/new/", asked).headers["Location"]
    assert label in text(coach.get(page))
    trial = {"player": w.player.pk, "test": test.pk}
    refused = coach.post(page, {**trial, "uid": uuid4(), "value": wrong})
    assert refused.status_code == 422
    assert why in text(refused)
    for value in (worse, good):
        assert coach.post(page, {**trial, "uid": uuid4(), "value": value}).status_code == 302
    assert said_as in text(coach.get(page))
    document = trial_days_of(w.club, today)[0]["tests"][0]
    assert (document["label"], document["whole"]) == (label, True)
