"""A ladder in words, so that two coaches who changed it at once see where they differ."""

from collections.abc import Sequence

from drill_ladder.apps.library.ladders.lines import caller_words
from drill_ladder.apps.library.ladders.services import LadderHead, RungInput
from drill_ladder.apps.library.models import Ladder
from drill_ladder.apps.library.words import Told
from drill_ladder.formats.words import dose_words, rule_sentence, target_words


def told_ladder(head: LadderHead, rungs: Sequence[RungInput]) -> Told:
    """A ladder in words: its head, and each rung's terms by its place."""
    lines = {"Name": head.title, "Skill": head.skill, "What it is for": head.purpose}
    for position, rung in enumerate(rungs, 1):
        lines |= {f"Rung {position}, {key}": words for key, words in _told_rung(rung).items()}
    return lines


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
        "tempo": f"{core.tempo or 0:g} to {core.tempo_high or core.tempo or 0:g}",
        "caller": caller_words(core.caller) if core.caller else "nobody",
        "floor": "none" if core.floor is None else f"{core.floor:g}",
        "eased by": core.ease or "",
        "floor plan": "its own" if rung.plan else "the drill's",
        "rule": rule_sentence(core.rule) if core.rule else "the ladder's",
    }
