"""Ten invented ladders: all ten measures, all five schools."""

from typing import Any

from drill_ladder.demo.doses import (
    NINE,
    PASS,
    RUNS,
    TEN,
    TUMBLE,
    TWO_IN_A_ROW,
    TWO_OF_THREE,
)
from drill_ladder.demo.first_ladders import FIRST
from drill_ladder.demo.writing import called, ladder, of, rung, to

LADDERS: list[dict[str, Any]] = [
    *FIRST,
    ladder(
        "Nine spots at the net",
        "Net play",
        "Any spot, then any spot on a call, then so close that it tumbles.",
        TWO_IN_A_ROW,
        [
            rung(NINE, "Big spots", "", "", of(3, 5), {"sets": 1, "reps": 5, "s_per_rep": 5}),
            rung(
                NINE,
                "Small spots",
                "half the spot",
                "target size",
                of(3, 5),
                {"sets": 1, "reps": 5, "s_per_rep": 5},
            ),
            rung(
                NINE,
                "Small spots, called",
                "a caller chooses",
                "predictability",
                of(3, 5),
                {"sets": 1, "reps": 5, "s_per_rep": 6},
            ),
            rung(
                TUMBLE, "Tumbling, both hands", "a strip at the tape", "target size", of(6), **PASS
            ),
            rung(
                "Grip changes",
                "Any grip, until three are lost",
                "the grip is called",
                "predictability",
                to(8),
                {"sets": 2, "rest_s": 30},
                intent="pressure",
                rest_ready=True,
            ),
            rung(
                "Net kill",
                "Kills: two good earn two more",
                "good ones earn more",
                "length of set",
                to(8),
                {"sets": 2, "rest_s": 30},
                intent="pressure",
            ),
        ],
    ),
    ladder(
        "Round the corners",
        "Footwork",
        "The pattern first, then the clock, then the call.",
        {"school": "one_pass"},
        [
            rung(
                "Lunge and hold", "Lunge that holds", "", "", to(0.8, each_lane=True), {"sets": 2}
            ),
            rung(
                "Six-corner footwork",
                "Six corners in 24\u00a0s",
                "the whole court",
                "movement added",
                to(24),
                RUNS,
                floor=30,
            ),
            rung(
                "Six-corner footwork",
                "In 21\u00a0s",
                "faster",
                "tempo",
                to(21),
                RUNS,
                floor=26,
                tempo=0.75,
            ),
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
                caller=called("1, 2, 3, 4, 5, 6", every_s=5, leave=0.2, way="arrow"),
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
                "Shuttle runs, even pace",
                "Four minutes",
                "",
                "",
                to(1),
                {"sets": 4, "rest_s": 30},
                intent="endurance",
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
                slow_first_s=20,
            ),
        ],
    ),
    ladder(
        "Lift and drag",
        "Lifting",
        "Four clean ones, then the small lift, from shadow to live.",
        {"school": "by_coach"},
        [
            rung("Drag and go", "Four within eight", "", "", to(8), {"sets": 2, "rest_s": 30}),
            rung(
                "Drag and go",
                "Four within six",
                "fewer tries",
                "tempo",
                to(6),
                {"sets": 2, "rest_s": 30},
            ),
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
            rung(
                "Shadow smash",
                "Shadow, whole movement",
                "",
                "",
                to(2.2),
                {"sets": 1, "reps": 8, "s_per_rep": 6},
            ),
            rung(
                "Overhead clear",
                "High feed",
                "the shuttle",
                "feed",
                of(6),
                **PASS,
                ease="feed from nearer",
            ),
            rung(
                "Overhead clear",
                "Feed to both corners",
                "you do not know which",
                "predictability",
                of(6),
                **PASS,
                feeds=["thrown by hand", "served high", "hit flat"],
            ),
            rung(
                "Clear in a rally",
                "In a rally",
                "two in turn",
                "movement added",
                of(6),
                **PASS,
                success=[0.4, 0.7],
            ),
        ],
    ),
]

# a routine: its name, what it is for, the ladder that comes first, the drills as they are
BEFORE_SCHOOL = (
    "Before school",
    "Stick and ball awake in a quarter of an hour.",
    "Quick hands",
    ["Low stance", "Reverse-stick stop", "Wall pass and trap", "Figure of eight"],
)
# who has it, from the first day of the present week on
HAVE_IT = ("Bram Ashdown", "Wren Castell")
# two jobs in one repetition: the stop, and the pass after it
STOP_AND_PASS = (
    "Stop and pass",
    "The pass begins with the stop.",
    ("Stop it dead", "Push pass to a gate"),
)
DO_BOTH = ("Hugo Salter",)
