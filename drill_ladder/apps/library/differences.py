"""What two coaches did to the same drill or ladder, side by side, so that nothing is overwritten unseen."""

from collections.abc import Mapping, Sequence
from typing import Any

from drill_ladder.apps.library.ladders.services import LadderHead, RungInput
from drill_ladder.apps.library.models import Drill, Ladder
from drill_ladder.formats.words import dose_words, measure_words, rule_sentence, target_words

Told = dict[str, str]
PLAIN = {
    "title": "Name",
    "purpose": "What it is for",
    "how": "How it is done",
    "cues": "Cues",
    "faults": "Faults",
    "lanes": "Lanes",
    "caution_note": "Safety first",
    "tools": "Tools",
    "surfaces": "Surfaces",
    "axes": "Can get harder by",
    "sources": "Where it comes from",
}


# every field of a file's drill or ladder, as a person says it
WORDS = PLAIN | {
    "skill": "Skill",
    "caution": "Where it may go",
    "people": "Who it takes",
    "group_of": "Size of the group",
    "measure": "Measure",
    "wall": "Wall",
    "plan": "Floor plan",
    "versions": "With less",
    "treatments": "What treats its faults",
    "rule": "Rule",
    "rungs": "Rungs",
}


def told_drill(values: Mapping[str, Any], skill: str) -> Told:
    """A drill's fields in words."""
    told = {word: _listed(values.get(key)) for key, word in PLAIN.items()}
    caution = dict(Drill._meta.get_field("caution").flatchoices)[values["caution"]]
    people = dict(Drill._meta.get_field("people").flatchoices)[values["people"]]
    return told | {
        "Skill": skill,
        "Where it may go": caution,
        "Who it takes": people,
        "Measure": measure_words(values["measure"]),
    }


def stored_drill(drill: Drill) -> Told:
    """The drill as it is stored."""
    keys = (*PLAIN, "caution", "people", "measure")
    return told_drill({key: getattr(drill, key) for key in keys}, drill.skill.name if drill.skill else "")


def _listed(value: Any) -> str:
    return ", ".join(value) if isinstance(value, list) else str(value or "")


def told_ladder(head: LadderHead, rungs: Sequence[RungInput]) -> Told:
    """A ladder in words: its head, and each rung's terms by its place."""
    told = {"Name": head.title, "Skill": head.skill, "What it is for": head.purpose}
    for position, rung in enumerate(rungs, 1):
        told |= {f"Rung {position}, {key}": words for key, words in _told_rung(rung).items()}
    return told


def stored_ladder(ladder: Ladder) -> Told:
    """The ladder as it is stored."""
    head = LadderHead(ladder.title, ladder.skill.name if ladder.skill else "", ladder.purpose)
    rungs = ladder.rungs.select_related("drill")
    return told_ladder(head, [RungInput(r.pk, r.drill, r.changes, r.core, r.plan) for r in rungs])


def _told_rung(rung: RungInput) -> Told:
    core = rung.core
    return {
        "name": core.title,
        "drill": str(rung.drill),
        "change": rung.changes,
        "axis": ", ".join(core.axis),
        "dose": dose_words(core),
        "target": target_words(core),
        "floor": "none" if core.floor is None else f"{core.floor:g}",
        "eased by": core.ease or "",
        "floor plan": "its own" if rung.plan else "the drill's",
        "rule": rule_sentence(core.rule) if core.rule else "the ladder's",
    }
