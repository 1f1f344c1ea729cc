"""Drills and ladders out and in: a preview of what a file would do, then one transaction."""

from collections.abc import Collection, Iterable
from dataclasses import dataclass
from typing import Any

from django.db import transaction

from drill_ladder.apps.library.files.importing import store_drills, store_ladders, store_treatments
from drill_ladder.apps.library.models import Caution, Drill, Ladder, Rung, Treatment
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Club, Membership
from drill_ladder.apps.people.services import lock_club, refuse_unless_coach
from drill_ladder.formats.library_file import FORMAT, whole

# from the least caution to the most
CAREFUL = [Caution.HOME_ALONE, Caution.HOME_WITH_ADULT, Caution.COACHED_ONLY]


@dataclass(frozen=True, slots=True)
class Change:
    """What a file would do with one drill or ladder: new, changed (in which fields) or same.

    lowered: the caution before and after, where the file asks for less of it: that has to be agreed to.
    """

    kind: str
    title: str
    what: str
    fields: list[str]
    lowered: tuple[str, str] | None = None


def drill_document(drill: Drill) -> dict[str, Any]:
    """A drill as the file has it."""
    plain = ("title", "purpose", "how", "cues", "faults", "measure", "lanes", "caution", "caution_note", "plan")
    needs = ("people", "group_of", "tools", "surfaces", "wall", "axes", "versions", "sources")
    told = {key: getattr(drill, key) for key in (*plain, *needs)}
    treatments = in_order((_treatment_document(one) for one in drill.treatments.all()), drill.faults)
    return told | {"skill": drill.skill.name if drill.skill else "", "treatments": treatments}


def in_order(treatments: Iterable[dict[str, str]], faults: list[str]) -> list[dict[str, str]]:
    """As the drill names its faults, so that the order says nothing."""
    return sorted(treatments, key=lambda one: faults.index(one["fault"]) if one["fault"] in faults else len(faults))


def _treatment_document(one: Treatment) -> dict[str, str]:
    drill = one.by_drill.title if one.by_drill else ""
    ladder, rung = (one.by_rung.ladder.title, one.by_rung.title) if one.by_rung else ("", "")
    return {"fault": one.fault, "cue": one.cue, "drill": drill, "ladder": ladder, "rung": rung}


def ladder_document(ladder: Ladder) -> dict[str, Any]:
    """A ladder as the file has it."""
    return {
        "title": ladder.title,
        "skill": ladder.skill.name if ladder.skill else "",
        "purpose": ladder.purpose,
        "rule": ladder.rule,
        "rungs": [_rung_document(rung) for rung in ladder.rungs.all()],
    }


def _rung_document(rung: Rung) -> dict[str, Any]:
    ease = {"note": rung.ease_note} if rung.ease_note else None
    plain = ("title", "changes", "axis", "dose", "target", "floor", "rule", "plan")
    more = {**{key: getattr(rung, key) for key in ("intent", "tempo", "reps_high")}, "success": _pair(rung.success)}
    return {"drill": rung.drill.title, **{key: getattr(rung, key) for key in plain}, **more, "ease": ease}


def _pair(band: tuple[float, float] | None) -> list[float] | None:
    return None if band is None else list(band)


def library_document(drills: Iterable[Drill], ladders: Iterable[Ladder]) -> dict[str, Any]:
    """A whole file: complete in itself, so what treats a fault by a place outside of it stays behind."""
    told = [drill_document(drill) for drill in drills]
    climbed = [ladder_document(ladder) for ladder in ladders]
    inside = {one["title"] for one in told} | {one["title"] for one in climbed} | {""}
    for one in told:
        for treatment in one["treatments"]:
            for key in ("drill", "ladder"):
                if treatment[key] not in inside:
                    treatment[key] = ""
            treatment["rung"] = treatment["rung"] if treatment["ladder"] else ""
        one["treatments"] = [t for t in one["treatments"] if t["cue"] or t["drill"] or t["rung"]]
    return {"format": FORMAT, "drills": told, "ladders": climbed}


def preview(club: Club, document: dict[str, Any]) -> list[Change]:
    """What the file would do, drill by drill and ladder by ladder, matched by name."""
    return _compared(club, document)[1]


def _compared(club: Club, document: dict[str, Any]) -> tuple[list[dict[str, Any]], list[Change]]:
    """The file's drills, completed by what is known of them, and what the file would do."""
    drills = {d.title: drill_document(d) for d in Drill.objects.of_club(club).for_file()}
    ladders = {x.title: ladder_document(x) for x in Ladder.objects.of_club(club).for_file()}
    completed = _completed(document, drills)
    changes = [_change("drill", given, drills.get(given["title"])) for given in completed]
    changes += [_change("ladder", given, ladders.get(given["title"])) for given in document["ladders"]]
    return completed, changes


def _completed(document: dict[str, Any], known: dict[str, dict[str, Any]]) -> list[dict[str, Any]]:
    """The file's drills; what treats a fault by a place outside of the file was not taken out, so it stays as it is."""
    inside = {one["title"] for kind in ("drills", "ladders") for one in document[kind]} | {""}
    completed = []
    for given in document["drills"]:
        stored = known.get(given["title"], {"treatments": []})["treatments"]
        outside = {t["fault"]: t for t in stored if not {t["drill"], t["ladder"]} <= inside}
        told = {one["fault"]: one for one in given["treatments"]}
        for fault, one in outside.items():
            if fault in given["faults"] and not (told.get(fault, {}).get("drill") or told.get(fault, {}).get("rung")):
                told[fault] = one | {"cue": told.get(fault, one)["cue"]}
        completed.append({**given, "treatments": in_order(told.values(), given["faults"])})
    return completed


def _change(kind: str, given: dict[str, Any], known: dict[str, Any] | None) -> Change:
    if known is None:
        return Change(kind, given["title"], "new", [])
    stored = whole(kind, known)
    fields = [key for key, value in given.items() if stored[key] != value]
    return Change(kind, given["title"], "changed" if fields else "same", fields, _lowered(kind, stored, given))


def _lowered(kind: str, stored: dict[str, Any], given: dict[str, Any]) -> tuple[str, str] | None:
    """The caution in words, before and after, of a drill that would be done with less of it."""
    if kind != "drill" or CAREFUL.index(given["caution"]) >= CAREFUL.index(stored["caution"]):
        return None
    return Caution(stored["caution"]).label, Caution(given["caution"]).label


def refuse_unagreed(changes: Iterable[Change], agreed: Collection[str]) -> None:
    """Raise Refused while a caution would be lowered that nobody agreed to, line by line."""
    lines = [
        f"“{change.title}”: from “{change.lowered[0]}” to “{change.lowered[1]}”"
        for change in changes
        if change.lowered and change.title not in agreed
    ]
    if lines:
        raise Refused(
            f"The file would lower the caution of {'; '.join(lines)}. Agree to each of them, or mend the file. "
            "Nothing was stored."
        )


@transaction.atomic
def bring_in(*, member: Membership, document: dict[str, Any], agreed: Collection[str] = ()) -> list[Change]:
    """Store what is new and what changes; all or nothing. Raises Refused. The same file twice changes nothing.

    agreed: the titles of the drills whose caution may be lowered.
    """
    refuse_unless_coach(member)
    lock_club(member.club_id)
    drills, changes = _compared(member.club, document)
    refuse_unagreed(changes, agreed)
    same = {(change.kind, change.title) for change in changes if change.what == "same"}
    others = [one for one in drills if ("drill", one["title"]) not in same]
    store_drills(member, others)
    store_ladders(member, [one for one in document["ladders"] if ("ladder", one["title"]) not in same])
    store_treatments(member.club, others)
    return changes
