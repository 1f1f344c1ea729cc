"""The drills of the starter library: general, for any sport. Distances are starting points, common
practice.
"""

from typing import Any

from drill_ladder.core.plans import SHAPES

SIDES = ["left", "right"]
EIGHT = ["n", "ne", "e", "se", "s", "sw", "w", "nw"]
NINE = [
    "high left",
    "high",
    "high right",
    "left",
    "middle",
    "right",
    "low left",
    "low",
    "low right",
]
ROOM = "Three metres free all round, an even floor, nobody behind you."
FRESH = "Only when fresh and warm; stop when a round gets clearly slower."


def _plan(shape: str, way: str = "", **numbers: float) -> dict[str, Any]:
    shape_of = SHAPES[shape]
    markers, legs = shape_of.make(**{**shape_of.numbers, **numbers})
    return {
        "units": "m",
        "markers": [{"id": key, "x": x, "y": y} for key, (x, y) in markers.items()],
        "legs": [{"from": a, "to": b, "way": way} for a, b in legs],
        "margin": 1,
    }


def _drill(
    title: str,
    skill: str,
    purpose: str,
    how: str,
    cues: list[str],
    faults: list[str],
    measure: dict[str, Any],
    **more: Any,
) -> dict[str, Any]:
    words = {"purpose": purpose, "how": how, "cues": cues, "faults": faults, "measure": measure}
    return {
        "title": title,
        "skill": skill,
        **words,
        "caution": "home_alone",
        "caution_note": ROOM,
        **more,
    }


MAKES, STREAK, DONE = {"kind": "makes"}, {"kind": "streak"}, {"kind": "done"}

DRILLS = [
    _drill(
        "Wall rebound",
        "Receiving",
        "A clean first touch, one after the other.",
        "Play against a wall and take the ball or shuttle back. Count clean ones in the window.",
        ["Ready before it comes", "Give on contact"],
        ["second touch", "lost it"],
        {"kind": "count", "window_s": 30},
        heard="hit",
        plan=_plan("wall", distance=3),
    ),
    _drill(
        "Target gates",
        "Aiming",
        "It goes where you look.",
        "Play through the gate or into the box, ten from each side.",
        ["Look at the target", "Same start every time"],
        ["wide", "too hard", "too soft"],
        MAKES,
        lanes=SIDES,
        plan=_plan("wall", distance=5, width=3),
    ),
    _drill(
        "Change of direction",
        "Footwork",
        "Brake low, push off, go.",
        "Run the T as marked. A marker that is missed costs half a second.",
        ["Low before the turn", "Outside foot pushes"],
        ["marker missed", "upright turn"],
        {"kind": "time", "fault_penalty_s": 0.5},
        plan=_plan("tee", "sprint"),
        caution_note=FRESH,
    ),
    _drill(
        "React to the caller",
        "Reaction",
        "See or hear it, then move.",
        "A caller names a marker; touch it and come back to the middle.",
        ["Split step on the call", "First step towards it"],
        ["wrong marker", "late start"],
        MAKES,
        plan=_plan("star", "quick", points=6, radius=2),
    ),
    _drill(
        "Balance on one leg",
        "Balance",
        "Quiet above the foot.",
        "Stand on one leg and follow the task. The checkpoints are looked at once a set.",
        ["Knee over the foot"],
        ["foot down", "hip drops"],
        {"kind": "checklist", "items": ["still foot", "level hips", "eyes up", "soft knee"]},
        lanes=SIDES,
        plan=_plan("shuttle", length=1),
    ),
    _drill(
        "Choice of two",
        "Deciding",
        "Decide first, then do it well.",
        "A helper shows one of two targets late. Right target and on it counts.",
        ["Wait for the sign", "Eyes up"],
        ["wrong target", "off target", "too late"],
        MAKES,
        lanes=SIDES,
        plan=_plan("wall", distance=5, width=4),
    ),
    _drill(
        "Interval speed",
        "Speed",
        "Fast, rested, fast again.",
        "There and back at full speed, full rest between.",
        ["Drive the arms", "Run through the mark"],
        ["slipped", "short of the mark"],
        {"kind": "time"},
        plan=_plan("shuttle", "sprint", length=10),
        caution_note=FRESH,
    ),
    _drill(
        "Interval endurance",
        "Endurance",
        "The same pace to the end.",
        "Work and rest by the clock; the share of the work that was done counts.",
        ["Even pace", "Easy shoulders"],
        ["stopped early"],
        DONE,
        plan=_plan("square", "run", side=10),
    ),
    _drill(
        "Streak keeping",
        "Feel",
        "As many in a row as you can.",
        "Keep it up or keep it going; the longest run counts.",
        ["Small movements", "Watch it all the way"],
        ["too hard", "lost sight"],
        STREAK,
        heard="bounce",
        plan=_plan("shuttle", length=1),
    ),
    _drill(
        "Three lives",
        "Pressure",
        "Good ones while it lasts: each miss costs one of three lives.",
        "Shots, passes or throws at a target; the set ends with the third miss.",
        ["Breathe out before each", "The next one is the only one"],
        ["hurried", "wide"],
        {"kind": "until_lost", "lost": 3, "cap": 20},
        plan=_plan("wall", distance=5, width=4),
    ),
    _drill(
        "Earn two more",
        "Pressure",
        "Who is on target goes on: every two good ones earn two more.",
        "Shots, passes or throws at a target, six to begin with, twenty at most.",
        ["Same rhythm for every one", "Look up before each"],
        ["hurried", "wide"],
        {"kind": "earned", "n": 6, "cap": 20, "earn": 2},
        plan=_plan("wall", distance=5, width=4),
    ),
    _drill(
        "Juggling objects",
        "Feel",
        "Two hands, two eyes, one rhythm.",
        "Juggle soft objects; attempts until four clean rounds.",
        ["Throws to eye height"],
        ["collision", "forward throw"],
        {"kind": "to_n", "n": 4},
        plan=_plan("shuttle", length=1),
    ),
    _drill(
        "Nine-spot aim",
        "Aiming",
        "Every spot, not only the favourite one.",
        "A grid of nine spots on a wall or a net. Five at each.",
        ["Name the spot first"],
        ["next spot", "off the grid"],
        MAKES,
        lanes=NINE,
        plan=_plan("grid", spacing=0.7),
    ),
    _drill(
        "Eight-direction reception",
        "Receiving",
        "Open to wherever it goes next.",
        "Receive in the middle, take it out in the direction that was called.",
        ["Look before it comes", "Touch into space"],
        ["under the feet", "wrong way"],
        MAKES,
        lanes=EIGHT,
        plan=_plan("star", "carry", points=8, radius=3),
    ),
    _drill(
        "Shadow to live",
        "Technique",
        "The movement first, the ball later.",
        "Show the movement; it is rated from 0 to 3 each time.",
        ["Whole movement", "Balanced finish"],
        ["cut short", "off balance"],
        {"kind": "points", "max": 3},
        plan=_plan("arc", points=3, radius=2, degrees=90),
    ),
    _drill(
        "Where it lands",
        "Aiming",
        "Not only in, but where you meant it.",
        "Mark the two far corners and the sides of a goal or a court. Say where each one ended.",
        ["Look, then play", "Follow through to the mark"],
        [],
        {
            "kind": "points",
            "max": 3,
            "landings": [
                {"name": "corner", "points": 3},
                {"name": "side", "points": 2},
                {"name": "middle", "points": 1},
                {"name": "out", "points": 0},
            ],
        },
        plan=_plan("wall", distance=4),
    ),
]
