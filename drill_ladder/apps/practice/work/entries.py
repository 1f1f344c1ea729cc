"""What a log asks of each set and lane: its numbers, by kind of measure, asked about once more
where they cannot be (never refused for good: a slip of the thumb would climb a ladder); the
technique that was seen, faults by name, bad feeds.

What nobody looked at or counted is unknown, and stays so: it is not clean.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import islice, product
from typing import Any

from django import forms

from drill_ladder.apps.library.models import Drill, LanesAre
from drill_ladder.core.judging import Points, Rung, asks_for_faults
from drill_ladder.core.plans import Plan, implausible, mean_speed, swapped
from drill_ladder.formats import measures
from drill_ladder.formats.reading import whole
from drill_ladder.formats.work_words import MOST_FAULTS
from drill_ladder.ui.fields import FormValues, Line, Number, Whole

MOST_ROWS = 200  # of one page: a phone has to show them, and a server to read them
HOUR = 3600.0
FASTEST_HANDS = 10.0  # repetitions a second: our choice, over anything a hand does
MANY_TIMES = 5  # as often as asked


@dataclass(frozen=True, slots=True)
class Entry:
    """One set in one lane. asked: attempts (makes, points) of it, else None; said: the lane as this
    player is told it, where that is another word.
    """

    prefix: str
    lane: str
    number: int
    asked: int | None
    sets: int
    said: str = ""

    @property
    def title(self) -> str:
        """Left, set 2."""
        lane = self.said or self.lane
        parts = [lane.capitalize()] if lane else []
        if self.sets > 1:
            parts.append(f"set {self.number}" if parts else f"Set {self.number}")
        return ", ".join(parts) or "All of it"


def entries_for(rung: Rung, mirrored: bool = False) -> list[Entry]:
    """The entries of a rung: set by set, lane by lane inside a set; the first MOST_ROWS of them.
    mirrored: for a left-hander.
    """
    sets, lanes = rung.measure.trials(rung.dose), rung.lanes or ("",)
    asked = (rung.reps_per_set or 10) if rung.measure.counts_attempts else None
    pairs = islice(product(range(1, sets + 1), lanes), MOST_ROWS)
    return [
        Entry(f"e{i}", lane, number, asked, sets, swapped(lane) if mirrored else "")
        for i, (number, lane) in enumerate(pairs)
    ]


def entries_beyond(rung: Rung) -> int:
    """How many entries a page does not take at once: those are for the next time it is opened."""
    return max(0, rung.measure.trials(rung.dose) * max(1, len(rung.lanes)) - MOST_ROWS)


def fields_for(rung: Rung) -> tuple[tuple[str, str], ...]:
    """The measured fields of one entry."""
    return measures.form_of(rung.measure).fields


def questions(
    values: dict[str, Any], rung: Rung, asked: int | None, plan: Plan | None
) -> Iterator[tuple[str, str]]:
    """(field, what is asked) of one set."""
    seconds, count, attempts = (values.get(key) for key in ("seconds", "count", "attempts"))
    if seconds is not None:
        yield from _of_seconds(seconds, plan)
    if count is not None and rung.measure.window:
        yield from _of_count(count, rung.measure.window, plan)
    if attempts is not None and asked and attempts > MANY_TIMES * asked:
        yield "attempts", f"{attempts} attempts where {asked} are asked."


def _of_seconds(seconds: float, plan: Plan | None) -> Iterator[tuple[str, str]]:
    if seconds == 0:
        yield "seconds", "Nothing takes no time at all."
    elif seconds > HOUR:
        yield "seconds", "That is over an hour."
    elif plan is not None and plan.legs and implausible(plan, seconds):
        speed = f"{mean_speed(plan, seconds):.1f}"
        yield "seconds", f"That would be {speed}\u00a0m/s over this floor plan."


def _of_count(count: float, window_s: float, plan: Plan | None) -> Iterator[tuple[str, str]]:
    """A count over a path implies a speed, one without it a pace."""
    if count / window_s > FASTEST_HANDS:
        yield "count", f"That would be {count / window_s:.0f} a second."
    elif count and plan is not None and plan.legs and implausible(plan, window_s / count):
        speed = f"{mean_speed(plan, window_s / count):.1f}"
        yield "count", f"That would be {speed}\u00a0m/s over this floor plan."


MOST_ENTRIES = 12  # with more rows the technique is asked once for all of them
MOST = 100_000
ALL = Entry("all", "", 1, None, 1)
COUNTED = [("", "Not counted"), ("yes", "Counted")]


@dataclass(frozen=True, slots=True)
class Asked:
    """What a rung asks beside its counts. checkpoints, faults: the drill's, by their own words;
    fed: whether somebody feeds; for_form: whether the rung has a form minimum; for_faults: whether
    faults nobody counted keep it from being passed; mirrored: shown for a left-hander, and kept in
    the drill's own words; counted_sign: in a row of strokes, that
    faults were counted; worn: what has to be worn, and ticked;
    only_fresh: never done tired.
    """

    checkpoints: tuple[str, ...] = ()
    faults: tuple[str, ...] = ()
    fed: bool = False
    for_form: bool = False
    for_faults: bool = False
    mirrored: bool = False
    counted_sign: str | None = None
    worn: tuple[str, ...] = ()
    only_fresh: bool = False

    @classmethod
    def of(cls, drill: Drill, rung: Rung, left_handed: bool = False) -> "Asked":
        """By the drill that is worked on and the terms in force."""
        return cls(
            tuple(drill.checkpoints),
            tuple(drill.faults[:MOST_FAULTS]),
            drill.fed,
            rung.target.form_min is not None,
            asks_for_faults(rung),
            left_handed and drill.lanes_are == LanesAre.SIDES,
            _counted_sign(rung),
            tuple(drill.worn),
            drill.only_fresh,
        )

    @property
    def labels(self) -> list[str]:
        """The checkpoints as they are shown."""
        return [swapped(words) if self.mirrored else words for words in self.checkpoints]

    @property
    def by_share(self) -> bool:
        """Whether form is typed as a share, as there is nothing to tick."""
        return self.for_form and not self.checkpoints

    @property
    def anything(self) -> bool:
        """Whether there is anything to ask."""
        return bool(self.checkpoints or self.faults or self.fed or self.for_form)


def _counted_sign(rung: Rung) -> str | None:
    """A stroke pad counts faults with every stroke, and so do keys that name where it ended;
    whoever times says so with a c; nobody else does.
    """
    named = isinstance(rung.measure, Points) and rung.measure.landings
    if rung.counts_makes or named:
        return ""
    return "c" if rung.measure.is_timed else None


def entries_asked(entries: list[Entry]) -> list[Entry]:
    """Set by set; once for all of them where there are many."""
    return entries if len(entries) <= MOST_ENTRIES else [ALL]


def add_fields(fields: dict[str, forms.Field], asked: Asked, entries: list[Entry]) -> None:
    """The fields of every entry, and those of the session."""
    if asked.by_share:
        fields["form_share"] = Number(
            label="Technique that looked right, %", min_value=0, max_value=100, required=False
        )
    if asked.worn:
        fields["worn"] = worn_field(asked.worn)
    if asked.only_fresh:
        del fields["tired"]
    if asked.fed:
        fields["feeder"] = Line(label="Who fed?", max_length=60, required=False)
    for entry in entries_asked(entries):
        for key, field in _fields_of(asked):
            fields[f"{entry.prefix}-{key}"] = field


def worn_field(worn: tuple[str, ...]) -> forms.Field:
    """Each piece ticked by itself; whoever stores it asks for all of them."""
    return forms.MultipleChoiceField(
        label="Worn now",
        choices=[(words, words) for words in worn],
        widget=forms.CheckboxSelectMultiple,
        required=False,
    )


def _fields_of(asked: Asked) -> Iterator[tuple[str, forms.Field]]:
    if asked.checkpoints:
        yield (
            "seen",
            forms.MultipleChoiceField(
                label="Technique",
                choices=[(str(i), words) for i, words in enumerate(asked.labels)],
                widget=forms.CheckboxSelectMultiple,
                required=False,
            ),
        )
        yield "looked", forms.BooleanField(label="I looked, and saw no other", required=False)
    for i, fault in enumerate(asked.faults):
        yield f"fault-{i}", Whole(label=fault, min_value=0, max_value=MOST, required=False)
    if asked.faults or asked.for_faults:
        yield "counted", forms.ChoiceField(label="Faults", choices=COUNTED, required=False)
    if asked.fed:
        yield "voids", Whole(label="Bad feeds", min_value=0, max_value=MOST, required=False)


def rows(form: forms.Form, asked: Asked, entries: list[Entry]) -> Iterator[FormValues]:
    """What the page shows of every entry."""
    for entry in entries_asked(entries):
        named = dict(_fields_of(asked))
        bound = {key: form[f"{entry.prefix}-{key}"] for key in named}
        title = "Every set" if entry is ALL else entry.title
        yield {
            "title": title,
            "seen": bound.get("seen"),
            "looked": bound.get("looked"),
            "faults": [bound[key] for key in named if key.startswith("fault-")],
            "counted": bound.get("counted"),
            "voids": bound.get("voids"),
        }


def read(
    data: Mapping[str, Any], asked: Asked, entry: Entry, entries: list[Entry], pad: str
) -> FormValues:
    """What was said of one set: seen, faults, voids, feeder. pad: faults as the stroke pad counted
    them, late:2;wide:1.
    """
    prefix = entry.prefix if entries_asked(entries) is entries else ALL.prefix
    values: FormValues = {"faults": _faults(data, asked, prefix, pad, entry.prefix)}
    seen = data.get(f"{prefix}-seen") or []
    if seen or data.get(f"{prefix}-looked"):
        values["seen"] = [asked.checkpoints[int(i)] for i in seen]
    if asked.fed:
        tapped = (data.get(f"{entry.prefix}-strokes") or "").count("v")
        values["voids"] = max(data.get(f"{prefix}-voids") or 0, tapped)
        values["feeder"] = data.get("feeder") or ""
    return values


def _faults(
    data: Mapping[str, Any], asked: Asked, prefix: str, pad: str, own: str
) -> dict[str, int] | None:
    """Counts by name; None where nobody counted. A stroke pad counts the faults of every miss."""
    typed = {
        fault: data.get(f"{prefix}-fault-{i}")
        for i, fault in enumerate(asked.faults)
        if data.get(f"{prefix}-fault-{i}") is not None
    }
    counted = {fault: times for fault, times in typed.items() if times}
    for part in pad.split(";"):
        name, _, times = part.rpartition(":")
        number = whole(times, 0, MOST)
        if name.strip() and number:
            key = name.strip()[:60]
            counted[key] = max(counted.get(key, 0), number)
    looked = bool(typed) or data.get(f"{prefix}-counted") == "yes"
    strokes = data.get(f"{own}-strokes") or ""
    sign = asked.counted_sign
    if counted or looked or (strokes and sign is not None and sign in strokes):
        return counted
    return None


def form_of(asked: Asked, data: Mapping[str, Any], sets: list[FormValues]) -> float | None:
    """The session's form, 0..1: the share of checkpoints seen in the sets that somebody looked at,
    by their attempts; None where nobody looked.
    """
    if asked.by_share:
        share = data.get("form_share")
        return None if share is None else share / 100
    return form_share(sets, len(asked.checkpoints))


def form_share(sets: Sequence[FormValues], checkpoints: int) -> float | None:
    """The share of so many checkpoints that was seen in the sets that somebody looked at, by their
    attempts; None where nobody looked.
    """
    looked = [one for one in sets if one.get("seen") is not None]
    if not looked or not checkpoints:
        return None
    weights = [look.get("attempts") or 1 for look in looked]
    shares = [len(look["seen"]) / checkpoints for look in looked]
    return sum(w * s for w, s in zip(weights, shares, strict=True)) / sum(weights)
