"""Drills and ladders out and in: a preview of what a file would do, then one transaction."""

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from django.db import transaction

from drill_ladder.apps.library.models import Drill, Ladder, Rung
from drill_ladder.apps.library.services import save_drill, save_ladder, take_rule
from drill_ladder.apps.people.models import Club, Membership
from drill_ladder.formats.library_file import FORMAT, whole


@dataclass(frozen=True, slots=True)
class Change:
    """What a file would do with one drill or ladder: new, changed (in which fields) or same."""

    kind: str
    title: str
    what: str
    fields: list[str]


def drill_document(drill: Drill) -> dict[str, Any]:
    """A drill as the file has it."""
    plain = ("title", "purpose", "how", "cues", "faults", "measure", "lanes", "caution", "caution_note", "plan")
    return {key: getattr(drill, key) for key in plain} | {"skill": drill.skill.name if drill.skill else ""}


def ladder_document(ladder: Ladder) -> dict[str, Any]:
    """A ladder as the file has it."""
    return {
        "title": ladder.title,
        "skill": ladder.skill.name if ladder.skill else "",
        "purpose": ladder.purpose,
        "rule": ladder.rule,
        "rungs": [_rung_document(rung) for rung in ladder.rungs.select_related("drill")],
    }


def _rung_document(rung: Rung) -> dict[str, Any]:
    ease = {"note": rung.ease_note} if rung.ease_note else None
    plain = ("title", "changes", "axis", "dose", "target", "floor", "rule")
    return {"drill": rung.drill.title, **{key: getattr(rung, key) for key in plain}, "ease": ease}


def library_document(drills: Iterable[Drill], ladders: Iterable[Ladder]) -> dict[str, Any]:
    """A whole file."""
    return {
        "format": FORMAT,
        "drills": [drill_document(drill) for drill in drills],
        "ladders": [ladder_document(ladder) for ladder in ladders],
    }


def preview(club: Club, document: dict[str, Any]) -> list[Change]:
    """What the file would do, drill by drill and ladder by ladder, matched by name."""
    drills = {d.title: drill_document(d) for d in Drill.objects.of_club(club).select_related("skill")}
    ladders = {x.title: ladder_document(x) for x in Ladder.objects.of_club(club).select_related("skill")}
    changes = [_change("drill", given, drills.get(given["title"])) for given in document["drills"]]
    return changes + [_change("ladder", given, ladders.get(given["title"])) for given in document["ladders"]]


def _change(kind: str, given: dict[str, Any], known: dict[str, Any] | None) -> Change:
    if known is None:
        return Change(kind, given["title"], "new", [])
    stored = whole(kind, known)
    fields = [key for key, value in given.items() if stored[key] != value]
    return Change(kind, given["title"], "changed" if fields else "same", fields)


@transaction.atomic
def bring_in(*, member: Membership, document: dict[str, Any]) -> list[Change]:
    """Store what is new and what changes; all or nothing. Raises Refused. The same file twice changes nothing."""
    changes = preview(member.club, document)
    told = {(change.kind, change.title): change for change in changes}
    for given in document["drills"]:
        if told["drill", given["title"]].what != "same":
            _bring_drill(member, given)
    for given in document["ladders"]:
        if told["ladder", given["title"]].what != "same":
            _bring_ladder(member, given)
    return changes


def _bring_drill(member: Membership, given: dict[str, Any]) -> None:
    known = Drill.objects.of_club(member.club).filter(title=given["title"]).first()
    values = {key: value for key, value in given.items() if key != "skill"}
    revision = known.revision if known else 0
    save_drill(member=member, drill=known, values=values, skill=given["skill"], revision=revision)


def _bring_ladder(member: Membership, given: dict[str, Any]) -> None:
    known = Ladder.objects.of_club(member.club).filter(title=given["title"]).first()
    drills = {drill.title: drill for drill in Drill.objects.of_club(member.club)}
    standing = [rung.pk for rung in known.rungs.all()] if known else []
    rungs: list[tuple[int | None, Drill, dict[str, Any]]] = []
    for i, rung in enumerate(given["rungs"]):
        fields = {key: rung[key] for key in ("title", "changes", "axis", "dose", "target", "floor", "rule")}
        fields["ease_note"] = rung["ease"]["note"] if rung["ease"] else ""
        rungs.append((standing[i] if i < len(standing) else None, drills[rung["drill"]], fields))
    head = {key: given[key] for key in ("title", "purpose", "skill")}
    saved = save_ladder(member=member, ladder=known, head=head, rungs=rungs, revision=known.revision if known else 0)
    if saved.rule != given["rule"]:
        take_rule(member=member, ladder=saved, rule=given["rule"], revision=saved.revision)
