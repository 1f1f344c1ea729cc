"""A ladder in words, so that two coaches who changed it at once see where they differ: every value
of every rung under its name, none left out.
"""

from collections.abc import Iterator, Sequence
from dataclasses import fields, is_dataclass
from enum import Enum
from typing import Any

from drill_ladder.apps.library.ladders.services import LadderHead, RungInput
from drill_ladder.apps.library.models import Ladder
from drill_ladder.apps.library.words import Told as Lines
from drill_ladder.core.judging import Rule
from drill_ladder.formats.age_words import ages_text
from drill_ladder.formats.rung_fields import TOLD
from drill_ladder.formats.words import rule_sentence

NOBODYS = {"rule": "the ladder's", "plan": "the drill's", "caller": "nobody"}
THE_DRILLS = {"id", "measure", "lanes"}  # not the rung's own


def told_ladder(head: LadderHead, rungs: Sequence[RungInput]) -> Lines:
    """A ladder in words: its head, and each rung's values by its place."""
    lines = {"Name": head.title, "Skill": head.skill, "What it is for": head.purpose}
    for position, rung in enumerate(rungs, 1):
        lines |= {f"Rung {position}, {key}": words for key, words in _told_rung(rung)}
    return lines


def stored_ladder(ladder: Ladder) -> Lines:
    """The ladder as it is stored."""
    head = LadderHead(ladder.title, ladder.skill.name if ladder.skill else "", ladder.purpose)
    rungs = ladder.rungs.select_related("drill")
    return told_ladder(head, [RungInput(r.pk, r.drill, r.changes, r.core, r.plan) for r in rungs])


def _told_rung(rung: RungInput) -> Iterator[tuple[str, str]]:
    yield "drill", str(rung.drill)
    yield "what changes", rung.changes
    for field in fields(rung.core):
        if field.name not in THE_DRILLS:
            yield from _told(field.name, getattr(rung.core, field.name))
    yield from _told("plan", rung.plan)


def _told(path: str, value: Any) -> Iterator[tuple[str, str]]:
    """One value, or the values inside it."""
    if path == "rule.school":
        yield TOLD[path], f"{rule_sentence(Rule(value))} ({_words(value)})"
    elif path == "by_age":
        yield TOLD[path], ages_text(value)
    elif is_dataclass(value):
        for field in fields(value):
            yield from _told(f"{path}.{field.name}", getattr(value, field.name))
    else:
        yield TOLD[path], NOBODYS.get(path, "") if value is None else _words(value)


def _words(value: Any) -> str:
    """A value as text; of what has parts, the parts that say something."""
    if isinstance(value, tuple):
        return ("; " if value and is_dataclass(value[0]) else ", ").join(map(_words, value))
    if is_dataclass(value):
        return " ".join(filter(None, (_words(getattr(value, f.name)) for f in fields(value))))
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, Enum):
        return str(value.value)
    return f"{value:g}" if isinstance(value, float) else str(value)
