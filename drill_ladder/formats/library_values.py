"""What a file of drills and ladders holds, as values; and the same written into a file."""

from dataclasses import asdict, dataclass, replace
from typing import Any

from drill_ladder.core.judging import Makes, Measure, Rule, Rung
from drill_ladder.core.planning import KitWindow, SoloVersion
from drill_ladder.core.plans import FloorPlan
from drill_ladder.formats.documents import kit_document, to_kit, to_versions, versions_document
from drill_ladder.formats.ladder_documents import along_document, rule_document, rung_document
from drill_ladder.formats.ladder_shapes import to_rule, to_rung
from drill_ladder.formats.measures import measure_document, to_measure
from drill_ladder.formats.plan_shapes import floor_plan_document, to_floor_plan

FORMAT = "drill-ladder/1"
Doc = dict[str, Any]


@dataclass(frozen=True, slots=True)
class FileTreatment:
    """What treats a fault: a cue, another drill, a rung of a ladder, each by name; empty
    for none.
    """

    fault: str
    cue: str = ""
    drill: str = ""
    ladder: str = ""
    rung: str = ""


@dataclass(frozen=True, slots=True)
class FileDrill:
    """A drill of a file, everything by name. Its fields are those of the table but for skill and
    treatments.
    """

    title: str
    skill: str
    purpose: str
    how: str
    cues: list[str]
    checkpoints: list[str]
    faults: list[str]
    measure: Measure
    lanes: list[str]
    caution: str
    caution_note: str
    plan: FloorPlan | None
    people: str
    group_of: int | None
    tools: list[str]
    surfaces: list[str]
    wall: bool
    axes: list[str]
    strain: list[str]
    versions: tuple[SoloVersion, ...]
    treatments: tuple[FileTreatment, ...]
    sources: str
    fits_from: float | None
    lanes_are: str
    kit: tuple[KitWindow, ...]
    only_fresh: bool
    feeds_judged: bool | None
    heard: str
    worn: list[str]


@dataclass(frozen=True, slots=True)
class FileRung:
    """A rung of a file: its drill by name, what changes, its own floor plan, and its terms, without
    an id and without measure and lanes, which are the drill's.
    """

    drill: str
    changes: str
    core: Rung
    plan: FloorPlan | None


@dataclass(frozen=True, slots=True)
class FileLadder:
    """A ladder of a file, its rungs from the bottom."""

    title: str
    skill: str
    purpose: str
    rule: Rule
    rungs: tuple[FileRung, ...]


@dataclass(frozen=True, slots=True)
class FilePart:
    """A part of a routine, its ladder by name. sets: None for those of its rung; together: judged
    in the same repetitions as the part before it.
    """

    ladder: str
    sets: int | None = None
    keep: bool = False
    check_after: bool = False
    together: bool = False


@dataclass(frozen=True, slots=True)
class FileCheck:
    """The scored attempts between parts: on which ladder, how many, seconds of each."""

    ladder: str
    reps: int
    s_per_rep: float


@dataclass(frozen=True, slots=True)
class FileRoutine:
    """A routine of a file, its parts in their order."""

    title: str
    purpose: str
    change_s: float
    parts: tuple[FilePart, ...]
    check: FileCheck | None = None


@dataclass(frozen=True, slots=True)
class Library:
    """A whole file."""

    drills: tuple[FileDrill, ...]
    ladders: tuple[FileLadder, ...] = ()
    routines: tuple[FileRoutine, ...] = ()

    @property
    def titles(self) -> set[str]:
        """The names of everything in it."""
        return {drill.title for drill in self.drills} | {ladder.title for ladder in self.ladders}


def to_library(doc: Doc) -> Library:
    """A validated file."""
    return Library(
        tuple(map(_to_drill, doc["drills"])),
        tuple(map(_to_ladder, doc["ladders"])),
        tuple(map(_to_routine, doc["routines"])),
    )


def _to_routine(doc: Doc) -> FileRoutine:
    parts = tuple(FilePart(**part) for part in doc["parts"])
    check = FileCheck(**doc["check"]) if doc["check"] else None
    return FileRoutine(doc["title"], doc["purpose"], doc["change_s"], parts, check)


def _to_drill(doc: Doc) -> FileDrill:
    told = {
        "measure": to_measure(doc["measure"]),
        "plan": _to_plan(doc["plan"]),
        "versions": to_versions(doc["versions"]),
        "kit": to_kit(doc["kit"]),
        "treatments": tuple(FileTreatment(**treatment) for treatment in doc["treatments"]),
    }
    return FileDrill(**{**doc, **told})


def _to_ladder(doc: Doc) -> FileLadder:
    rungs = tuple(map(_to_rung, doc["rungs"]))
    return FileLadder(doc["title"], doc["skill"], doc["purpose"], to_rule(doc["rule"]), rungs)


def _to_rung(doc: Doc) -> FileRung:
    borrowed = {"id": "", "measure": {"kind": Makes.kind}, "lanes": []}  # both are the drill's
    return FileRung(
        doc["drill"], doc["changes"], to_rung({**doc, **borrowed}), _to_plan(doc["plan"])
    )


def _to_plan(doc: Doc | None) -> FloorPlan | None:
    return to_floor_plan(doc) if doc else None


def library_document(library: Library) -> Doc:
    """The file, complete in itself: what treats a fault by a place outside of it stays behind."""
    inside = library.titles | {""}
    return {
        "format": FORMAT,
        "drills": [_drill_document(drill, inside) for drill in library.drills],
        "ladders": [_ladder_document(ladder) for ladder in library.ladders],
        "routines": [
            {**asdict(routine), "parts": [asdict(part) for part in routine.parts]}
            for routine in library.routines
        ],
    }


def _drill_document(drill: FileDrill, inside: set[str]) -> Doc:
    treatments = [
        known for treatment in drill.treatments if (known := _inside(treatment, inside)) is not None
    ]
    return {
        **{key: getattr(drill, key) for key in FileDrill.__slots__},
        "measure": measure_document(drill.measure),
        "plan": _plan_document(drill.plan),
        "versions": versions_document(drill.versions),
        "kit": kit_document(drill.kit),
        "treatments": [asdict(treatment) for treatment in treatments],
    }


def _inside(one: FileTreatment, inside: set[str]) -> FileTreatment | None:
    """What treats by places that are in the file; None where nothing is left of it."""
    ladder = one.ladder if one.ladder in inside else ""
    drill = one.drill if one.drill in inside else ""
    known = replace(one, drill=drill, ladder=ladder, rung=one.rung if ladder else "")
    return known if known.cue or known.drill or known.rung else None


def _ladder_document(ladder: FileLadder) -> Doc:
    return {
        "title": ladder.title,
        "skill": ladder.skill,
        "purpose": ladder.purpose,
        "rule": rule_document(ladder.rule),
        "rungs": [_rung_document(rung) for rung in ladder.rungs],
    }


def _rung_document(rung: FileRung) -> Doc:
    terms = rung_document(rung.core)
    for borrowed in ("id", "measure", "lanes"):
        del terms[borrowed]
    own = {"drill": rung.drill, "changes": rung.changes, "plan": _plan_document(rung.plan)}
    return {**terms, **own, **along_document(rung.core)}


def _plan_document(plan: FloorPlan | None) -> Doc | None:
    return floor_plan_document(plan) if plan else None
