"""Starter ladders that show how a set may be fed, ordered, rested and ended: stopping, passing,
striking, throwing and catching, finishing, carrying. Numbers are starting points, common practice.
"""

from typing import Any

from drill_ladder.apps.library.starter.writing import (
    FRESH,
    MAKES,
    ROW_2,
    SIDES,
    WINDOW,
    drill,
    of,
    plan,
    rung,
    steps,
    to,
)

FEEDS = ["rolled slowly", "rolled", "hit softly", "hit"]
STOP, LENGTHS, STRIKE = "Stop what comes", "Long and short", "Strike from a stand"
THROW, FINISH, CARRY = "Throw and catch", "Finish under the clock", "Carry round the square"
LEAVE, NAMED = "Go or leave it", "Throw to a name"

PATTERN_DRILLS = [
    drill(
        STOP,
        "Receiving",
        "Stop it dead, whatever comes.",
        "A partner feeds, gently first. A bad feed is none of yours: it is left out.",
        ["Soft hands as it arrives", "Get behind it early"],
        ["bounced off", "reached for it"],
        MAKES,
        people="feeder",
        feeds_judged=True,
        lanes=SIDES,
        plan=plan("wall", distance=5, width=3),
    ),
    drill(
        LENGTHS,
        "Passing",
        "Two lengths, one after the other, so that none becomes a habit.",
        "Pass to the far mark, then to the near one, in turn, with a breath between.",
        ["Look at the length first", "Same swing, another size"],
        ["too long", "too short"],
        MAKES,
        lanes=["long", "short"],
        plan=plan("shuttle", length=8),
    ),
    drill(
        STRIKE,
        "Striking",
        "Through the ball, from a height that fits you.",
        "Set the stand by your own height. Strike into a wall, a net or an open field.",
        ["Eyes on the ball until it is gone", "Turn the hips first"],
        ["topped it", "hit the stand"],
        MAKES,
        plan=plan("wall", distance=6, width=4),
        kit=[{"tool": "stand", "low": 0.3, "high": 0.5, "by": "at the navel"}],
    ),
    drill(
        THROW,
        "Throwing",
        "Throw, see it all the way, and hold it.",
        "Against a wall or with a partner: in a row, then with a step, then after a turn.",
        ["Elbow high", "Hands wait where it comes"],
        ["dropped", "out of reach"],
        {"kind": "streak", "cap": 12},
        heard="catch",
        plan=plan("wall", distance=3),
    ),
    drill(
        FINISH,
        "Finishing",
        "Many good ones in little time, without hurry.",
        "Start at the mark, one after the other from both sides, as many as fit into the window.",
        ["First touch towards the goal", "Pick the corner before"],
        ["rushed", "wide"],
        {"kind": "count", "window_s": 45},
        plan=plan("wall", distance=6, width=4),
    ),
    drill(
        CARRY,
        "Endurance",
        "With the ball at your feet, stick or hand, as fast in the last round as in the first.",
        "Round the square with the ball under control. A lost ball costs a second.",
        ["Small touches", "Eyes up at each corner"],
        ["ball lost", "cut the corner"],
        {"kind": "time", "fault_penalty_s": 1},
        plan=plan("square", "carry", side=8),
        caution_note=FRESH,
    ),
    drill(
        LEAVE,
        "Reaction",
        "Not every call is yours: go on the one, stay on the other.",
        "A colour is called. Go to its marker and back; on the one that is to be left stay where you "
        "are. The word may stand on another colour: the word counts.",
        ["Read it before you go", "Still until you know"],
        ["went too early", "wrong marker"],
        MAKES,
        plan=plan("star", "quick", points=4, radius=2),
    ),
    drill(
        NAMED,
        "Throwing",
        "Know who is where before the ball is yours.",
        "In a circle: as you catch, a name is called; throw to them. One who is here, another each time.",
        ["Look round before it comes", "Step to whom you throw"],
        ["to somebody else", "not caught"],
        MAKES,
        people="group",
        caution="coached_only",
        plan=plan("star", "pass", points=6, radius=4),
    ),
]


TEN, TWELVE = {"sets": 1, "reps": 10}, {"sets": 1, "reps": 12}


def _names(**more: object) -> dict[str, Any]:
    """Somebody of those here, another one each time."""
    return {"caller": {"cues": [{"name": "a name"}], "mode": "random", "every_s": 5, **more}}


def _colours(leave: float, **more: object) -> dict[str, Any]:
    cues = [{"name": name} for name in ("red", "blue", "green", "yellow")]
    return {
        "caller": {
            "cues": cues,
            "mode": "random",
            "every_s": 4,
            "leave": leave,
            "way": "word",
            **more,
        }
    }


PATTERN_LADDERS = [
    (
        STOP,
        "Receiving",
        WINDOW,
        [
            rung(
                STOP,
                "From 5 m, the feed grows",
                "",
                "",
                {"sets": 1, "reps": 10},
                of(8),
                floor=0.5,
                feeds=FEEDS,
                rest_each_s=5,
            ),
            rung(
                STOP,
                "On the move, the feed grows",
                "two steps before each",
                "movement added",
                {"sets": 1, "reps": 10},
                of(7),
                floor=0.4,
                feeds=FEEDS[1:],
            ),
        ],
    ),
    (
        LENGTHS,
        "Passing",
        ROW_2,
        steps(
            LENGTHS,
            {"sets": 2, "reps": 8, "rest_s": 45},
            [
                ("Marks of 2 m", "", "", of(12, 16)),
                ("Marks of 1 m", "half the mark", "target size", of(12, 16)),
                ("Marks of 1 m, on the move", "a run-up", "movement added", of(11, 16)),
            ],
            turns=["long", "short"],
            finish_good=4,
            rest_each_s=10,
            ease_faults=3,
            ease={"note": "marks twice as wide"},
        ),
    ),
    (
        STRIKE,
        "Striking",
        ROW_2,
        steps(
            STRIKE,
            {"sets": 3, "reps": 6, "rest_s": 60},
            [
                ("Into 4 m", "", "", of(13, 18, each=False)),
                ("Into 2 m", "half the gap", "target size", of(13, 18, each=False)),
                ("Into 2 m, faster", "a faster swing", "tempo", of(12, 18, each=False)),
            ],
            tempo=0.5,
            tempo_high=1,
            rest_ready=True,
        ),
    ),
    (
        THROW,
        "Throwing",
        WINDOW,
        steps(
            THROW,
            {"sets": 3, "rest_s": 20},
            [
                ("Six in a row", "", "", to(6)),
                ("Ten in a row", "four more", "length of set", to(10)),
                ("Ten, with a turn between", "a turn", "movement added", to(10)),
            ],
        ),
    ),
    (
        FINISH,
        "Finishing",
        WINDOW,
        steps(
            FINISH,
            {"sets": 3, "rest_s": 60},
            [
                ("Six in 45 s", "", "", to(6)),
                ("Eight in 45 s", "faster", "tempo", to(8)),
                ("Eight, a defender waits", "a shadow defender", "opponent", to(8)),
            ],
            intent="pressure",
            rest_ready=True,
        ),
    ),
    (
        CARRY,
        "Endurance",
        ROW_2,
        steps(
            CARRY,
            {"sets": 6, "rest_s": 25, "stop_drop": 0.1},
            [
                ("Six rounds, 18 s", "", "", to(18)),
                ("Six rounds, 16 s", "faster", "tempo", to(16)),
                ("Six rounds, 15 s", "faster", "tempo", to(15)),
            ],
            intent="endurance",
        ),
    ),
    (
        LEAVE,
        "Reaction",
        WINDOW,
        [
            rung(LEAVE, title, changes, axis, TWELVE, of(makes, 12, each=False), **called)
            for title, changes, axis, makes, called in (
                ("Every call is yours", "", "", 11, _colours(0)),
                ("One in four is left", "some are left", "choices", 10, _colours(0.25)),
                (
                    "Words on other colours",
                    "another colour",
                    "choices",
                    10,
                    _colours(0.25, clash=True),
                ),
            )
        ],
    ),
    (
        NAMED,
        "Throwing",
        ROW_2,
        [
            rung(NAMED, title, changes, axis, TEN, of(makes, each=False), **called)
            for title, changes, axis, makes, called in (
                ("The name early", "", "", 8, _names()),
                ("The name late", "as the ball comes", "predictability", 8, _names(late_s=0.8)),
            )
        ],
    ),
]
