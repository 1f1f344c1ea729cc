"""The kinds of stored documents: what a JSON column of the database holds, and which value it is in
Python: read once into a frozen value, written by one writer (`Kept`).
"""

from dataclasses import asdict, dataclass
from typing import Any, TypeVar

from drill_ladder.core.coaching import Answers, PutFirst
from drill_ladder.core.judging import (
    ByAge,
    Caller,
    Dose,
    DoseChange,
    Measure,
    Overrides,
    Probe,
    Rule,
    Rung,
    SetResult,
    Target,
    TargetChange,
    Terms,
)
from drill_ladder.core.planning import (
    Help,
    KitWindow,
    SoloVersion,
    Spot,
    Station,
    ToldBlock,
    ToldChange,
    Unmet,
    Unplaced,
)
from drill_ladder.core.plans import FloorPlan
from drill_ladder.formats import ladder_shapes as shapes
from drill_ladder.formats.drill_shapes import KIT as KIT_SHAPE
from drill_ladder.formats.drill_shapes import VERSIONS as VERSIONS_SHAPE
from drill_ladder.formats.file_limits import check_landings, check_plan_limits
from drill_ladder.formats.ladder_checks import check_ages, check_caller, check_rule, check_rung
from drill_ladder.formats.ladder_documents import (
    ages_document,
    along_document,
    caller_document,
    rule_document,
    rung_document,
)
from drill_ladder.formats.measures import MEASURE as MEASURE_SHAPE
from drill_ladder.formats.measures import measure_document, to_measure
from drill_ladder.formats.node import Node
from drill_ladder.formats.plan_shapes import PLAN as PLAN_SHAPE
from drill_ladder.formats.plan_shapes import check_plan, floor_plan_document, to_floor_plan
from drill_ladder.formats.reading import Kept
from drill_ladder.formats.shapes import (
    by_id,
    by_name,
    day,
    listed,
    maybe,
    name,
    number,
    optional,
    record,
    text,
    whole,
    yes_no,
)

T = TypeVar("T")


def to_versions(docs: list[dict[str, Any]]) -> tuple[SoloVersion, ...]:
    """Validated versions, from the fullest down."""
    lists = ("tools", "surfaces", "loses")
    return tuple(
        SoloVersion(
            **{
                **doc,
                **{key: tuple(doc[key]) for key in lists},
                "instead": tuple(doc["instead"].items()),
            }
        )
        for doc in docs
    )


def versions_document(versions: tuple[SoloVersion, ...]) -> list[dict[str, Any]]:
    """Versions in the open format."""
    lists = ("tools", "surfaces", "loses")
    return [
        {
            **asdict(version),
            **{key: list(getattr(version, key)) for key in lists},
            "instead": dict(version.instead),
        }
        for version in versions
    ]


def to_kit(docs: list[dict[str, Any]]) -> tuple[KitWindow, ...]:
    """Validated windows."""
    return tuple(KitWindow(**doc) for doc in docs)


def kit_document(windows: tuple[KitWindow, ...]) -> list[dict[str, Any]]:
    """Windows in the open format."""
    return [asdict(window) for window in windows]


MEASURE: Kept[Measure] = Kept(MEASURE_SHAPE, to_measure, measure_document, check_landings)
DOSE: Kept[Dose] = Kept(shapes.DOSE, lambda doc: Dose(**doc), asdict)
TARGET: Kept[Target] = Kept(shapes.TARGET, lambda doc: Target(**doc), asdict)
RULE: Kept[Rule] = Kept(shapes.RULE, shapes.to_rule, rule_document, check_rule)
RUNG: Kept[Rung] = Kept(shapes.RUNG, shapes.to_rung, rung_document, check_rung)
AGES: Kept[tuple[ByAge, ...]] = Kept(
    shapes.ALONG["by_age"]["schema"], shapes.to_ages, ages_document, check_ages
)
CALLER: Kept[Caller] = Kept(shapes.CALLER, shapes.to_caller, caller_document, check_caller)
PLAN: Kept[FloorPlan] = Kept(
    PLAN_SHAPE, to_floor_plan, floor_plan_document, check_plan, check_plan_limits
)
VERSIONS: Kept[tuple[SoloVersion, ...]] = Kept(VERSIONS_SHAPE, to_versions, versions_document)
KIT: Kept[tuple[KitWindow, ...]] = Kept(KIT_SHAPE, to_kit, kit_document)
FIRST_LANES: Kept[tuple[PutFirst, ...]] = Kept(
    listed(record(lane=name(), last=maybe(day()))),
    lambda docs: tuple(PutFirst(**doc) for doc in docs),
    lambda lanes: [{"lane": o.lane, "last": o.last and o.last.isoformat()} for o in lanes],
)
KIT_SIZES: Kept[dict[str, float]] = Kept(by_name(number(above=0, high=400)), dict, dict)


def _check_terms(terms: Node) -> None:
    check_rung(terms["rung"])
    check_rule(terms["rule"])


def _to_terms(doc: dict[str, Any]) -> Terms:
    return Terms(shapes.to_rung({**doc["rung"], **doc["more"]}), shapes.to_rule(doc["rule"]))


def _terms_document(terms: Terms) -> dict[str, Any]:
    return {
        "rung": rung_document(terms.rung),
        "rule": rule_document(terms.rule),
        "more": along_document(terms.rung),
    }


_TERMS = record(rung=shapes.RUNG, rule=shapes.RULE, more=optional(record(**shapes.ALONG), {}))
TERMS: Kept[Terms] = Kept(_TERMS, _to_terms, _terms_document, _check_terms)

# the sets of a judged day; what was not measured is left out
_SETS = listed(
    record(**shapes.SET_FIELDS, voids=optional(whole(), 0), heard=optional(yes_no(), False))
)


def _sets_document(sets: tuple[SetResult, ...]) -> list[dict[str, Any]]:
    return [
        {
            key: value
            for key, value in asdict(s).items()
            # faults that nobody counted are written, none counted are not
            if (value is not None or key == "faults") and value != {} and value is not False
        }
        for s in sets
    ]


DAY_SETS: Kept[tuple[SetResult, ...]] = Kept(
    _SETS, lambda docs: tuple(SetResult(**doc) for doc in docs), _sets_document
)

# how the calls of a set were answered
_ANSWERS = (
    "hits",
    "misses",
    "false_alarms",
    "correct_leaves",
    "right",
    "choices",
    "carried_out",
    "late",
    "wrong_way",
)
READS: Kept[Answers] = Kept(
    record(**{name: optional(whole(), 0) for name in _ANSWERS}),
    lambda doc: Answers(**doc),
    asdict,
)

# practice after a day's dose was full: whether a coach or a device saw it, and its sets
_EXTRA = listed(record(observed=yes_no(), sets=_SETS))
EXTRA_WORK: Kept[tuple[tuple[bool, tuple[SetResult, ...]], ...]] = Kept(
    _EXTRA,
    lambda docs: tuple(
        (doc["observed"], tuple(SetResult(**s) for s in doc["sets"])) for doc in docs
    ),
    lambda work: [{"observed": observed, "sets": _sets_document(sets)} for observed, sets in work],
)

_OVERRIDES = record(
    dose=optional(record(sets=maybe(whole(1)), reps=maybe(whole(1)), rest_s=maybe(number())), {}),
    target=optional(record(makes=maybe(whole()), of=maybe(whole(1)), value=maybe(number())), {}),
    target_rung=maybe(whole()),
    rule=maybe(shapes.RULE),
)


def _to_overrides(doc: dict[str, Any]) -> Overrides:
    rule = shapes.to_rule(doc["rule"]) if doc["rule"] else None
    return Overrides(
        DoseChange(**doc["dose"]), TargetChange(**doc["target"]), doc["target_rung"], rule
    )


def _overrides_document(own: Overrides) -> dict[str, Any]:
    """Only what is different."""
    document = {
        "dose": {key: value for key, value in asdict(own.dose).items() if value is not None},
        "target": {key: value for key, value in asdict(own.target).items() if value is not None},
        "target_rung": own.target_rung,
        "rule": rule_document(own.rule) if own.rule else None,
    }
    return {key: value for key, value in document.items() if value not in ({}, None)}


OVERRIDES: Kept[Overrides] = Kept(_OVERRIDES, _to_overrides, _overrides_document)

_PROBES = listed(record(rung=whole(), attempts=whole(1), makes=whole()))
PROBES: Kept[tuple[Probe, ...]] = Kept(
    _PROBES,
    lambda docs: tuple(Probe(**doc) for doc in docs),
    lambda probes: [asdict(probe) for probe in probes],
)

_TOLD = record(
    key=text(),
    prescription=whole(),
    ladder=text(),
    title=text(),
    on=day(),
    order=whole(),
    minutes=whole(),
    place=text(),
    way=text(),
    dose=text(),
    target=text(),
    cancelled=yes_no(),
    sets=maybe(whole(1)),
    reps=maybe(whole(1)),
    stay=maybe(whole()),
    tired=optional(yes_no(), False),
)
TOLD_BLOCKS: Kept[tuple[ToldBlock, ...]] = Kept(
    listed(_TOLD),
    lambda docs: tuple(ToldBlock(**doc) for doc in docs),
    lambda blocks: [{**asdict(block), "on": block.on.isoformat()} for block in blocks],
)
TOLD_CHANGES: Kept[tuple[ToldChange, ...]] = Kept(
    listed(record(at=day(), lines=listed(text()))),
    lambda docs: tuple(ToldChange(doc["at"], tuple(doc["lines"])) for doc in docs),
    lambda changes: [
        {"at": change.at.isoformat(), "lines": list(change.lines)} for change in changes
    ],
)
WEEKDAYS: Kept[tuple[int, ...]] = Kept(listed(whole(0, 6)), tuple, list)

_STATION = record(
    name=name(),
    capacity=whole(1),
    roles=listed(name(), 1),
    s_per_rep=number(above=0),
    balls=maybe(whole(1)),
)
STATIONS: Kept[tuple[Station, ...]] = Kept(
    listed(_STATION),
    lambda docs: tuple(Station(**{**doc, "roles": tuple(doc["roles"])}) for doc in docs),
    lambda stations: [{**asdict(station), "roles": list(station.roles)} for station in stations],
)
SLOTS: Kept[tuple[dict[int, Spot], ...]] = Kept(
    listed(by_id(record(station=text(), role=text()))),
    lambda docs: tuple({int(who): Spot(**spot) for who, spot in doc.items()} for doc in docs),
    lambda slots: [{str(who): asdict(spot) for who, spot in slot.items()} for slot in slots],
)

_HELP = record(code=text(), on=maybe(day()), minutes=number())
_UNPLACED = record(id=text(), wanted=whole(), given=whole(), why=text(), help=_HELP)


def _to_unplaced(doc: dict[str, Any]) -> Unplaced:
    unmet = {key: value for key, value in doc.items() if key != "help"}
    return Unplaced(Unmet(**unmet), Help(**doc["help"]))


def _unplaced_document(one: Unplaced) -> dict[str, Any]:
    on = one.help.on.isoformat() if one.help.on else None
    return {**asdict(one.unmet), "help": {**asdict(one.help), "on": on}}


UNPLACED: Kept[tuple[Unplaced, ...]] = Kept(
    listed(_UNPLACED),
    lambda docs: tuple(map(_to_unplaced, docs)),
    lambda unplaced: [_unplaced_document(wish) for wish in unplaced],
)


@dataclass(frozen=True, slots=True)
class Section:
    """A part of a report: its title, and sentences as they were true when it was written."""

    title: str
    lines: tuple[str, ...]


SECTIONS: Kept[tuple[Section, ...]] = Kept(
    listed(record(title=text(), lines=listed(text()))),
    lambda docs: tuple(Section(doc["title"], tuple(doc["lines"])) for doc in docs),
    lambda sections: [
        {"title": section.title, "lines": list(section.lines)} for section in sections
    ],
)
