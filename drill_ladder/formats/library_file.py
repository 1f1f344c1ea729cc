"""The file of drills and ladders: one JSON document, one reader for shape, references and terms."""

from typing import Any

from pydantic_core import SchemaValidator, ValidationError

from drill_ladder.formats.drill_shapes import NEEDS
from drill_ladder.formats.file_limits import (
    FAULT,
    LANE,
    LINE,
    LONGEST,
    MOST_LISTED,
    NOTE,
    SKILL,
    TITLE,
    check_measure,
    check_plan_limits,
    check_rule_limits,
    check_rung_limits,
)
from drill_ladder.formats.ladder_checks import check_in_range, check_ladder
from drill_ladder.formats.ladder_shapes import ALONG, DOSE, RULE, TARGET
from drill_ladder.formats.library_values import FORMAT, Library, to_library
from drill_ladder.formats.measures import MEASURE
from drill_ladder.formats.mistakes import (
    Mistake,
    Mistakes,
    first_of_each_path,
    from_validation,
    path_of,
)
from drill_ladder.formats.node import Node
from drill_ladder.formats.plan_shapes import PLAN, check_plan
from drill_ladder.formats.reading import depth_of, unkept
from drill_ladder.formats.shapes import (
    listed,
    maybe,
    name,
    number,
    one_of,
    optional,
    record,
    text,
    whole,
    yes_no,
)
from drill_ladder.formats.strict_json import read_json

LARGEST = 2_000_000
MOST_RUNGS = 60  # of a ladder: what the builder can show
MOST_IN_ALL = 5000  # rungs of one file: five seconds of storing

MOST_PARTS = 40  # of a routine: what one page can show

MOST_DRILLS, MOST_LADDERS, DEEPEST = 2000, 500, 30

DRILL = record(
    title=name(TITLE),
    skill=optional(text(most=SKILL), ""),
    purpose=optional(text(most=LINE), ""),
    how=optional(text(most=LONGEST), ""),
    cues=optional(listed(name(LINE), 0, MOST_LISTED), []),
    checkpoints=optional(listed(name(LINE), 0, MOST_LISTED), []),
    faults=optional(listed(name(FAULT), 0, MOST_LISTED), []),
    measure=MEASURE,
    lanes=optional(listed(name(LANE), 0, MOST_LISTED), []),
    caution=one_of("home_alone", "home_with_adult", "coached_only"),
    caution_note=optional(text(most=LINE), ""),
    plan=maybe(PLAN),
    **NEEDS,
)
RUNG = record(
    drill=name(TITLE),
    title=name(TITLE),
    changes=optional(text(most=NOTE), ""),
    axis=optional(listed(name(LANE), 0, MOST_LISTED), []),
    dose=DOSE,
    target=TARGET,
    floor=maybe(number()),
    ease=maybe(record(note=text(most=NOTE))),
    rule=maybe(RULE),
    plan=maybe(PLAN),
    **ALONG,
)
LADDER = record(
    title=name(TITLE),
    skill=optional(text(most=SKILL), ""),
    purpose=optional(text(most=LINE), ""),
    rule=RULE,
    rungs=listed(RUNG, 1, MOST_RUNGS),
)
PART = record(
    ladder=name(TITLE),
    sets=maybe(whole(1, 50)),
    keep=optional(yes_no(), False),
    check_after=optional(yes_no(), False),
    together=optional(yes_no(), False),
)
ROUTINE = record(
    title=name(TITLE),
    purpose=optional(text(most=LINE), ""),
    change_s=optional(number(0, 600), 20.0),
    parts=listed(PART, 1, MOST_PARTS),
    check=maybe(record(ladder=name(TITLE), reps=whole(1, 50), s_per_rep=number(1, 120))),
)
LIBRARY = record(
    format=one_of(FORMAT),
    drills=listed(DRILL, 0, MOST_DRILLS),
    ladders=optional(listed(LADDER, 0, MOST_LADDERS), []),
    routines=optional(listed(ROUTINE, 0, MOST_LADDERS), []),
)


def read_library(data: bytes) -> Library:
    """What a file holds. Raises Mistakes with everything that is wrong, each with its place."""
    if len(data) > LARGEST:
        raise Mistakes([Mistake("$", f"is larger than {LARGEST // 1_000_000} MB")])
    if depth_of(data.decode("utf-8", "replace")) > DEEPEST:
        raise Mistakes([Mistake("$", "is nested too deeply")])
    doc, faults = read_json(data)
    faults += unkept_texts(doc)
    validated: Any = None
    try:
        validated = SchemaValidator(LIBRARY).validate_python(doc)
    except ValidationError as error:
        faults += from_validation(error.errors(include_url=False, include_input=False))
    _check(Node(doc, faults))
    if faults:
        raise Mistakes(first_of_each_path(faults))
    return to_library(validated)


# texts of several lines; every other one is a name, or a line
PROSE = ("how", "sources")


def unkept_texts(doc: object) -> list[Mistake]:
    """Every text of the file that no database keeps, or that breaks the line where it
    should not.
    """
    faults: list[Mistake] = []
    left: list[tuple[object, tuple[str | int, ...]]] = [(doc, ())]
    while left:
        value, loc = left.pop()
        if isinstance(value, str):
            if unkept(value, lines=bool(loc) and loc[-1] in PROSE):
                faults.append(
                    Mistake(path_of(loc), "holds a line break or a sign that cannot be kept")
                )
        elif isinstance(value, dict):
            if any(unkept(key) for key in value):
                faults.append(Mistake(path_of(loc), "has a key with a sign that cannot be kept"))
            left += [(inner, (*loc, key)) for key, inner in value.items()]
        elif isinstance(value, list):
            left += [(inner, (*loc, i)) for i, inner in enumerate(value)]
    return faults


def _check(doc: Node) -> None:
    """Names once, rungs made of drills that the file brings, terms that fit their drill."""
    doc.no_doubles(drill["title"] for drill in doc["drills"].each())
    doc.no_doubles(ladder["title"] for ladder in doc["ladders"].each())
    rungs = sum(1 for ladder in doc["ladders"].each() for _ in ladder["rungs"].each())
    doc["ladders"].require_that(
        rungs <= MOST_IN_ALL, f"have {rungs} rungs, and at most {MOST_IN_ALL} go into one file"
    )
    drills = {drill["title"].text: drill for drill in doc["drills"].each()}
    for drill in drills.values():
        drill.no_doubles(drill["lanes"].each())
        check_measure(drill["measure"])
        _check_kit(drill)
        if drill["plan"].value is not None:
            check_plan(drill["plan"])
            check_plan_limits(drill["plan"])
    _check_treatments(doc, drills)
    for ladder in doc["ladders"].each():
        check_rule_limits(ladder["rule"])
        for rung in ladder["rungs"].each():
            if rung["plan"].value is not None:
                check_plan(rung["plan"])
                check_plan_limits(rung["plan"])
            if rung["drill"].text is not None and rung["drill"].text not in drills:
                rung["drill"].refuse(f"is {rung['drill'].text!r}, which is no drill of this file")
        _check_terms(ladder, drills)
    _check_routines(doc)


def _check_routines(doc: Node) -> None:
    """Names once, parts on ladders that the file brings, each once, the check on one of them."""
    ladders = {ladder["title"].text for ladder in doc["ladders"].each()}
    doc.no_doubles(routine["title"] for routine in doc["routines"].each())
    for routine in doc["routines"].each():
        own = routine.no_doubles(part["ladder"] for part in routine["parts"].each())
        for part in routine["parts"].each():
            at = part["ladder"]
            at.require_that(
                at.text is None or at.text in ladders,
                f"is {at.text!r}, which is no ladder of this file",
            )
        check = routine["check"]
        if isinstance(check.value, dict) and check["ladder"].text not in (None, *own):
            check["ladder"].refuse("is no part of this routine")


def _check_kit(drill: Node) -> None:
    """Windows run from small to large."""
    for window in drill["kit"].each():
        low, high = window["low"].number, window["high"].number
        if low is not None and high is not None and high < low:
            window["high"].refuse("is under low, where its window begins")


def _check_treatments(doc: Node, drills: dict[str | None, Node]) -> None:
    """What treats a fault is in the file, and the fault is one of the drill's."""
    rungs = {
        (ladder["title"].text, r["title"].text)
        for ladder in doc["ladders"].each()
        for r in ladder["rungs"].each()
    }
    for drill in drills.values():
        own = {fault.text for fault in drill["faults"].each()}
        drill.no_doubles(treatment["fault"] for treatment in drill["treatments"].each())
        for treatment in drill["treatments"].each():
            fault, by, rung = treatment["fault"], treatment["drill"], treatment["rung"]
            fault.require_that(
                fault.text is None or fault.text in own,
                f"is {fault.text!r}, which is no fault of it",
            )
            by.require_that(
                not by.text or by.text in drills, f"is {by.text!r}, which is no drill of this file"
            )
            place = (treatment["ladder"].text, rung.text)
            rung.require_that(
                not rung.text or place in rungs,
                f"is {rung.text!r}, which is no rung of that ladder here",
            )


def _check_band(rung: Node, measure: Node) -> None:
    """A dose band and a success band run from low to high; a dose is given one way."""
    low, high = rung["dose"]["reps"].number, rung["reps_high"].number
    if high is not None and (low is None or high < low):
        rung["reps_high"].refuse("is under the dose's reps, where its band begins")
    most = rung["sets_high"].number
    if most is not None and most < (rung["dose"]["sets"].number or 1):
        rung["sets_high"].refuse("is under the dose's sets, where its band begins")
    if rung["minutes"].number is not None and low is not None:
        rung["minutes"].refuse("stands beside the dose's reps: give the one or the other")
    ends = [end.number for end in rung["success"].each()]
    if len(ends) == 2 and None not in ends and ends[0] > ends[1]:  # type: ignore[operator]
        rung["success"].refuse("runs from high to low")
    for end in rung["success"].each():
        check_in_range(end, measure)


def _check_terms(ladder: Node, drills: dict[str | None, Node]) -> None:
    """Checked like any ladder, each rung with its drill's measure and lanes put in."""
    rungs: list[dict[str, Any] | None] = []
    for number_, rung in enumerate(ladder["rungs"].each()):
        drill = drills.get(rung["drill"].text)
        if drill is None or not isinstance(rung.value, dict):
            rungs.append(None)  # told already; the places of the others stay
            continue
        _check_band(rung, drill["measure"])
        check_rung_limits(rung, drill)
        borrowed = {"measure": drill["measure"].value, "lanes": drill["lanes"].value}
        rungs.append({**rung.value, **borrowed, "id": f"r{number_}"})
    whole = {"rungs": rungs, "rule": ladder["rule"].value}
    check_ladder(Node(whole, ladder.faults, ladder.loc))


def library_schema() -> dict[str, Any]:
    """The file's JSON Schema."""
    from pydantic.json_schema import GenerateJsonSchema

    found = GenerateJsonSchema().generate(LIBRARY, mode="validation")
    return {"$schema": GenerateJsonSchema.schema_dialect, "title": "drills and ladders", **found}
