"""Placing by one trial: told as it is set up, and never past a rung that is set up otherwise."""

import pytest

from drill_ladder.apps.prescriptions.models import Placement
from tests.make import drill, ladder, text

STRAIGHT = {
    "units": "m",
    "markers": [{"id": "A", "x": 0, "y": 0}, {"id": "B", "x": 0, "y": 5}],
    "legs": [{"from": "A", "to": "B", "way": "run", "do": ""}],
}
FAR = {"id": "B", "x": 0, "y": 10}


def test_one_trial_finds_the_rung_of_a_timed_ladder(w, coach):
    sprint = drill(w.club, "Sprint", measure={"kind": "time"}, lanes=[])
    steps = ladder(
        w.club, sprint, "Run", rungs=3, target={"value": 6}, dose={"sets": 3}, floor=None
    )
    for rung, target in zip(steps.rungs.all(), (6, 5.5, 5), strict=True):
        rung.target = {"value": target}
        rung.save()
    path = f"/players/{w.player.pk}/place/{steps.pk}/"
    page = text(coach.get(path))
    assert "One trial" in page
    assert "<strong>Sprint</strong>, set up as on rung 1" in page
    assert "Time in seconds" in page
    assert "A number, please" in text(coach.post(path, {"baseline": "fast"}))
    done = coach.post(path, {"baseline": "5,7"})
    assert done.headers["Location"].endswith(f"?rung={steps.rungs.get(position=2).pk}")
    assert Placement.objects.get().reason == "one trial as on rung 1: 5.70\u00a0s"


WAYS = {
    "another distance": {"plan": {**STRAIGHT, "markers": [STRAIGHT["markers"][0], FAR]}},
    "harder by": {"axis": ["distance"]},
    "said in words": {"changes": "from 10 m"},
    "another tempo": {"tempo": 0.5},
    "a caller": {"caller": {"cues": [{"name": "red"}]}},
}


@pytest.mark.parametrize("way", WAYS)
@pytest.mark.parametrize(("seconds", "position"), [("6,2", 1), ("5.7", 2), ("1", 2)])
def test_one_trial_never_passes_a_rung_that_was_not_tried(w, coach, way, seconds, position):
    """Rung 1 over 5 m is tried; from rung 2 on it is another set-up, whatever the result."""
    sprint = drill(w.club, "Sprint", measure={"kind": "time"}, lanes=[], plan=STRAIGHT)
    steps = ladder(
        w.club, sprint, "Run", rungs=3, target={"value": 6}, dose={"sets": 3}, floor=None
    )
    second = steps.rungs.get(position=2)
    for name, value in WAYS[way].items():
        setattr(second, name, value)
    second.save()
    path = f"/players/{w.player.pk}/place/{steps.pk}/"
    page = text(coach.get(path))
    assert "5\u00a0m in all" in page.replace("&nbsp;", "\u00a0")
    assert "no further than rung 2" in page
    done = coach.post(path, {"baseline": seconds})
    assert done.headers["Location"].endswith(f"?rung={steps.rungs.get(position=position).pk}")
