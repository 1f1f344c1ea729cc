"""The shapes of measures, targets, rules, rungs, ladders and sessions: one reader for every place
they appear.
"""

from collections.abc import Callable
from typing import Any

from drill_ladder.core.judging import (
    ByAge,
    ByCoach,
    Caller,
    Cue,
    Dose,
    Evidence,
    InARow,
    Intent,
    Ladder,
    Mode,
    Observer,
    Rule,
    Rung,
    School,
    Session,
    SetResult,
    Target,
    Trust,
    Volume,
    Way,
    Window,
)
from drill_ladder.formats.measures import MEASURE, to_measure
from drill_ladder.formats.rung_fields import shapes_in
from drill_ladder.formats.shapes import (
    chance,
    counts,
    day,
    listed,
    maybe,
    name,
    number,
    one_of,
    optional,
    or_null,
    rate,
    record,
    text,
    variants,
    whole,
    yes_no,
)

TARGET, DOSE = record(**shapes_in("target")), record(**shapes_in("dose"))
_OWN = shapes_in("")

_GATES = {
    "min_days_between": optional(whole(), 1),
    "min_sessions": optional(whole(), 1),
    "trust": optional(one_of("any", "last_pass_observed", "observed_only"), "any"),
    "low_in_a_row": optional(whole(1), 2),
    "stall_after": optional({"type": "nullable", "schema": whole(1)}, 6),
    "skip_at": optional({"type": "nullable", "schema": rate()}, 0.95),
    "layoff_days": optional({"type": "nullable", "schema": whole(1)}, 21),
    "min_share": optional(rate(), 0.8),
}

RULE = variants(
    "school",
    one_pass=record(school=one_of("one_pass"), **_GATES),
    in_a_row=record(school=one_of("in_a_row"), passes=whole(1), **_GATES),
    window=record(school=one_of("window"), passes=whole(1), of=whole(1), **_GATES),
    evidence=record(
        school=one_of("evidence"), confidence=chance(), half_life=number(above=0), **_GATES
    ),
    volume=record(
        school=one_of("volume"), reps=maybe(whole(1)), sessions=maybe(whole(1)), **_GATES
    ),
    by_coach=record(school=one_of("by_coach"), **_GATES),
)

RUNG = record(
    id=name(),
    title=optional(text(), ""),
    measure=MEASURE,
    lanes=optional(listed(name()), []),
    dose=DOSE,
    target=TARGET,
    floor=_OWN.pop("floor"),
    ease=maybe(record(note=text())),
    axis=optional(listed(name()), []),
    rule=maybe(RULE),
)

LADDER = record(rungs=listed(RUNG, 1), rule=RULE)

# What goes along with a rung without being judged, in files and in stored terms, not on the command
# line.
_CUE = record(name=name(), action=optional(text(), ""), by=optional(text(), ""))
CALLER = record(
    cues=listed(_CUE, 1),
    mode=optional(one_of("known", "serial", "random"), "random"),
    every_s=optional(number(0.5, 60), 4.0),
    spread=optional(number(0, 0.9), 0.25),
    leave=optional(number(0, 0.9), 0.0),
    late_s=maybe(number(above=0, high=30)),
    late_at=optional(text(), ""),
    late_speed=maybe(number(above=0, high=30)),
    way=optional(one_of("voice", "word", "arrow"), "voice"),
    clash=optional(yes_no(), False),
)
ALONG = _OWN | {"caller": maybe(CALLER)}

SET_FIELDS = {
    "lane": maybe(name()),
    "attempts": maybe(whole()),
    "makes": maybe(whole()),
    "points": maybe(number()),
    "seconds": maybe(number()),
    "count": maybe(number()),
    "best_run": maybe(whole()),
    "ticks": maybe(whole()),
    "share": maybe(rate()),
    "faults": optional(or_null(counts()), {}),
}
SET = record(**SET_FIELDS)

SESSION = record(
    on=day(),
    observer=one_of("coach", "device", "helper", "ear", "self"),
    eased=optional(yes_no(), False),
    tired=optional(yes_no(), False),
    extra=optional(yes_no(), False),
    form=maybe(rate()),
    sets=listed(SET),
)

Doc = dict[str, Any]


def to_school(doc: Doc) -> School:
    """A validated rule's school."""
    match doc["school"]:
        case "one_pass":
            return InARow(1)
        case "in_a_row":
            return InARow(doc["passes"])
        case "window":
            return Window(doc["passes"], doc["of"])
        case "evidence":
            return Evidence(doc["confidence"], doc["half_life"])
        case "by_coach":
            return ByCoach()
        case _:
            return Volume(doc["reps"], doc["sessions"])


def to_rule(doc: Doc) -> Rule:
    """A validated rule as the core's value."""
    gates = {key: doc[key] for key in _GATES}
    return Rule(to_school(doc), **{**gates, "trust": Trust(doc["trust"])})


def to_rung(doc: Doc) -> Rung:
    """A validated rung as the core's value."""
    return Rung(
        id=doc["id"],
        measure=to_measure(doc["measure"]),
        dose=Dose(**doc["dose"]),
        target=Target(**doc["target"]),
        title=doc["title"],
        lanes=tuple(doc["lanes"]),
        floor=doc["floor"],
        ease=doc["ease"]["note"] if doc["ease"] else None,
        axis=tuple(doc["axis"]),
        rule=to_rule(doc["rule"]) if doc["rule"] else None,
        **to_along(doc),
    )


def to_along(doc: Doc) -> dict[str, Any]:
    """What goes along with a rung, as the core has it; what the document leaves out is left to the
    core's defaults.
    """
    reads: dict[str, Callable[[Any], Any]] = {
        "intent": Intent,
        "success": lambda band: tuple(band) if band else None,
        "turns": tuple,
        "feeds": tuple,
        "by_age": to_ages,
        "caller": lambda caller: to_caller(caller) if caller else None,
    }
    return {key: reads.get(key, lambda value: value)(doc[key]) for key in ALONG if key in doc}


def to_ages(docs: list[Doc]) -> tuple[ByAge, ...]:
    """Validated steps by age as the core has them."""
    return tuple(ByAge(**doc) for doc in docs)


def to_caller(doc: Doc) -> Caller:
    """A validated caller as the core's value."""
    cues = tuple(Cue(**cue) for cue in doc["cues"])
    return Caller(**{**doc, "cues": cues, "mode": Mode(doc["mode"]), "way": Way(doc["way"])})


def to_ladder(doc: Doc) -> Ladder:
    """A validated ladder as the core's value."""
    return Ladder(tuple(to_rung(r) for r in doc["rungs"]), to_rule(doc["rule"]))


def to_session(doc: Doc) -> Session:
    """A validated session as the core's value."""
    sets = tuple(SetResult(**s) for s in doc["sets"])
    keys = ("eased", "form", "tired", "extra")
    return Session(doc["on"], Observer(doc["observer"]), sets, **{key: doc[key] for key in keys})
