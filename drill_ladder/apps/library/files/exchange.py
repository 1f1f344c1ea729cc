"""Drills and ladders out and in: a preview of what a file would do, then one transaction."""

from collections.abc import Collection, Iterable
from dataclasses import dataclass, fields, replace
from typing import Any

from django.db import transaction

from drill_ladder.apps.library.files.importing import store_drills, store_ladders, store_treatments
from drill_ladder.apps.library.models import Caution, Drill, Ladder, Routine, Rung, Treatment
from drill_ladder.apps.library.routines import PartInput, RoutineHead, known_ladders, save_routine
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Club, Membership
from drill_ladder.apps.people.players import lock_club, refuse_unless_coach
from drill_ladder.core.judging import Makes
from drill_ladder.formats.library_values import (
    FileCheck,
    FileDrill,
    FileLadder,
    FilePart,
    FileRoutine,
    FileRung,
    FileTreatment,
    Library,
)
from drill_ladder.formats.library_values import library_document as write_library

# from the least caution to the most
CAREFUL = [Caution.HOME_ALONE, Caution.HOME_WITH_ADULT, Caution.COACHED_ONLY]


@dataclass(frozen=True, slots=True)
class Change:
    """What a file would do with one drill or ladder: new, changed (in which fields) or same.

    lowered: the caution before and after, where the file asks for less of it: that has to be agreed
    to.
    """

    kind: str
    title: str
    what: str
    fields: list[str]
    lowered: tuple[str, str] | None = None


def file_drill(drill: Drill) -> FileDrill:
    """A stored drill as a file has it."""
    same = {
        f.name: getattr(drill, f.name)
        for f in fields(FileDrill)
        if f.name not in ("skill", "treatments")
    }
    treatments = in_order((_file_treatment(row) for row in drill.treatments.all()), drill.faults)
    return FileDrill(**same, skill=drill.skill.name if drill.skill else "", treatments=treatments)


def in_order(treatments: Iterable[FileTreatment], faults: list[str]) -> tuple[FileTreatment, ...]:
    """As the drill names its faults, so that the order says nothing."""
    places = {fault: i for i, fault in enumerate(faults)}
    return tuple(sorted(treatments, key=lambda row: places.get(row.fault, len(faults))))


def _file_treatment(row: Treatment) -> FileTreatment:
    drill = row.by_drill.title if row.by_drill else ""
    ladder, rung = (row.by_rung.ladder.title, row.by_rung.title) if row.by_rung else ("", "")
    return FileTreatment(row.fault, row.cue, drill, ladder, rung)


def file_ladder(ladder: Ladder) -> FileLadder:
    """A stored ladder as a file has it."""
    skill = ladder.skill.name if ladder.skill else ""
    rungs = tuple(_file_rung(rung) for rung in ladder.rungs.all())
    return FileLadder(ladder.title, skill, ladder.purpose, ladder.rule, rungs)


def _file_rung(rung: Rung) -> FileRung:
    return FileRung(
        rung.drill.title,
        rung.changes,
        replace(rung.core, id="", measure=Makes(), lanes=()),
        rung.plan,
    )


def file_routine(routine: Routine) -> FileRoutine:
    """A stored routine as a file has it."""
    parts = tuple(
        FilePart(part.ladder.title, part.sets, part.keep, part.insert_after, part.together)
        for part in routine.parts.all()
    )
    check = None
    if routine.insert_of is not None:
        reps, seconds = routine.insert_reps or 1, routine.insert_s or 1.0
        check = FileCheck(routine.insert_of.title, reps, seconds)
    return FileRoutine(routine.title, routine.purpose, routine.change_s, parts, check)


def library_document(
    drills: Iterable[Drill], ladders: Iterable[Ladder], routines: Iterable[Routine] = ()
) -> dict[str, Any]:
    """A whole file, ready to be written out."""
    return write_library(
        Library(
            tuple(map(file_drill, drills)),
            tuple(map(file_ladder, ladders)),
            tuple(map(file_routine, routines)),
        )
    )


def preview(club: Club, library: Library) -> list[Change]:
    """What the file would do, drill by drill and ladder by ladder, matched by name."""
    return _compared(club, library)[1]


def _compared(club: Club, library: Library) -> tuple[list[FileDrill], list[Change]]:
    """The file's drills, completed by what is known of them, and what the file would do."""
    drills = {row.title: file_drill(row) for row in Drill.objects.of_club(club).for_file()}
    ladders = {row.title: file_ladder(row) for row in Ladder.objects.of_club(club).for_file()}
    completed = [
        _completed(drill, drills.get(drill.title), library.titles | {""})
        for drill in library.drills
    ]
    changes = [_change("drill", drill, drills.get(drill.title)) for drill in completed]
    changes += [_change("ladder", ladder, ladders.get(ladder.title)) for ladder in library.ladders]
    if library.routines:
        rows = Routine.objects.of_club(club).with_parts()
        routines = {row.title: file_routine(row) for row in rows}
        changes += [
            _change("routine", routine, routines.get(routine.title)) for routine in library.routines
        ]
    return completed, changes


def _completed(drill: FileDrill, known: FileDrill | None, inside: set[str]) -> FileDrill:
    """A drill of the file; what treats a fault by a place outside of the file was not exported, so
    it stays.
    """
    treatments = {row.fault: row for row in drill.treatments}
    for row in known.treatments if known else ():
        if {row.drill, row.ladder} <= inside or row.fault not in drill.faults:
            continue
        sent = treatments.get(row.fault, row)
        if sent is row or not (sent.drill or sent.rung):
            treatments[row.fault] = replace(row, cue=sent.cue)
    return replace(drill, treatments=in_order(treatments.values(), drill.faults))


InFile = FileDrill | FileLadder | FileRoutine


def _change(kind: str, sent: InFile, known: InFile | None) -> Change:
    if known is None:
        return Change(kind, sent.title, "new", [])
    different = [f.name for f in fields(sent) if getattr(sent, f.name) != getattr(known, f.name)]
    return Change(
        kind, sent.title, "changed" if different else "same", different, _lowered(known, sent)
    )


def _lowered(known: InFile, sent: InFile) -> tuple[str, str] | None:
    """The caution in words, before and after, of a drill that would be done with less of it."""
    if not isinstance(sent, FileDrill) or not isinstance(known, FileDrill):
        return None
    before, after = Caution(known.caution), Caution(sent.caution)
    return (before.label, after.label) if CAREFUL.index(after) < CAREFUL.index(before) else None


def refuse_unagreed(changes: Iterable[Change], agreed: Collection[str]) -> None:
    """Raise Refused while a caution would be lowered that nobody agreed to, line by line."""
    lines = [
        f"“{change.title}”: from “{change.lowered[0]}” to “{change.lowered[1]}”"
        for change in changes
        if change.lowered and change.title not in agreed
    ]
    if lines:
        raise Refused(
            f"The file would lower the caution of {'; '.join(lines)}. Agree to each of them, or "
            "mend the file. "
            "Nothing was stored."
        )


@transaction.atomic
def import_library(
    *, member: Membership, library: Library, agreed: Collection[str] = ()
) -> list[Change]:
    """Store what is new and what changes; all or nothing. Raises Refused. The same file twice
    changes nothing.

    agreed: the titles of the drills whose caution may be lowered.
    """
    refuse_unless_coach(member)
    lock_club(member.club_id)
    drills, changes = _compared(member.club, library)
    refuse_unagreed(changes, agreed)
    same = {(change.kind, change.title) for change in changes if change.what == "same"}
    others = [drill for drill in drills if ("drill", drill.title) not in same]
    store_drills(member, others)
    store_ladders(
        member, [ladder for ladder in library.ladders if ("ladder", ladder.title) not in same]
    )
    store_treatments(member.club, others)
    for routine in library.routines:
        if ("routine", routine.title) not in same:
            _store_routine(member, routine)
    return changes


def _store_routine(member: Membership, sent: FileRoutine) -> None:
    """A routine that is new or changed, matched by name; its ladders are there by now."""
    ladders = known_ladders(member, (part.ladder for part in sent.parts))
    names = [part.ladder for part in sent.parts]
    check = sent.check
    insert = (names.index(check.ladder), check.reps, check.s_per_rep) if check else None
    there = Routine.objects.of_club(member.club).filter(title=sent.title).first()
    save_routine(
        member=member,
        routine=there,
        head=RoutineHead(sent.title, sent.purpose, sent.change_s, insert),
        parts=[
            PartInput(ladders[part.ladder], part.sets, part.keep, part.check_after, part.together)
            for part in sent.parts
        ],
        revision=there.revision if there else 0,
    )
