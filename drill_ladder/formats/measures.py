"""The ten measures as people read, type and store them, one object each: what a drill's author
chooses from, its numbers, how it is said, what is typed for it, and what its sets may hold. What is
computed of a measure stands with it in the core (judging/measures.py).
"""

from collections.abc import Callable
from dataclasses import asdict, dataclass, field, fields
from typing import Any

from drill_ladder.core.judging import (
    Checklist,
    Count,
    Done,
    Earned,
    Landing,
    Makes,
    Measure,
    Points,
    ScoreBy,
    Streak,
    Target,
    Time,
    ToN,
    UntilLost,
)
from drill_ladder.formats.node import Node
from drill_ladder.formats.sentences import plain
from drill_ladder.formats.shapes import (
    Shape,
    listed,
    maybe,
    name,
    number,
    one_of,
    optional,
    record,
    variants,
    whole,
)
from drill_ladder.formats.words import many, percent

MOST_EARNED = 1000


@dataclass(frozen=True)
class Tested:
    """A measure as a test. most: the largest believable result; label: beside the field of a trial;
    unit: after a result; whole: whether results are whole numbers; least: from how much on.
    """

    most: float
    label: str = "Result"
    unit: str = ""
    whole: bool = False
    least: Callable[[Any], float] = lambda m: 0.0


@dataclass(frozen=True)
class MeasureForm:
    """A measure at the edge.

    kind: the class in the core; label: in a drill's form; said, score, goal: in a few words, a
    score with its unit, a target's value; fields: what is typed of a set, in that order, with the
    words beside it; first: what a part of a plain drill asks until a coach says otherwise (common
    practice, no source); numbers: its own numbers' shapes; typed: their names in a drill's form,
    where they have other ones; dose: a dose of (measure, sets, reps) where it is told otherwise
    than in repetitions; unit, units: of a change, short and in full; learnt: of a gain over
    sessions, "" where it has an end and is told in points of it; test: how it is tested,
    None where it is not; trial: what one trial before a ladder asks; check: what
    the sets of a session may not hold together.
    """

    kind: type[Measure]
    label: str
    said: Callable[[Any], str]
    score: Callable[[Any, float], str]
    goal: Callable[[Any, float], str]
    fields: tuple[tuple[str, str], ...]
    first: Callable[[Any], Target]
    numbers: dict[str, Shape] = field(default_factory=dict)
    typed: dict[str, str] = field(default_factory=dict)
    dose: Callable[[Any, int, int | None], str] | None = None
    unit: str = "repetitions"
    units: str = "repetitions"
    learnt: str = ""
    test: "Tested | None" = None
    trial: Callable[[Any], str] | None = None
    check: Callable[[Node, Node], None] | None = None

    @property
    def typed_names(self) -> dict[str, str]:
        """Its numbers' names -> those of the fields in a drill's form."""
        return {number: self.typed.get(number, number) for number in self.numbers}


def _percent(_: Measure, score: float) -> str:
    return percent(score)


def _check_points(one: Node, measure: Node) -> None:
    points, attempts, top = one["points"].number, one["attempts"].number, measure["max"].number
    if points is None:
        return
    if one["attempts"].value is None:
        one["attempts"].refuse("is required beside points")
    elif attempts is not None and top is not None and points > top * attempts + 1e-9:
        one["points"].refuse(f"is more than {top:g} for each attempt")


def landing_words(measure: Points) -> str:
    """What brings how many points, as corner 3, side 2, out 0; "" where nothing is named."""
    return ", ".join(f"{one.name} {one.points}" for one in measure.landings)


def _check_ticks(one: Node, measure: Node) -> None:
    items, ticks = measure["items"].value, one["ticks"].number
    if ticks is not None and isinstance(items, list) and ticks > len(items):
        one["ticks"].refuse("is more than the checkpoints looked for")


def _check_run(one: Node, measure: Node) -> None:
    cap, run = measure["cap"].number, one["best_run"].number
    if cap is not None and run is not None and run > cap:
        one["best_run"].refuse(f"is more than the cap of {cap:g}")


def _check_race(one: Node, measure: Node) -> None:
    attempts, makes, wanted = one["attempts"].number, one["makes"].number, measure["n"].number
    reached = makes is None or (wanted is not None and makes >= wanted)
    if attempts is not None and wanted is not None and reached and attempts < wanted:
        one["attempts"].refuse(f"is fewer than the {wanted:g} good ones it collected")


def _check_lost(one: Node, measure: Node) -> None:
    attempts, makes = one["attempts"].number, one["makes"].number
    lost, cap = measure["lost"].number, measure["cap"].number
    if cap is not None and makes is not None and makes > cap:
        one["makes"].refuse(f"is more than the cap of {cap:g}")
    if None not in (attempts, makes, lost) and attempts - makes > lost:  # type: ignore[operator]
        one["attempts"].refuse(f"has more than the {lost:g} that end the set")


def _check_earned(one: Node, measure: Node) -> None:
    cap = measure["cap"].number
    for counted in (one["makes"], one["attempts"]):
        if cap is not None and counted.number is not None and counted.number > cap:
            counted.refuse(f"is more than the cap of {cap:g}")


def _are(number: int) -> str:
    return "is" if number == 1 else "are"


def _earns(measure: Earned) -> str:
    return f"each {measure.earn} good earn {measure.earn} more, {measure.cap} at most"


def _time_said(measure: Time) -> str:
    costs = f", {plain(measure.fault_penalty_s)}\u00a0s for each fault"
    of = f"seconds, the {measure.score_by.value} of the trials"
    return of + costs if measure.fault_penalty_s else of


MEASURES = (
    MeasureForm(
        Makes,
        "Good ones out of attempts",
        said=lambda m: "good ones out of attempts",
        score=_percent,
        goal=lambda m, v: f"{percent(v)} good",
        fields=(("makes", "Good ones"), ("attempts", "Attempts")),
        first=lambda m: Target(makes=7, of=10),
        test=Tested(1000.0, "Good ones", whole=True),
    ),
    MeasureForm(
        Points,
        "Points for each attempt",
        said=lambda m: f"{landing_words(m) or f'0 to {plain(m.max)}'} points an attempt",
        score=lambda m, v: f"{v:.2f} points",
        goal=lambda m, v: (
            f"{plain(v)} points an attempt ({landing_words(m) or f'of {plain(m.max)}'})"
        ),
        fields=(("points", "Points"), ("attempts", "Attempts")),
        first=lambda m: Target(value=0.7 * m.max),
        numbers={
            "max": number(above=0),
            "landings": optional(listed(record(name=name(40), points=whole(0, 100)), 0, 20), []),
        },
        typed={"max": "top"},
        unit="points an attempt",
        units="points",
        test=Tested(10_000.0, unit=" points"),
        check=_check_points,
    ),
    MeasureForm(
        Time,
        "Seconds",
        said=_time_said,
        score=lambda m, v: f"{v:.2f}\u00a0s",
        goal=lambda m, v: f"{plain(v)}\u00a0s or faster",
        fields=(("seconds", "Seconds"),),
        first=lambda m: Target(value=60),
        numbers={
            "score_by": optional(one_of("best", "mean", "median"), "best"),
            "fault_penalty_s": optional(number(), 0.0),
        },
        dose=lambda m, sets, reps: many(sets * (reps or 1), "timed trial"),
        unit="s",
        units="seconds",
        learnt="% less time",
        test=Tested(3600.0, "Seconds", "\u00a0s"),
        trial=lambda m: "Time in seconds",
    ),
    MeasureForm(
        Count,
        "Repetitions in a window",
        said=lambda m: f"repetitions in {plain(m.window_s)}\u00a0s, the {m.score_by.value} window",
        score=lambda m, v: f"{plain(v)} in {plain(m.window_s)}\u00a0s",
        goal=lambda m, v: f"{plain(v)} in {plain(m.window_s)}\u00a0s",
        fields=(("count", "Repetitions"),),
        first=lambda m: Target(value=10),
        numbers={
            "window_s": number(above=0),
            "score_by": optional(one_of("best", "mean"), "best"),
        },
        dose=lambda m, sets, reps: f"{many(sets, 'window')} of {plain(m.window_s)}\u00a0s",
        learnt="in a window",
        test=Tested(10_000.0),
        trial=lambda m: f"How many in {plain(m.window_s)} seconds",
    ),
    MeasureForm(
        Streak,
        "Longest run",
        said=lambda m: "the longest run",
        score=lambda m, v: f"{plain(v)} in a row",
        goal=lambda m, v: f"{plain(v)} in a row",
        fields=(("best_run", "Longest run"),),
        first=lambda m: Target(value=5),
        numbers={"cap": maybe(whole(1))},
        dose=lambda m, sets, reps: many(sets, "try", "tries"),
        learnt="in a row",
        test=Tested(10_000.0, "Longest run", " in a row", whole=True),
        trial=lambda m: "How many in a row",
        check=_check_run,
    ),
    MeasureForm(
        ToN,
        "Attempts until so many good ones",
        said=lambda m: f"attempts until {many(m.n, 'good one')}",
        score=lambda m, v: f"{plain(v)} attempts",
        goal=lambda m, v: f"{many(m.n, 'good one')} within {plain(v)} attempts",
        fields=(("attempts", "Attempts it took"),),
        first=lambda m: Target(value=2.0 * m.n),
        numbers={"n": whole(1)},
        dose=lambda m, sets, reps: f"{many(sets, 'set')} until {many(m.n, 'good one')}",
        learnt="% fewer attempts",
        test=Tested(10_000.0, "Attempts it took", " attempts", whole=True, least=lambda m: m.n),
        check=_check_race,
    ),
    MeasureForm(
        UntilLost,
        "Good ones until so many are lost",
        said=lambda m: f"good ones until {m.lost} {_are(m.lost)} lost",
        score=lambda m, v: f"{plain(v)} good",
        goal=lambda m, v: f"{plain(v)} good before {m.lost} {_are(m.lost)} lost",
        fields=(("makes", "Good ones"), ("attempts", "Attempts")),
        first=lambda m: Target(value=2.0 * m.lost),
        numbers={"lost": whole(1), "cap": maybe(whole(1))},
        dose=lambda m, sets, reps: f"{many(sets, 'set')} until {m.lost} {_are(m.lost)} lost",
        units="good ones",
        learnt="good ones",
        test=Tested(10_000.0, "Good ones", " good ones", whole=True),
        trial=lambda m: f"Good ones until {m.lost} {_are(m.lost)} lost",
        check=_check_lost,
    ),
    MeasureForm(
        Earned,
        "Good ones that earn more attempts",
        said=lambda m: f"good ones; {_earns(m)}",
        score=lambda m, v: f"{plain(v)} good",
        goal=lambda m, v: f"{plain(v)} good; {_earns(m)}",
        fields=(("makes", "Good ones"), ("attempts", "Attempts")),
        first=lambda m: Target(value=m.n),
        numbers={
            "n": whole(1, MOST_EARNED),
            "cap": whole(1, MOST_EARNED),
            "earn": optional(whole(1, MOST_EARNED), 2),
        },
        typed={"n": "first", "cap": "most"},
        dose=lambda m, sets, reps: f"{many(sets, 'set')} of {m.n} and what is earned",
        units="good ones",
        learnt="good ones",
        test=Tested(1000.0, "Good ones", " good ones", whole=True),
        trial=lambda m: f"Good ones; {_earns(m)}",
        check=_check_earned,
    ),
    MeasureForm(
        Checklist,
        "Checkpoints seen",
        said=lambda m: f"{many(len(m.items), 'checkpoint')} seen",
        score=_percent,
        goal=lambda m, v: f"{percent(v)} of {many(len(m.items), 'checkpoint')}",
        fields=(("ticks", "Checkpoints seen"),),
        first=lambda m: Target(value=0.8),
        numbers={"items": listed(name(), 1)},
        check=_check_ticks,
    ),
    MeasureForm(
        Done,
        "Share of the work done",
        said=lambda m: "the share of the work done",
        score=_percent,
        goal=lambda m, v: "all of it" if v >= 1 else f"{percent(v)} of it",
        fields=(("share", "Share done, %"),),
        first=lambda m: Target(value=1),
    ),
)
_BY_KIND = {form.kind.kind: form for form in MEASURES}

MEASURE: Shape = variants(
    "kind",
    **{kind: record(kind=one_of(kind), **form.numbers) for kind, form in _BY_KIND.items()},
)


def form_of(measure: Measure) -> MeasureForm:
    """A measure at the edge."""
    return _BY_KIND[measure.kind]


def form_named(kind: str) -> MeasureForm | None:
    """By the name in documents; None for a name that no measure has."""
    return _BY_KIND.get(kind)


def to_measure(doc: dict[str, Any]) -> Measure:
    """A validated measure as the core's value."""
    kind = _BY_KIND[doc["kind"]].kind
    reads: dict[str, Callable[[Any], Any]] = {
        "score_by": ScoreBy,
        "items": tuple,
        "landings": lambda rows: tuple(Landing(**row) for row in rows),
    }
    values = {key: value for key, value in doc.items() if key != "kind"}
    return kind(**{key: reads.get(key, _as_it_is)(value) for key, value in values.items()})


def _as_it_is(value: Any) -> Any:
    return value


def measure_document(measure: Measure) -> dict[str, Any]:
    """The measure, every number named."""
    document: dict[str, Any] = {"kind": measure.kind}
    for one in fields(measure):
        value = getattr(measure, one.name)
        if value is not None and value != ():  # a streak without a cap, points without landings
            document[one.name] = _written(value)
    return document


def _written(value: Any) -> Any:
    if not isinstance(value, tuple):
        return value
    return [asdict(one) if isinstance(one, Landing) else one for one in value]


def measure_words(measure: Measure) -> str:
    """How a drill is scored, in a few words."""
    return form_of(measure).said(measure)


def score_words(measure: Measure, score: float | None) -> str:
    """A score with its unit."""
    return "not measured" if score is None else form_of(measure).score(measure, score)


def band_words(measure: Measure, band: tuple[float, float]) -> str:
    """An expected success band: 20 % to 40 %."""
    low, high = (score_words(measure, end) for end in band)
    return f"{low} to {high}"


def goal_words(measure: Measure, target: Target) -> str:
    """What a target asks: 8 of 10, 12 s or faster."""
    if target.makes is not None:
        return f"{target.makes} of {target.of}"
    return form_of(measure).goal(measure, target.value or 0.0)


def change_words(measure: Measure) -> tuple[float, str, str]:
    """What a change is told in: (times what the score is, unit in short, unit in full)."""
    if measure.is_share:
        return 100, "points of a hundred", "of a hundred"
    form = form_of(measure)
    return 1, form.unit, form.units
