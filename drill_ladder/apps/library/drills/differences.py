"""A drill in words, so that two coaches who changed it at once see where they differ."""

from collections.abc import Mapping
from typing import Any

from drill_ladder.apps.library.models import HEARD, Drill
from drill_ladder.apps.library.words import PLAIN, Told
from drill_ladder.formats.kit_words import windows_text
from drill_ladder.formats.measures import measure_words

OTHERS = (
    *("caution", "only_fresh", "people", "measure", "group_of", "feeds_judged", "heard"),
    *("wall", "lanes_are", "fits_from", "kit"),
)


def told_drill(values: Mapping[str, Any], skill: str) -> Told:
    """A drill's fields in words."""
    lines = {word: _listed(values.get(key)) for key, word in PLAIN.items()}
    caution = dict(Drill._meta.get_field("caution").flatchoices)[values["caution"]]
    people = dict(Drill._meta.get_field("people").flatchoices)[values["people"]]
    feeds = {True: "counts for nothing", False: "is an attempt", None: ""}[values["feeds_judged"]]
    lanes_are = dict(Drill._meta.get_field("lanes_are").flatchoices)[values["lanes_are"]]
    return lines | {
        "Skill": skill,
        "Where it may go": caution,
        "Contact or all-out effort": "only when fresh" if values["only_fresh"] else "no",
        "Who it takes": people,
        "Players in the group": str(values["group_of"] or ""),
        "A bad feed": feeds,
        "Counted by ear": dict(HEARD).get(values["heard"], ""),
        "Needs a wall": "yes" if values["wall"] else "no",
        "Left and right are": lanes_are,
        "Fits from": "" if values["fits_from"] is None else f"{values['fits_from'] * 100:g} %",
        "Tools by height": windows_text(values["kit"]),
        "Measure": measure_words(values["measure"]),
    }


def stored_drill(drill: Drill) -> Told:
    """The drill as it is stored."""
    keys = (*PLAIN, *OTHERS)
    return told_drill(
        {key: getattr(drill, key) for key in keys}, drill.skill.name if drill.skill else ""
    )


def _listed(value: Any) -> str:
    return ", ".join(value) if isinstance(value, list) else str(value or "")
