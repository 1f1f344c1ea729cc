"""The shapes of what a drill needs, how it may be done with less, and what treats its faults."""

from drill_ladder.core.coaching import Axis
from drill_ladder.core.statistics import Strain
from drill_ladder.core.work import Sound
from drill_ladder.formats.file_limits import FAULT, LINE, LONGEST, MOST_LISTED, NOTE, TITLE
from drill_ladder.formats.shapes import (
    listed,
    maybe,
    name,
    number,
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
    name=name(TITLE),
    people=optional(one_of(*PEOPLE), "solo"),
    wall=optional(yes_no(), False),
    tools=optional(listed(name(TITLE), 0, MOST_LISTED), []),
    instead=optional(texts(), {}),
    surfaces=optional(listed(name(TITLE), 0, MOST_LISTED), []),
    loses=optional(listed(name(LINE), 0, MOST_LISTED), []),
)
VERSIONS = listed(VERSION, 0, 6)
TREATMENT = record(
    fault=name(FAULT),
    cue=optional(text(most=NOTE), ""),
    drill=optional(text(most=TITLE), ""),
    ladder=optional(text(most=TITLE), ""),
    rung=optional(text(most=TITLE), ""),
)
# a tool whose size goes with the body: shares of its height, and how it is found without one
LONGEST_BY = 80
KIT = listed(
    record(
        tool=name(TITLE),
        low=number(above=0, high=2),
        high=number(above=0, high=2),
        by=optional(text(most=LONGEST_BY), ""),
    ),
    0,
    12,
)
NEEDS = {
    "people": optional(one_of(*PEOPLE), "solo"),
    "group_of": maybe(whole(2, 60)),
    "tools": optional(listed(name(TITLE), 0, MOST_LISTED), []),
    "surfaces": optional(listed(name(TITLE), 0, MOST_LISTED), []),
    "wall": optional(yes_no(), False),
    "axes": optional(listed(one_of(*AXES)), []),
    "strain": optional(listed(one_of(*(one.value for one in Strain)), 0, 6), []),
    "versions": optional(VERSIONS, []),
    "treatments": optional(listed(TREATMENT, 0, MOST_LISTED), []),
    "sources": optional(text(most=LONGEST), ""),
    "fits_from": maybe(number(above=0, high=1)),
    "lanes_are": optional(one_of("sides", "places"), "sides"),
    "kit": optional(KIT, []),
    "only_fresh": optional(yes_no(), False),
    "feeds_judged": maybe(yes_no()),
    "heard": optional(one_of("", *(sound.value for sound in Sound)), ""),
    "worn": optional(listed(name(TITLE), 0, 6), []),
}
