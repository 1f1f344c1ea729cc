"""Three invented ladders. A rung: drill, title, what changes, axis, dose, target, floor, eased variant, rule."""

from typing import Any

TEN = {"sets": 1, "reps": 10, "rest_s": 0, "s_per_rep": 6}


def _rung(drill: str, title: str, changes: str, axis: str, **terms: Any) -> dict[str, Any]:
    return {"drill": drill, "title": title, "changes": changes, "axis": [axis] if axis else [], **terms}


def _each(makes: int, of: int = 10) -> dict[str, Any]:
    return {"makes": makes, "of": of, "each_lane": True}


_REST, _MOVE = "Push pass, ball at rest", "Push pass on the move"
_SERVE, _TIRED = "Low serve to the box", "Low serve after a sprint"
_PASS = {"dose": TEN, "floor": 0.4}

LADDERS: list[dict[str, Any]] = [
    {
        "title": "Push pass to a gate",
        "skill": "Passing",
        "purpose": "From a ball at rest to a pass through a gate that moves.",
        "rule": {"school": "in_a_row", "passes": 2},
        "rungs": [
            _rung(_REST, "Wide gate at 4\u00a0m", "", "", **_PASS, target=_each(8), ease_note="gate twice as wide"),
            _rung(
                _REST,
                "Wide gate at 6\u00a0m",
                "two metres more",
                "distance",
                **_PASS,
                target=_each(8),
                ease_note="from 5\u00a0m",
            ),
            _rung(
                _REST,
                "Narrow gate at 6\u00a0m",
                "half the gate",
                "target size",
                **_PASS,
                target=_each(8),
                ease_note="gate one stick wider",
            ),
            _rung(
                _MOVE,
                "Narrow gate, on the move",
                "two touches before the pass",
                "movement added",
                **_PASS,
                target=_each(7),
                ease_note="walk instead of run",
            ),
            _rung(
                _MOVE,
                "Narrow gate at 8\u00a0m, on the move",
                "two metres more",
                "distance",
                **_PASS,
                target=_each(7),
                ease_note="from 7\u00a0m",
            ),
            _rung(
                "Push pass, moving gate",
                "Moving gate",
                "the gap shows late",
                "predictability",
                **_PASS,
                target=_each(7),
            ),
        ],
    },
    {
        "title": "Low serve",
        "skill": "Serving",
        "purpose": "A serve that stays low when it counts.",
        "rule": {"school": "window", "passes": 2, "of": 3, "trust": "last_pass_observed"},
        "rungs": [
            _rung(_SERVE, "Big box, no tape", "", "", **_PASS, target=_each(7), ease_note="from one metre nearer"),
            _rung(
                _SERVE,
                "Big box, under the tape",
                "a line at tape height",
                "constraint",
                **_PASS,
                target=_each(7),
                ease_note="line ten centimetres higher",
            ),
            _rung(
                _SERVE, "Small box", "half the box", "target size", **_PASS, target=_each(7), ease_note="big box again"
            ),
            _rung(_SERVE, "Small box, called corner", "the corner is called late", "choices", **_PASS, target=_each(7)),
            _rung(
                _TIRED,
                "Small box, heart beating",
                "a sprint before every serve",
                "fatigue",
                **_PASS,
                target={**_each(7), "form_min": 0.7},
            ),
        ],
    },
    {
        "title": "Quick hands",
        "skill": "Ball feel",
        "purpose": "Soft, then fast, then fast with the ball.",
        "rule": {"school": "in_a_row", "passes": 2},
        "rungs": [
            _rung(
                "Tap-ups on the stick",
                "Ten tap-ups",
                "",
                "",
                dose={"sets": 3},
                target={"value": 10},
                floor=3,
                ease_note="with a balloon ball",
            ),
            _rung(
                "Tap-ups on the stick",
                "Twenty-five tap-ups",
                "a longer run",
                "length of set",
                dose={"sets": 3},
                target={"value": 25},
                floor=8,
            ),
            _rung(
                "Left-right taps",
                "Forty taps",
                "side to side",
                "movement added",
                dose={"sets": 3, "rest_s": 30},
                target={"value": 40},
                floor=24,
            ),
            _rung(
                "Left-right taps",
                "Fifty-five taps",
                "faster",
                "tempo",
                dose={"sets": 3, "rest_s": 30},
                target={"value": 55},
                floor=36,
            ),
            _rung(
                "Wall pass and trap",
                "Twelve wall passes",
                "the ball comes back",
                "feed",
                dose={"sets": 3, "rest_s": 30},
                target={"value": 12},
                floor=6,
            ),
            _rung(
                "Wall pass and trap",
                "Eighteen wall passes",
                "faster",
                "tempo",
                dose={"sets": 3, "rest_s": 30},
                target={"value": 18},
                floor=10,
            ),
            _rung(
                "Cone dribble",
                "Cones in 14\u00a0s",
                "now the feet move too",
                "movement added",
                dose={"sets": 3, "rest_s": 60},
                target={"value": 14},
                floor=19,
            ),
        ],
    },
]
