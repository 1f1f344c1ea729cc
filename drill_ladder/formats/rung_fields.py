"""The fields of a rung, each described once.

From this table come the shape of its document and its reader (ladder_shapes), the builder's form
and how a row of it opens and is read (apps/library/ladders/rung_form), what two coaches who changed
it at once are told (differences), and what is said of it wherever the work stands. A new field is a
row here, an attribute of the core's `Rung`, and a column.

What has parts of its own (the caller, a rule, a floor plan, the axes) has its own module; its names
stand in `PARTS`.
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from enum import StrEnum
from typing import Any, Literal

from drill_ladder.core.judging import Intent, Measure, Rung
from drill_ladder.formats.age_words import (
    LONGEST_STEP,
    MOST_STEPS,
    OLDEST,
    YOUNGEST,
    ages_text,
)
from drill_ladder.formats.measures import band_words
from drill_ladder.formats.rung_parts import PARTS
from drill_ladder.formats.sentences import plain
from drill_ladder.formats.shapes import (
    Shape,
    listed,
    maybe,
    name,
    number,
    one_of,
    optional,
    pair,
    rate,
    record,
    whole,
    yes_no,
)
from drill_ladder.formats.words import tempo_words


class Kind(StrEnum):
    """What a field holds."""

    WHOLE = "whole"
    NUMBER = "number"
    SHARE = "share"  # 0 to 1, typed as a percentage
    SCORE = "score"  # in the measure's unit: a share where good ones are counted
    BAND = "band"  # of two scores
    WORD = "word"  # one of a few
    YES = "yes"
    LANES = "lanes"  # lanes of the rung, in an order
    NAMES = "names"  # a few names of the coach's own, in an order
    AGES = "ages"  # what differs by age, from young to old


Where = Literal["numbers", "ease", "more"]
Say = Callable[[Any, Rung], str]


@dataclass(frozen=True, slots=True)
class RungField:
    """One field.

    path: the way to it through the core's `Rung`, which is its way through the document too;
    label: in the builder, with its unit; told: in the words of two coaches who changed it; low,
    high: bounds of what is stored, above: must be more than this; most: of what can be typed, where
    that is less; default: what stands where nothing was told; choices: values with their words, for
    who types; typed: its name in the form, else the last part of the path; only: measures that have
    it ("makes": those that count good ones, "value": the others); where: its place in the builder;
    folds_out: whether it opens the folded part; says: what it adds to what is said of the rung, ""
    for nothing (None: the dose or the target says it); for_player: whether that is said to the
    player as well.
    """

    path: str
    kind: Kind
    label: str
    told: str
    low: float = 0
    high: float | None = None
    above: float | None = None
    most: float | None = None
    default: Any = None
    choices: tuple[tuple[str, str], ...] = ()
    typed: str = ""
    only: Literal["", "makes", "value"] = ""
    where: Where = "numbers"
    folds_out: bool = True
    says: Say | None = None
    for_player: bool = False

    @property
    def key(self) -> str:
        """Its name among its neighbours: the last part of its path."""
        return self.path.rpartition(".")[2]

    @property
    def part(self) -> str:
        """The part of the rung that it stands in: dose, target, or "" for the rung itself."""
        return self.path.rpartition(".")[0]

    @property
    def name(self) -> str:
        """Its name in the form."""
        return self.typed or self.key

    @property
    def shape(self) -> Shape:
        """How it is written in a document."""
        inner = _SHAPES[self.kind](self)
        return maybe(inner) if self.default is None else optional(inner, self.default)

    def of(self, rung: Rung) -> Any:
        """Its value in a rung."""
        return getattr(getattr(rung, self.part) if self.part else rung, self.key)


def _numbers(field: RungField) -> Shape:
    high = {} if field.high is None else {"high": field.high}
    return number(field.low, above=field.above, **high)


_SHAPES: dict[Kind, Callable[[RungField], Shape]] = {
    Kind.WHOLE: lambda field: whole(int(field.low)),
    Kind.NUMBER: _numbers,
    Kind.SHARE: lambda field: rate() if field.above is None else number(above=0, high=1),
    Kind.SCORE: lambda field: number(),
    Kind.BAND: lambda field: pair(number()),
    Kind.WORD: lambda field: one_of(*(value for value, _ in field.choices)),
    Kind.YES: lambda field: yes_no(),
    Kind.LANES: lambda field: listed(name(), 0, MOST_TURNS),
    Kind.NAMES: lambda field: listed(name(LONGEST_FEED), 0, MOST_FEEDS),
    Kind.AGES: lambda field: listed(
        record(to=maybe(whole(YOUNGEST, OLDEST)), how=name(LONGEST_STEP)), 0, MOST_STEPS
    ),
}


def _intent(intent: Intent, rung: Rung) -> str:
    return {Intent.SPEED: "for speed", Intent.ENDURANCE: "for endurance"}.get(
        intent, "under pressure" if intent is Intent.PRESSURE else ""
    )


def _tempo(tempo: float, rung: Rung) -> str:
    words, high = tempo_words(tempo), rung.tempo_high
    if high is None or high <= tempo:
        return words
    return f"{words}, up to {tempo_words(high).removeprefix('at ')} while clean"


def _expected(band: tuple[float, float], rung: Rung) -> str:
    return f"expected here: {band_words(rung.measure, band)}"


INTENTS = (
    ("skill", "Skill"),
    ("speed", "Speed"),
    ("endurance", "Endurance"),
    ("pressure", "Pressure"),
)
TEMPOS = (("0.5", "half speed"), ("0.75", "three quarters"), ("1.0", "full speed"))
W, N, S = Kind.WHOLE, Kind.NUMBER, Kind.SHARE
MOST = 1000
MOST_TURNS = 24  # attempts, until an order of lanes begins again
MOST_FEEDS = 8
LONGEST_FEED = 40  # letters
MOST_A_SECOND = 6  # hits that an ear can tell apart (docs/methods.md, 46)

FIELDS: tuple[RungField, ...] = (
    RungField("dose.sets", W, "Sets", "sets", low=1, most=50, default=1),
    RungField("dose.reps", W, "Attempts", "reps", low=1, most=MOST),
    RungField("dose.rest_s", N, "Rest, s", "rest in s", default=0.0),
    RungField("target.makes", W, "Good ones", "target, good ones", most=MOST, only="makes"),
    RungField("target.of", W, "of", "target, of attempts", low=1, most=MOST, only="makes"),
    RungField("target.value", Kind.SCORE, "Target", "target", only="value"),
    RungField("floor", Kind.SCORE, "Floor", "low below"),
    RungField(
        "target.each_lane",
        Kind.YES,
        "In each lane",
        "target in each lane",
        default=False,
        where="ease",
    ),
    RungField("reps_high", W, "Attempts, up to", "reps, at most", low=1, most=MOST, where="more"),
    RungField("sets_high", W, "Sets, up to", "sets, at most", low=1, most=50, where="more"),
    RungField("minutes", W, "Or in minutes", "minutes", low=1, most=240, where="more"),
    RungField(
        "dose.s_per_rep",
        N,
        "Seconds each",
        "seconds each",
        above=0,
        most=600,
        where="more",
        folds_out=False,
    ),
    RungField(
        "dose.stop_drop",
        S,
        "Stops when slower by, %",
        "ends when slower by",
        above=0,
        only="value",
        where="more",
    ),
    RungField(
        "intent",
        Kind.WORD,
        "What it is for",
        "what it is for",
        default="skill",
        choices=INTENTS,
        where="more",
        says=_intent,
        for_player=True,
    ),
    RungField(
        "tempo",
        N,
        "Tempo",
        "tempo",
        above=0,
        high=1,
        choices=(("", "any"), *TEMPOS),
        where="more",
        says=_tempo,
        for_player=True,
    ),
    RungField(
        "tempo_high",
        N,
        "Tempo, up to",
        "tempo, up to",
        above=0,
        high=1,
        choices=(("", "no higher"), *TEMPOS),
        where="more",
    ),
    RungField("target.form_min", S, "Form at least, %", "technique at least", where="more"),
    RungField("target.faults_max", W, "Faults at most", "faults at most", most=MOST, where="more"),
    RungField("success", Kind.BAND, "Expected from", "expected here", where="more", says=_expected),
    RungField(
        "turns",
        Kind.LANES,
        "Lanes in turn, as left, right",
        "lanes in turn",
        default=[],
        where="more",
        says=lambda turns, rung: f"in turn: {', '.join(turns)}" if turns else "",
        for_player=True,
    ),
    RungField(
        "rest_each_s",
        N,
        "Rest between attempts, s",
        "rest between attempts in s",
        above=0,
        high=600,
        where="more",
        says=lambda rest, rung: f"{plain(rest)}\u00a0s between any two",
        for_player=True,
    ),
    RungField(
        "rest_ready",
        Kind.YES,
        "Rest until ready, at least that long",
        "rest until ready",
        default=False,
        where="more",
        says=lambda ready, rung: "then until you are ready" if ready else "",
        for_player=True,
    ),
    RungField(
        "slow_first_s",
        N,
        "A slow one first in each set, then rest, s",
        "a slow one first, rest after it in s",
        above=0,
        high=600,
        where="more",
        says=lambda rest, rung: f"each set: one slowly, not counted, then {plain(rest)}\u00a0s",
        for_player=True,
    ),
    RungField(
        "finish_good",
        W,
        "Good ones to finish each set, not counted",
        "good ones to finish each set",
        low=1,
        most=20,
        where="more",
        says=lambda good, rung: f"each set ends with {good} good, not counted",
        for_player=True,
    ),
    RungField(
        "ease_faults",
        W,
        "Offers easier from faults of one kind",
        "offers easier from faults of one kind",
        low=2,
        most=20,
        where="more",
        says=lambda faults, rung: f"the easier way is offered from {faults} faults of one kind on",
    ),
    RungField(
        "by_age",
        Kind.AGES,
        "By age, as to 8: 3 m, older: 5 m",
        "by age",
        default=[],
        where="more",
        says=lambda steps, rung: f"by age: {ages_text(steps)}" if steps else "",
    ),
    RungField(
        "feeds",
        Kind.NAMES,
        "Feeds, gentle first, as rolled, hit",
        "feeds",
        default=[],
        where="more",
        says=lambda feeds, rung: (
            f"feed: {', then '.join(feeds)}; a pass needs the last" if feeds else ""
        ),
    ),
    RungField(
        "hits_a_second",
        N,
        "By ear: most hits a second",
        "by ear, most hits a second",
        above=0,
        high=MOST_A_SECOND,
        where="more",
        folds_out=False,
    ),
    RungField(
        "silence_s",
        N,
        "By ear: a silence ends it, s",
        "by ear, a silence that ends it, s",
        above=0,
        high=30,
        where="more",
        folds_out=False,
    ),
)

TOLD = {field.path: field.told for field in FIELDS} | PARTS


def fields_in(part: str) -> Iterator[RungField]:
    """Those of the dose, of the target, or ("") of the rung itself."""
    return (field for field in FIELDS if field.part == part)


def shapes_in(part: str) -> dict[str, Shape]:
    """Their shapes by their keys."""
    return {field.key: field.shape for field in fields_in(part)}


def said_of(rung: Rung, for_player: bool) -> list[str]:
    """What the fields say of a rung beside the dose and the target themselves, those that say
    something: to the player, with the dose; or to the coach alone.
    """
    fields = (one for one in FIELDS if one.says and one.for_player == for_player)
    said = (_said(field, rung) for field in fields)
    return [words for words in said if words]


def _said(field: RungField, rung: Rung) -> str:
    value = field.of(rung)
    return "" if value is None or field.says is None else field.says(value, rung)


def in_unit(what: str) -> Say:
    """Says a number in its unit: in_unit("{} m of run-up")."""
    return lambda value, rung: what.format(plain(value)).replace(" ", "\u00a0", 1)


def is_share(field: RungField, measure: Measure) -> bool:
    """Whether it is typed as a percentage and stored as a share."""
    of_score = field.kind in (Kind.SCORE, Kind.BAND)
    return field.kind is Kind.SHARE or (of_score and measure.counts_makes)
