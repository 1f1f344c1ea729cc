"""Ten invented ladders: all eight measures, all five schools."""

from typing import Any

from drill_ladder.demo.writing import box, ladder, of, plan, rung, to

TEN = {"sets": 1, "reps": 10, "s_per_rep": 6}
TRIES = {"sets": 3}
WINDOWS = {"sets": 3, "rest_s": 30}
RUNS = {"sets": 4, "rest_s": 60}
PASS: dict[str, Any] = {"dose": TEN, "floor": 0.4}
TWO_IN_A_ROW = {"school": "in_a_row", "passes": 2}
TWO_OF_THREE = {"school": "window", "passes": 2, "of": 3}

_REST, _MOVE = "Push pass, ball at rest", "Push pass on the move"
_SERVE, _TIRED = "Low serve to the box", "Low serve after a sprint"
_EIGHT, _PRESSED = "Receive in eight directions", "Receive under pressure"
_NINE, _TUMBLE = "Net shot to nine spots", "Net shot, tumbling"


def _gates(ahead: float, width: float, run_up: float = 0, **more: tuple[float, float]) -> dict[str, Any]:
    """Two gates so many metres ahead, each so wide, passed at from B after a run-up from A, or from A at rest."""
    start = "B" if run_up else "A"
    markers = {"A": (0.0, -run_up), **({"B": (0.0, 0.0)} if run_up else {}), **more}
    markers |= {"L": (-1.9, ahead), "R": (1.9, ahead)}
    zones = {f"gate {name}": box(x - width / 2, ahead - 0.2, width, 0.4) for name, x in (("L", -1.9), ("R", 1.9))}
    legs = [("A", "B")] if run_up else []
    return plan(markers, legs, "carry", ball=[(start, "L"), (start, "R")], zones=zones)


LADDERS: list[dict[str, Any]] = [
    ladder(
        "Push pass to a gate",
        "Passing",
        "From a ball at rest to a pass through a gate that moves.",
        TWO_IN_A_ROW,
        [
            rung(_REST, "Wide gate at 4\u00a0m", "", "", of(8), **PASS, ease="gate twice as wide"),
            rung(
                _REST,
                "Wide gate at 6\u00a0m",
                "two metres more",
                "distance",
                of(8),
                **PASS,
                ease="from 5\u00a0m",
                plan=_gates(6, 1),
            ),
            rung(
                _REST,
                "Narrow gate at 6\u00a0m",
                "half the gate",
                "target size",
                of(8),
                **PASS,
                ease="gate one stick wider",
                plan=_gates(6, 0.5),
            ),
            rung(
                _MOVE,
                "Narrow gate, on the move",
                "two touches before the pass",
                "movement added",
                of(7),
                **PASS,
                ease="walk instead of run",
                plan=_gates(6, 0.5, 2),
            ),
            rung(
                _MOVE,
                "Narrow gate at 8\u00a0m, on the move",
                "two metres more",
                "distance",
                of(7),
                **PASS,
                ease="from 7\u00a0m",
                plan=_gates(8, 0.5, 2),
            ),
            rung(
                "Push pass, moving gate",
                "Moving gate",
                "the gap shows late",
                "predictability",
                of(7),
                **PASS,
                plan=_gates(8, 0.5, 2, H=(0, 8.6)),
            ),
        ],
    ),
    ladder(
        "Low serve",
        "Serving",
        "A serve that stays low when it counts.",
        {**TWO_OF_THREE, "trust": "last_pass_observed"},
        [
            rung(_SERVE, "Big box, no tape", "", "", of(7), **PASS, ease="from one metre nearer"),
            rung(
                _SERVE,
                "Big box, under the tape",
                "a line at tape height",
                "constraint",
                of(7),
                **PASS,
                ease="line ten centimetres higher",
            ),
            rung(_SERVE, "Small box", "half the box", "target size", of(7), **PASS, ease="big box again"),
            rung(_SERVE, "Small box, called corner", "the corner is called late", "choices", of(7), **PASS),
            rung(
                _TIRED,
                "Small box, heart beating",
                "a sprint before every serve",
                "fatigue",
                of(7, form_min=0.7),
                **PASS,
                intent="pressure",
            ),
        ],
    ),
    ladder(
        "Quick hands",
        "Ball feel",
        "Soft, then fast, then fast with the ball.",
        TWO_IN_A_ROW,
        [
            rung("Tap-ups on the stick", "Ten tap-ups", "", "", to(10), TRIES, floor=3, ease="with a balloon ball"),
            rung(
                "Tap-ups on the stick", "Twenty-five tap-ups", "a longer run", "length of set", to(25), TRIES, floor=8
            ),
            rung("Left-right taps", "Forty taps", "side to side", "movement added", to(40), WINDOWS, floor=24),
            rung("Left-right taps", "Fifty-five taps", "faster", "tempo", to(55), WINDOWS, floor=36),
            rung("Wall pass and trap", "Twelve wall passes", "the ball comes back", "feed", to(12), WINDOWS, floor=6),
            rung("Wall pass and trap", "Eighteen wall passes", "faster", "tempo", to(18), WINDOWS, floor=10),
            rung(
                "Cone dribble",
                "Cones in 14\u00a0s",
                "now the feet move too",
                "movement added",
                to(14),
                {"sets": 3, "rest_s": 60},
                floor=19,
                intent="speed",
            ),
        ],
    ),
    ladder(
        "Stop it dead",
        "First touch",
        "Both sides, then higher, then faster.",
        {"school": "evidence", "confidence": 0.9, "half_life": 3},
        [
            rung("Reverse-stick stop", "Slow roll", "", "", of(7), **PASS, ease="soft ball"),
            rung("Reverse-stick stop", "Firm roll", "a firmer pass", "feed", of(7), **PASS, ease="slow roll"),
            rung(
                "Reverse-stick stop",
                "Firm, from 5\u00a0m",
                "two metres more",
                "distance",
                of(7),
                **PASS,
                plan=plan({"A": (0, 0), "W": (-1, 5)}, ball=[("A", "W")], feed=[("W", "A")]),
            ),
            rung(
                "High ball to feet",
                "Bouncing ball",
                "it bounces now",
                "feed",
                {"makes": 7, "of": 10},
                TEN,
                floor=0.3,
                success=[0.4, 0.7],
            ),
        ],
    ),
    ladder(
        "Open to all sides",
        "First touch",
        "Receive in any direction, whoever is near.",
        TWO_OF_THREE,
        [
            rung(_EIGHT, "Direction known", "", "", of(3, 4), {"sets": 1, "reps": 4, "s_per_rep": 6}),
            rung(
                _EIGHT,
                "Called before the pass",
                "a call",
                "predictability",
                of(3, 4),
                {"sets": 1, "reps": 4, "s_per_rep": 6},
            ),
            rung(
                _EIGHT,
                "Called as it comes",
                "a later call",
                "predictability",
                of(3, 4),
                {"sets": 1, "reps": 4, "s_per_rep": 7},
            ),
            rung(
                _PRESSED,
                "With a shadow",
                "somebody at the shoulder",
                "opponent",
                of(2, 4),
                {"sets": 1, "reps": 4, "s_per_rep": 8},
                success=[0.3, 0.6],
            ),
        ],
    ),
    ladder(
        "Nine spots at the net",
        "Net play",
        "Any spot, then any spot on a call, then so close that it tumbles.",
        TWO_IN_A_ROW,
        [
            rung(_NINE, "Big spots", "", "", of(3, 5), {"sets": 1, "reps": 5, "s_per_rep": 5}),
            rung(
                _NINE, "Small spots", "half the spot", "target size", of(3, 5), {"sets": 1, "reps": 5, "s_per_rep": 5}
            ),
            rung(
                _NINE,
                "Small spots, called",
                "a caller chooses",
                "predictability",
                of(3, 5),
                {"sets": 1, "reps": 5, "s_per_rep": 6},
            ),
            rung(_TUMBLE, "Tumbling, both hands", "a strip at the tape", "target size", of(6), **PASS),
        ],
    ),
    ladder(
        "Round the corners",
        "Footwork",
        "The pattern first, then the clock, then the call.",
        {"school": "one_pass"},
        [
            rung("Lunge and hold", "Lunge that holds", "", "", to(0.8, each_lane=True), {"sets": 2}),
            rung(
                "Six-corner footwork",
                "Six corners in 24\u00a0s",
                "the whole court",
                "movement added",
                to(24),
                RUNS,
                floor=30,
            ),
            rung("Six-corner footwork", "In 21\u00a0s", "faster", "tempo", to(21), RUNS, floor=26, tempo=0.75),
            rung(
                "Six-corner footwork",
                "In 19\u00a0s",
                "faster",
                "tempo",
                to(19),
                RUNS,
                floor=23,
                intent="speed",
                tempo=1.0,
            ),
            rung(
                "Called corners",
                "Called, ten in a row",
                "nobody knows which",
                "predictability",
                {"makes": 8, "of": 10},
                TEN,
                floor=0.4,
            ),
        ],
    ),
    ladder(
        "Engine room",
        "Running",
        "Legs that last until the end.",
        {"school": "volume", "sessions": 4},
        [
            rung(
                "Shuttle runs, even pace", "Four minutes", "", "", to(1), {"sets": 4, "rest_s": 30}, intent="endurance"
            ),
            rung(
                "Shuttle runs, even pace",
                "Five minutes",
                "one more",
                "length of set",
                to(1),
                {"sets": 5, "rest_s": 30},
                intent="endurance",
            ),
            rung(
                "Shuttle runs, even pace",
                "Five, shorter rest",
                "ten seconds less rest",
                "fatigue",
                to(1),
                {"sets": 5, "rest_s": 20},
                intent="endurance",
            ),
            rung(
                "Five, ten, five",
                "Turns in 6\u00a0s",
                "now it is about speed",
                "tempo",
                to(6),
                RUNS,
                floor=7.5,
                intent="speed",
            ),
        ],
    ),
    ladder(
        "Lift and drag",
        "Lifting",
        "Four clean ones, then the small lift, from shadow to live.",
        TWO_IN_A_ROW,
        [
            rung("Drag and go", "Four within eight", "", "", to(8), {"sets": 2, "rest_s": 30}),
            rung("Drag and go", "Four within six", "fewer tries", "tempo", to(6), {"sets": 2, "rest_s": 30}),
            rung(
                "Lift over the stick",
                "Shadow lift",
                "no ball yet",
                "tool",
                to(2.2),
                {"sets": 1, "reps": 8, "s_per_rep": 8},
            ),
            rung(
                "Lift over the stick",
                "Ball at rest",
                "the ball",
                "tool",
                to(2.0),
                {"sets": 1, "reps": 8, "s_per_rep": 8},
                reps_high=12,
            ),
        ],
    ),
    ladder(
        "Overhead from the back",
        "Overhead",
        "The whole movement, then the shuttle, then the legs.",
        TWO_OF_THREE,
        [
            rung("Shadow smash", "Shadow, whole movement", "", "", to(2.2), {"sets": 1, "reps": 8, "s_per_rep": 6}),
            rung("Overhead clear", "High feed", "the shuttle", "feed", of(6), **PASS, ease="feed from nearer"),
            rung("Overhead clear", "Feed to both corners", "you do not know which", "predictability", of(6), **PASS),
            rung("Clear in a rally", "In a rally", "two in turn", "movement added", of(6), **PASS, success=[0.4, 0.7]),
        ],
    ),
]
