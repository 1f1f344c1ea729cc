"""dose: how long a block takes, and whether its rest fits its intent."""

from typing import Any

from drill_ladder.core.judging import Intent
from drill_ladder.core.planning import DoseTime, warnings
from drill_ladder.formats.node import Node
from drill_ladder.formats.sentences import warning_text
from drill_ladder.formats.shapes import maybe, number, one_of, optional, record, whole

INPUT = record(
    sets=optional(whole(1), 1),
    reps=maybe(whole(1)),
    window_s=maybe(number(above=0)),
    lanes=optional(whole(1), 1),
    s_per_rep=maybe(number(above=0)),
    lane_change_s=optional(number(), 0.0),
    setup_s=optional(number(), 0.0),
    rest_s=optional(number(), 0.0),
    intent=optional(one_of("speed", "endurance", "skill", "pressure"), "skill"),
)


def check(doc: Node) -> None:
    """Reps or a window: not both, not neither."""
    reps, window = doc["reps"].value is not None, doc["window_s"].value is not None
    if reps and window:
        doc["window_s"].refuse("cannot stand beside reps")
    elif not reps and not window:
        doc["reps"].refuse("is required (or give window_s)")
    if reps and doc["s_per_rep"].value is None:
        doc["s_per_rep"].refuse("is required beside reps")


def to_time(doc: dict[str, Any]) -> DoseTime:
    """A validated dose in time."""
    work = doc["window_s"] if doc["reps"] is None else doc["reps"] * doc["s_per_rep"]
    keys = ("sets", "reps", "lanes", "lane_change_s", "setup_s", "rest_s")
    return DoseTime(work_s=work, **{key: doc[key] for key in keys})


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """Seconds, repetitions and warnings."""
    block = to_time(doc)
    codes = warnings(Intent(doc["intent"]), doc["sets"], doc["rest_s"])
    return {
        "seconds": block.seconds,
        "reps": block.total_reps,
        "warnings": [
            {"code": code, "text": warning_text(code, doc["sets"], doc["rest_s"])} for code in codes
        ],
    }
