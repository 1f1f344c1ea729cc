"""What two coaches did to the same drill or ladder, side by side, so that nothing is overwritten unseen."""

from collections.abc import Mapping, Sequence
from typing import Any

from drill_ladder.apps.library.models import Drill, Ladder, Rung
from drill_ladder.formats.documents import part_faults, rule_from, rung_from
from drill_ladder.formats.words import dose_words, rule_sentence, target_words

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
        "Measure": str(values["measure"]),
    }


def stored_drill(drill: Drill) -> Told:
    """The same of a stored drill."""
    keys = (*PLAIN, "caution", "people", "measure")
    return told_drill({key: getattr(drill, key) for key in keys}, drill.skill.name if drill.skill else "")


def _listed(value: Any) -> str:
    return ", ".join(value) if isinstance(value, list) else str(value or "")


def told_ladder(head: Mapping[str, Any], rungs: Sequence[Rung]) -> Told:
    """A ladder in words: its head, and each rung's terms by its place."""
    told = {"Name": head["title"], "Skill": head["skill"], "What it is for": head["purpose"]}
    for position, rung in enumerate(rungs, 1):
        told |= {f"Rung {position}, {key}": words for key, words in _told_rung(rung).items()}
    return told


def stored_ladder(ladder: Ladder) -> Told:
    """The same of a stored ladder."""
    skill = ladder.skill.name if ladder.skill else ""
    head = {"title": ladder.title, "skill": skill, "purpose": ladder.purpose}
    return told_ladder(head, list(ladder.rungs.select_related("drill")))


def _told_rung(rung: Rung) -> Told:
    told = {"name": rung.title, "drill": str(rung.drill), "change": rung.changes, "axis": ", ".join(rung.axis)}
    if not part_faults("rung", rung.document()):
        terms = rung_from(rung.document())
        told |= {"dose": dose_words(terms, rung.reps_high), "target": target_words(terms)}
        told["floor"] = "none" if terms.floor is None else f"{terms.floor:g}"
    return told | {
        "eased by": rung.ease_note,
        "floor plan": "its own" if rung.plan else "the drill's",
        "rule": rule_sentence(rule_from(rung.rule)) if rung.rule else "the ladder's",
    }
