"""The starter library: general templates for any sport, in the file format, brought in like any
other file.

A rung is (title, what changes, axis, reps or sets, target). Distances and marks are starting
points, common practice: a coach changes them.
"""

from typing import Any

from drill_ladder.apps.library.starter.drills import DRILLS
from drill_ladder.apps.library.starter.patterns import PATTERN_DRILLS, PATTERN_LADDERS
from drill_ladder.apps.library.starter.writing import ONE, ROW_2, WINDOW, of, rung, steps, to
from drill_ladder.formats.library_values import FORMAT

TEN, WINDOWS, TRIES = {"sets": 1, "reps": 10}, {"sets": 3, "rest_s": 30}, {"sets": 3}
FAST = {"sets": 4, "rest_s": 60}
REACT, PRESSURE = "React to the caller", {"intent": "pressure"}


def _called(mode: str, **more: Any) -> dict[str, Any]:
    """A caller over the six points of the star, by an arrow."""
    cues = [{"name": f"{n}"} for n in range(1, 7)]
    return {"caller": {"cues": cues, "mode": mode, "every_s": 5, "way": "arrow", **more}}


def _with_feet() -> dict[str, Any]:
    """The points of the right half with the right foot, those of the left with the left."""
    feet = ("right foot", "right foot", "right foot", "left foot", "left foot", "left foot")
    cues = [{"name": f"{n}", "by": foot} for n, foot in enumerate(feet, 1)]
    return {"caller": {"cues": cues, "mode": "random", "every_s": 5, "way": "arrow"}}


SURE = {"school": "evidence", "confidence": 0.9, "half_life": 3}

LADDERS = [
    (
        "Wall rebound",
        "Receiving",
        WINDOW,
        steps(
            "Wall rebound",
            WINDOWS,
            [
                ("Twelve from 2 m", "", "", to(12)),
                ("Twelve from 3 m", "one metre more", "distance", to(12)),
                ("Eighteen from 3 m", "faster", "tempo", to(18)),
                ("Eighteen, weak side", "the other side", "off side", to(18)),
            ],
        ),
    ),
    (
        "Target gates",
        "Aiming",
        ROW_2,
        [
            rung(
                "Target gates",
                "Wide gate at 3 m",
                "",
                "",
                TEN,
                of(8),
                floor=0.4,
                ease={"note": "one metre nearer"},
                by_age=[{"to": 8, "how": "from 2 m"}, {"to": None, "how": "from 3 m"}],
            ),
            *steps(
                "Target gates",
                TEN,
                [
                    ("Wide gate at 5 m", "two metres more", "distance", of(8)),
                    ("Narrow gate at 5 m", "half the gate", "target size", of(8)),
                    ("Narrow gate, on the move", "a run-up", "movement added", of(7)),
                ],
                floor=0.4,
                ease={"note": "one metre nearer"},
            ),
            rung(
                "Target gates",
                "Narrow gate, sides in turn",
                "the side changes at every ball",
                "predictability",
                TEN,
                of(7),
                floor=0.4,
                ease={"note": "one metre nearer"},
                turns=["left", "right"],
                ease_faults=3,
            ),
        ],
    ),
    (
        "Change of direction",
        "Footwork",
        ROW_2,
        steps(
            "Change of direction",
            FAST,
            [
                ("T in 14 s", "", "", to(14)),
                ("T in 13 s", "faster", "tempo", to(13)),
                ("T in 12 s", "faster", "tempo", to(12)),
            ],
            intent="speed",
        ),
    ),
    (
        "React to the caller",
        "Reaction",
        ONE,
        [
            rung(REACT, title, changes, axis, TEN, of(makes, each=False), **PRESSURE, **called)
            for title, changes, axis, makes, called in (
                ("Known order", "", "", 9, _called("known")),
                ("In turn", "the order goes round", "predictability", 9, _called("serial")),
                ("Random", "nobody knows", "predictability", 8, _called("random")),
                ("Random, with its foot", "a foot is called too", "choices", 8, _with_feet()),
                ("Random, called late", "less time", "tempo", 8, _called("random", late_s=0.6)),
            )
        ],
    ),
    (
        "One leg",
        "Balance",
        ROW_2,
        steps(
            "Balance on one leg",
            {"sets": 2},
            [
                ("Eyes open", "", "", {"value": 0.75, "each_lane": True}),
                (
                    "Eyes on a moving hand",
                    "the eyes move",
                    "movement added",
                    {"value": 0.75, "each_lane": True},
                ),
                ("On a soft mat", "soft ground", "environment", {"value": 0.75, "each_lane": True}),
            ],
        ),
    ),
    (
        "Choice of two",
        "Deciding",
        SURE,
        steps(
            "Choice of two",
            TEN,
            [
                ("Sign early", "", "", of(8)),
                ("Sign as the ball comes", "later", "predictability", of(8)),
                ("Sign and a defender", "a shadow defender", "opponent", of(7)),
            ],
            intent="pressure",
        ),
    ),
    (
        "Interval speed",
        "Speed",
        ROW_2,
        steps(
            "Interval speed",
            FAST,
            [
                ("10 m and back in 6 s", "", "", to(6)),
                ("In 5.6 s", "faster", "tempo", to(5.6)),
                ("In 5.3 s", "faster", "tempo", to(5.3)),
            ],
            intent="speed",
            slow_first_s=20,
        ),
    ),
    (
        "Interval endurance",
        "Endurance",
        {"school": "volume", "sessions": 4},
        [
            rung(
                "Interval endurance",
                "4 x 60 s",
                "",
                "",
                {"sets": 4, "rest_s": 30},
                to(1),
                intent="endurance",
            ),
            rung(
                "Interval endurance",
                "5 x 60 s",
                "one more",
                "length of set",
                {"sets": 5, "rest_s": 30},
                to(1),
                intent="endurance",
            ),
            rung(
                "Interval endurance",
                "5 x 60 s, 20 s rest",
                "less rest",
                "fatigue",
                {"sets": 5, "rest_s": 20},
                to(1),
                intent="endurance",
            ),
        ],
    ),
    (
        "Streak keeping",
        "Feel",
        ROW_2,
        steps(
            "Streak keeping",
            TRIES,
            [
                ("Ten", "", "", to(10)),
                ("Twenty", "longer", "length of set", to(20)),
                ("Twenty walking", "walking", "movement added", to(20)),
                ("Forty walking", "longer", "length of set", to(40)),
            ],
        ),
    ),
    (
        "Three lives",
        "Pressure",
        WINDOW,
        steps(
            "Three lives",
            {"sets": 2, "rest_s": 60},
            [
                ("Six good, big target", "", "", to(6)),
                ("Eight good, big target", "two more", "length of set", to(8)),
                ("Eight good, half the target", "half the target", "target size", to(8)),
                ("Twelve good, half the target", "four more", "length of set", to(12)),
            ],
            intent="pressure",
        ),
    ),
    (
        "Earn two more",
        "Pressure",
        WINDOW,
        steps(
            "Earn two more",
            {"sets": 2, "rest_s": 45},
            [
                ("Four good, big target", "", "", to(4)),
                ("Seven good, big target", "three more", "length of set", to(7)),
                ("Seven good, half the target", "half the target", "target size", to(7)),
                ("Twelve good, half the target", "five more", "length of set", to(12)),
            ],
            intent="pressure",
        ),
    ),
    (
        "Juggling objects",
        "Feel",
        WINDOW,
        steps(
            "Juggling objects",
            {"sets": 2},
            [
                ("Two objects", "", "", to(6)),
                ("Three scarves", "one more, slow", "tool", to(8)),
                ("Three balls", "faster to fall", "tool", to(8)),
            ],
        ),
    ),
    (
        "Nine-spot aim",
        "Aiming",
        ROW_2,
        steps(
            "Nine-spot aim",
            {"sets": 1, "reps": 5},
            [
                ("Big spots", "", "", of(3, 5)),
                ("Small spots", "half the spot", "target size", of(3, 5)),
                ("Small spots, called", "the caller chooses", "predictability", of(3, 5)),
            ],
        ),
    ),
    (
        "Eight-direction reception",
        "Receiving",
        WINDOW,
        steps(
            "Eight-direction reception",
            {"sets": 1, "reps": 4},
            [
                ("Direction known", "", "", of(3, 4)),
                ("Called before the pass", "a call", "predictability", of(3, 4)),
                ("Called as it comes", "later", "predictability", of(3, 4)),
            ],
        ),
    ),
    (
        "Shadow to live",
        "Technique",
        ROW_2,
        steps(
            "Shadow to live",
            {"sets": 1, "reps": 8},
            [
                ("Shadow", "", "", to(2.2)),
                ("With a still ball", "the ball", "tool", to(2.2)),
                ("With a live feed", "a feed", "feed", to(2.0)),
            ],
        ),
    ),
    (
        "Where it lands",
        "Aiming",
        ROW_2,
        steps(
            "Where it lands",
            TEN,
            [
                ("From a standstill", "", "", to(1.5)),
                ("One metre back", "the distance", "distance", to(1.5)),
                ("On the move", "a run-up", "movement added", to(1.8)),
            ],
        ),
    ),
]


def starter_document() -> dict[str, Any]:
    """The whole starter library as a file."""
    ladders = [
        {
            "title": title,
            "skill": skill,
            "purpose": "A general template: change it to your sport.",
            "rule": rule,
            "rungs": rungs,
        }
        for title, skill, rule, rungs in [*LADDERS, *PATTERN_LADDERS]
    ]
    return {"format": FORMAT, "drills": [*DRILLS, *PATTERN_DRILLS], "ladders": ladders}
