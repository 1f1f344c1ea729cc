"""The shapes of what a drill needs, how it may be done with less, and what treats its faults."""

from dataclasses import asdict
from typing import Any

from drill_ladder.core.coaching import Axis
from drill_ladder.core.planning import KitWindow, SoloVersion
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
# a tool whose size goes with the body: shares of its height
KIT = listed(
    record(tool=name(TITLE), low=number(above=0, high=2), high=number(above=0, high=2)), 0, 12
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


def to_versions(docs: list[dict[str, Any]]) -> tuple[SoloVersion, ...]:
    """Validated versions, from the fullest down."""
    lists = ("tools", "surfaces", "loses")
    return tuple(
        SoloVersion(
            **{
                **doc,
                **{key: tuple(doc[key]) for key in lists},
                "instead": tuple(doc["instead"].items()),
            }
        )
        for doc in docs
    )


def versions_document(versions: tuple[SoloVersion, ...]) -> list[dict[str, Any]]:
    """Versions in the open format."""
    lists = ("tools", "surfaces", "loses")
    return [
        {
            **asdict(version),
            **{key: list(getattr(version, key)) for key in lists},
            "instead": dict(version.instead),
        }
        for version in versions
    ]


def to_kit(docs: list[dict[str, Any]]) -> tuple[KitWindow, ...]:
    """Validated windows."""
    return tuple(KitWindow(**doc) for doc in docs)


def kit_document(windows: tuple[KitWindow, ...]) -> list[dict[str, Any]]:
    """Windows in the open format."""
    return [asdict(window) for window in windows]
