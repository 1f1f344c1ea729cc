"""The form behind a card: counted by strokes or typed, it is the same form."""

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import astuple, replace
from typing import Any
from uuid import uuid4, uuid5

from django import forms

from drill_ladder.apps.practice.models import Session, SetRow
from drill_ladder.apps.practice.sessions.services import SessionInput, SetInput
from drill_ladder.apps.practice.stops import MOST, words_of_hurt
from drill_ladder.apps.practice.work import (
    Asked,
    Entry,
    add_fields,
    entries_beyond,
    entries_for,
    fields_for,
    form_of,
    questions,
    read,
    rows,
)
from drill_ladder.core.coaching import Answers
from drill_ladder.core.hall import AS_ASKED, EASIER, LONGEST_REST_S, VOID, TapSet, fold_row
from drill_ladder.core.judging import Rung
from drill_ladder.core.plans import Plan
from drill_ladder.formats.reading import whole
from drill_ladder.formats.rung_fields import LONGEST_FEED
from drill_ladder.ui.fields import Cut, Days, FormValues, Line, Number, Prose, Whole

EASED = {"yes": True, "no": False}
STEADY = {"y": True, "n": False}
MOST_CALLS = 1000
MOST_HEARD = 9999


def told_beside(prefix: str, data: Mapping[str, Any]) -> FormValues:
    """The values of a set that an instrument wrote into hidden fields; what cannot be read is left
    out.
    """
    return {
        "eased": EASED.get(data.get(f"{prefix}-eased") or ""),
        "tempo": _tempo(data.get(f"{prefix}-tempo") or ""),
        "reads": _answers(data.get(f"{prefix}-reads") or ""),
        "rested_s": whole(data.get(f"{prefix}-rested") or "", 0, LONGEST_REST_S),
        "feed": (data.get(f"{prefix}-feed") or "")[:LONGEST_FEED] or None,
    } | _by_ear(data.get(f"{prefix}-heard") or "")


def kept_beside(prefix: str, row: SetRow, rung: Rung) -> FormValues:
    """What the hidden fields hold of a stored set, so that it keeps them when it is put right."""
    eased = {True: "yes", False: "no", None: ""}[row.eased]
    tempo = "" if row.tempo is None else f"{100 * row.tempo:.0f}"
    reads = "" if row.reads is None else ",".join(map(str, astuple(row.reads)))
    return {
        f"{prefix}-eased": eased,
        f"{prefix}-tempo": tempo,
        f"{prefix}-reads": reads,
        f"{prefix}-heard": _heard(row),
        f"{prefix}-rested": "" if row.rested_s is None else f"{row.rested_s}",
        f"{prefix}-feed": row.feed or "".join(rung.feeds[-1:]),
    }


def _heard(row: SetRow) -> str:
    if row.heard is None:
        return ""
    if row.heard_pace is None:
        return f"{row.heard}"
    return f"{row.heard};{row.heard_pace};{'y' if row.heard_steady else 'n'}"


def _tempo(text: str) -> float | None:
    """A share of full speed, written in percent."""
    percent = whole(text, 1, 100)
    return None if percent is None else percent / 100


def _by_ear(text: str) -> FormValues:
    """How many the phone heard, as 21, or with the pace as 21;72;y."""
    count, _, pace = text.partition(";")
    a_minute, _, steady = pace.partition(";")
    return {
        "heard": whole(count, 0, MOST_HEARD),
        "heard_pace": whole(a_minute, 0, MOST_HEARD),
        "heard_steady": STEADY.get(steady),
    }


def _answers(text: str) -> Answers | None:
    """Seven to nine numbers with commas between: hits, misses, touched, left, read, of, carried
    out, late, the wrong way.
    """
    numbers = [whole(part, 0, MOST_CALLS) for part in text.split(",")]
    if len(numbers) not in (7, 8, 9) or None in numbers:
        return None
    answers = Answers(*(number or 0 for number in numbers))
    fits = answers.carried_out <= answers.right <= answers.choices
    return answers if fits and answers.late + answers.wrong_way <= answers.misses else None


def parted(one: SetInput, names: Sequence[str] = ()) -> list[SetInput]:
    """The set as it is, or its two parts where strokes say that it was made easier or harder on the
    way. Its numbers stay where they do not agree with its strokes. names: the faults by number.
    """
    strokes = one.values.get("strokes") or ""
    # typed in rather than tapped: there is nothing to fold
    parts = fold_row(strokes, one.values.get("eased") or False) if strokes else []
    if len(parts) < 2 or one.values.get("makes") is None:
        return [replace(one, values=_only(one.values, parts))]
    by_way = [_part(one, part, names) for part in parts]
    sums = {name: sum(part.values[name] for part in by_way) for name in ("attempts", "makes")}
    if any(one.values[name] != number for name, number in sums.items()):
        return [one]
    for later in by_way[1:]:
        later.values["rested_s"] = None  # the rest was before the first of them
    return _with_the_rest(one.values.get("faults"), by_way)


def _only(values: FormValues, parts: Sequence[TapSet]) -> FormValues:
    """All of it easier, or all of it as asked: the strokes say which."""
    marked = any(sign in (values.get("strokes") or "") for sign in (EASIER, AS_ASKED))
    return values | {"eased": parts[0].eased} if len(parts) == 1 and marked else values


def _part(one: SetInput, part: TapSet, names: Sequence[str]) -> SetInput:
    sign, own = (EASIER, uuid5(one.id, EASIER)) if part.eased else (AS_ASKED, one.id)
    values = {
        "attempts": part.attempts,
        "makes": part.makes,
        "voids": part.strokes.count(VOID),
        "faults": None if one.values.get("faults") is None else part.named(names),
        "eased": part.eased,
        "strokes": sign + part.strokes,
    }
    return replace(one, id=own, values=one.values | values)


def _with_the_rest(faults: dict[str, int] | None, parts: list[SetInput]) -> list[SetInput]:
    """Faults that were typed and not tapped belong to the first part: nobody said which."""
    if faults is None:
        return parts
    tapped = sum((Counter(part.values["faults"]) for part in parts), Counter())
    parts[0].values["faults"] = dict(
        Counter(parts[0].values["faults"]) + (Counter(faults) - tapped)
    )
    return parts


def sum_answers(session: Session) -> Answers:
    """How the calls of a whole session were answered."""
    reads = [row.reads for row in session.sets.all() if row.reads is not None]
    return sum(reads, Answers())


_WHOLE = {"makes", "attempts", "best_run", "ticks"}
_MOST = 100_000
MOST_STROKES = 400
_LONGEST = {
    "faults": 4000,
    "strokes": MOST_STROKES + 1,
    "eased": 3,
    "tempo": 8,
    "reads": 80,
    "heard": 12,
    "rested": 5,
    "feed": LONGEST_FEED,
}
AT_EASE = [(n, str(n)) for n in range(1, 6)]
HIDDEN = tuple(_LONGEST)  # what an instrument tells of a set beside its counts


def _number_field(name: str, label: str) -> forms.Field:
    wrong = {
        "invalid": "Write a number.",
        "min_value": "A number cannot be negative.",
        "max_value": "That is too much to be true.",
    }
    most = 100 if name == "share" else _MOST
    if name in _WHOLE:
        return Whole(label=label, min_value=0, max_value=most, required=False, error_messages=wrong)
    return Number(label=label, min_value=0, max_value=most, required=False, error_messages=wrong)


class SessionForm(forms.Form):
    """One session at one rung. Which fields there are depends on the rung."""

    # a page without one is stored all the same, only a second sending of it is not known again
    session_id = forms.UUIDField(widget=forms.HiddenInput, required=False)
    # what a band came to when the page was opened: that is what was asked for
    dose = Line(widget=forms.HiddenInput, required=False, max_length=12)
    effort = forms.TypedChoiceField(
        label="How hard was it?",
        choices=[(n, str(n)) for n in range(11)],
        coerce=int,
        empty_value=None,
        required=False,
        widget=forms.RadioSelect,
    )
    at_ease = forms.TypedChoiceField(
        label="How at ease are you with it?",
        choices=AT_EASE,
        coerce=int,
        empty_value=None,
        required=False,
        widget=forms.RadioSelect,
    )
    hurts = forms.ChoiceField(
        label="Anything hurt?",
        choices=[("no", "No, all fine"), ("yes", "Yes, something hurts")],
        widget=forms.RadioSelect,
        error_messages={"required": "Please say whether anything hurts."},
    )
    hurt_where = Cut(label="Where, and when did it start?", most=MOST, required=False)
    word = Prose(
        label="A word to your coach",
        max_length=500,
        required=False,
        widget=forms.Textarea(attrs={"rows": 2}),
    )
    seen_by = forms.ChoiceField(
        label="Who counted?",
        choices=[("self", "I did"), ("helper", "Somebody else")],
        widget=forms.RadioSelect,
        initial="self",
        required=False,
    )
    adult = forms.BooleanField(label="An adult is here with me", required=False)
    tired = forms.BooleanField(label="Done tired, at the end of other work", required=False)
    sure = forms.BooleanField(label="I looked again: it is right", required=False)

    def __init__(
        self,
        *args: Any,
        rung: Rung,
        plan: Plan | None = None,
        form_cut: bool = False,
        asked: Asked = Asked(),
        days: Days,
        may_be_empty: bool = False,
        **kwargs: Any,
    ) -> None:
        initial = kwargs.setdefault("initial", {})
        initial.setdefault("session_id", uuid4())
        initial["dose"] = f"{rung.dose.sets}x{rung.dose.reps or ''}"
        super().__init__(*args, **kwargs)
        self.rung, self.plan, self.form_cut = rung, plan, form_cut
        self.asked, self.days, self.may_be_empty = asked, days, may_be_empty
        self.fields["on"] = days.field()
        self.asks = False  # whether a number is questioned
        self.entries, self.beyond = entries_for(rung, asked.mirrored), entries_beyond(rung)
        for entry in self.entries:
            self._add_entry(entry)
        add_fields(self.fields, asked, self.entries)

    def technique(self) -> Iterator[FormValues]:
        """What else is asked of each set, for the page."""
        return rows(self, self.asked, self.entries)

    def _add_entry(self, entry: Entry) -> None:
        id_field = forms.UUIDField(widget=forms.HiddenInput, initial=uuid4, required=False)
        self.fields[f"{entry.prefix}-id"] = id_field
        for name, label in fields_for(self.rung):
            field = _number_field(name, label)
            if name == "attempts" and entry.asked:
                field.widget.attrs["placeholder"] = entry.asked
            field.widget.attrs["inputmode"] = "numeric" if name in _WHOLE else "decimal"
            self.fields[f"{entry.prefix}-{name}"] = field
        for name in HIDDEN:
            self.fields[f"{entry.prefix}-{name}"] = Cut(
                widget=forms.HiddenInput, required=False, most=_LONGEST[name]
            )

    def rows(self) -> Iterator[FormValues]:
        """Entries with their bound fields, for the page."""
        for entry in self.entries:
            typed = [self[f"{entry.prefix}-{name}"] for name, _ in fields_for(self.rung)]
            hidden = [self[f"{entry.prefix}-{name}"] for name in ("id", *HIDDEN)]
            yield {"entry": entry, "typed": typed, "hidden": hidden}

    def clean(self) -> FormValues:
        """Counts that fit together, and something to keep."""
        data = super().clean() or self.cleaned_data
        if self.form_cut:
            raise forms.ValidationError(
                "That was too much for one form, so its counts were not stored. A hurt was."
            )
        self.sets = [part for entry in self.entries for part in self._sets_of(entry)]
        empty = not self.sets and not self.errors and not self.may_be_empty
        if empty and words_of_hurt(self.data) is None:
            raise forms.ValidationError(
                "Nothing is counted yet: use the strokes, or type the totals."
            )
        return data

    def _sets_of(self, entry: Entry) -> list[SetInput]:
        """One set, or two where it was made easier or harder inside."""
        whole = self._set_of(entry)
        return parted(whole, self.asked.faults) if whole is not None else []

    def _set_of(self, entry: Entry) -> SetInput | None:
        data = self.cleaned_data
        values: FormValues = {
            name: data.get(f"{entry.prefix}-{name}") for name, _ in fields_for(self.rung)
        }
        if all(value is None for value in values.values()):
            return None
        if values.get("makes") is not None and values.get("attempts") is None:
            values["attempts"] = self.rung.measure.tried(values["makes"], entry.asked)
        if values.get("share") is not None:
            values["share"] /= 100
        self._check(entry, values)
        self._question(entry, values)
        pad = data.get(f"{entry.prefix}-faults") or ""
        values |= read(data, self.asked, entry, self.entries, pad)
        strokes = data.get(f"{entry.prefix}-strokes") or ""
        # a longer row of strokes is kept by its totals alone
        values["strokes"] = strokes if len(strokes) <= MOST_STROKES and strokes.isalnum() else ""
        values |= told_beside(entry.prefix, data)
        return SetInput(data.get(f"{entry.prefix}-id") or uuid4(), entry.lane, values)

    def _check(self, entry: Entry, values: FormValues) -> None:
        makes, attempts = values.get("makes"), values.get("attempts")
        if "makes" in values and makes is None and attempts is not None:
            self.add_error(f"{entry.prefix}-makes", "How many of them were good?")
        if makes is not None and attempts is not None and makes > attempts:
            self.add_error(
                f"{entry.prefix}-makes", f"{makes} good ones out of {attempts} cannot be."
            )
        top = getattr(self.rung.measure, "max", None)
        points = values.get("points")
        if points is not None and top is not None and points > top * (attempts or entry.asked or 0):
            self.add_error(f"{entry.prefix}-points", f"At most {top:g} points for each attempt.")
        n = getattr(self.rung.measure, "n", None)
        if n is not None and attempts is not None and attempts < n:
            words = f"{n} good ones take at least {n} attempts."
            self.add_error(f"{entry.prefix}-attempts", words)
        items = getattr(self.rung.measure, "items", ())
        if items and values.get("ticks") is not None and values["ticks"] > len(items):
            self.add_error(f"{entry.prefix}-ticks", f"There are {len(items)} checkpoints.")

    def _question(self, entry: Entry, values: FormValues) -> None:
        """What can hardly be is asked about once, never refused for good."""
        for name, question in questions(values, self.rung, entry.asked, self.plan):
            self.asks = True
            if not self.cleaned_data.get("sure"):
                words = f"{question} Is it right? Then say so below."
                self.add_error(f"{entry.prefix}-{name}", words)

    def session_input(self, observer: str) -> SessionInput:
        """The cleaned session."""
        data = self.cleaned_data
        return SessionInput(
            id=data["session_id"] or uuid4(),
            on=data["on"] or self.days.last,
            observer=observer,
            sets=self.sets,
            form=form_of(self.asked, data, [s.values for s in self.sets]),
            tired=data.get("tired", False),
            worn=data.get("worn", []),
            dose=(self.rung.dose.sets, self.rung.dose.reps),
            effort=data["effort"],
            at_ease=data["at_ease"],
            word=data["word"].strip(),
            adult_present=data["adult"],
        )
