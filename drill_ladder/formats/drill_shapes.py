"""The shapes of what a drill needs, how it may be done with less, and what treats its faults."""

from drill_ladder.core.coverage import Axis
from drill_ladder.formats.shapes import (
    listed,
    maybe,
    name,
    one_of,
    optional,
    record,
    text,
    texts,
    whole,
    yes_no,
)

PEOPLE = ("solo", "feeder", "partner", "target", "group")
AXES = tuple(axis.value for axis in Axis)
# a way to do the drill with less than it asks for, and what is then lost
VERSION = record(
    name=name(120),
    people=optional(one_of(*PEOPLE), "solo"),
    wall=optional(yes_no(), False),
    tools=optional(listed(name(120), 0, 60), []),
    instead=optional(texts(), {}),
    surfaces=optional(listed(name(120), 0, 60), []),
    loses=optional(listed(name(300), 0, 60), []),
)
VERSIONS = listed(VERSION, 0, 6)
TREATMENT = record(
    fault=name(80),
    cue=optional(text(most=200), ""),
    drill=optional(text(most=120), ""),
    ladder=optional(text(most=120), ""),
    rung=optional(text(most=120), ""),
)
NEEDS = {
    "people": optional(one_of(*PEOPLE), "solo"),
    "group_of": maybe(whole(2, 60)),
    "tools": optional(listed(name(120), 0, 60), []),
    "surfaces": optional(listed(name(120), 0, 60), []),
    "wall": optional(yes_no(), False),
    "axes": optional(listed(one_of(*AXES)), []),
    "versions": optional(VERSIONS, []),
    "treatments": optional(listed(TREATMENT, 0, 60), []),
    "sources": optional(text(most=20_000), ""),
}
