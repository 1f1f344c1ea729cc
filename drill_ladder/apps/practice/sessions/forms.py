"""The form behind a card: counted by strokes or typed, it is the same form."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any
from uuid import uuid4

from django import forms

from drill_ladder.apps.practice.sessions.beside import parted, told_beside
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
from drill_ladder.core.judging import Rung
from drill_ladder.core.plans import Plan
from drill_ladder.ui.fields import Cut, FormValues, Line, Number, Prose, Whole

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
}
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


@dataclass(frozen=True, slots=True)
class Days:
    """The days that a session may be of; by_name: chosen from a list, as a player does."""

    first: date
    last: date
    by_name: bool = False

    def field(self) -> forms.Field:
        """The day, the last one unless said otherwise."""
        if self.by_name:
            back = [self.last - timedelta(days=n) for n in range((self.last - self.first).days + 1)]
            names = {0: "Today", 1: "Yesterday"}
            choices = [
                (f"{day}", names.get(n, f"{day:%A} {day.day}")) for n, day in enumerate(back)
            ]
            return forms.TypedChoiceField(
                label="When?",
                choices=choices,
                coerce=date.fromisoformat,
                empty_value=None,
                required=False,
                initial=f"{self.last}",
                error_messages={
                    "invalid_choice": f"{LATEST_FROM} {self.first:%A} {self.first.day}."
                },
            )
        field = forms.DateField(
            label="Day",
            required=False,
            initial=self.last,
            widget=forms.DateInput(
                format="%Y-%m-%d",
                attrs={"type": "date", "min": f"{self.first}", "max": f"{self.last}"},
            ),
        )
        field.validators.append(self._check)
        return field

    def _check(self, day: date) -> None:
        if day > self.last:
            raise forms.ValidationError("That day has not come yet.")
        if day < self.first:
            raise forms.ValidationError(
                f"The player came to this rung on {self.first.day} {self.first:%B}: from then on."
            )


LATEST_FROM = "A session can be entered back to"


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
            values["attempts"] = max(entry.asked or 0, values["makes"])
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
            word=data["word"].strip(),
            adult_present=data["adult"],
        )
