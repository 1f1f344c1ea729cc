"""Fields and rows that several forms share."""

from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any

from django import forms
from django.forms.fields import InvalidJSONInput

from drill_ladder.formats.reading import (
    FIRST_DAY,
    LAST_DAY,
    WHOLE,
    cut,
    decimal,
    json_value,
    unkept,
    whole,
)

# what a form was given or makes of it, by the names of its fields
FormValues = dict[str, Any]


def listed(text: Any) -> list[str]:
    """Short texts with commas between: those that say something, in order."""
    return [word.strip() for word in str(text or "").split(",") if word.strip()]


NOT_KEPT = "This holds a line break or a sign that cannot be kept. Write it anew, please."
LONGEST, MOST_ENTRIES = 20_000, 200


class Line(forms.CharField):
    """One line of text, as it can be kept and shown."""

    lines = False

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        if kwargs.get("max_length") is None:
            kwargs["max_length"] = LONGEST
        super().__init__(*args, **kwargs)

    def to_python(self, value: Any) -> Any:
        """The text. Raises ValidationError for what no database keeps."""
        text = super().to_python(value)
        if isinstance(text, str) and unkept(text, self.lines):
            raise forms.ValidationError(NOT_KEPT, code="unkept")
        return text


class Prose(Line):
    """Text of several lines."""

    lines = True
    widget = forms.Textarea


class Whole(forms.IntegerField):
    """A whole number, in plain digits."""

    def to_python(self, value: Any) -> Any:
        """The number, or None for an empty field. Raises ValidationError."""
        if value in self.empty_values:
            return None
        text = str(value).strip()
        found = whole(text[:-2] if text.endswith(".0") else text, -WHOLE, WHOLE)
        if found is None:
            raise forms.ValidationError(self.error_messages["invalid"], code="invalid")
        return found


class Number(forms.FloatField):
    """A finite number; a comma may stand for the point, which a browser's own field for numbers
    would refuse in some languages: it is a field for text with the keys for numbers.
    """

    widget = forms.TextInput

    def widget_attrs(self, widget: forms.Widget) -> FormValues:
        """The keys that a phone shows."""
        return {**super().widget_attrs(widget), "inputmode": "decimal", "autocomplete": "off"}

    def prepare_value(self, value: Any) -> Any:
        """70 and not 70.0."""
        whole_number = isinstance(value, float) and value.is_integer()
        return int(value) if whole_number else super().prepare_value(value)

    def to_python(self, value: Any) -> Any:
        """The number, or None for an empty field. Raises ValidationError."""
        if value in self.empty_values:
            return None
        found = decimal(value, -1e12, 1e12)
        if found is None:
            raise forms.ValidationError(self.error_messages["invalid"], code="invalid")
        return found


class Day(forms.DateField):
    """A day that weeks can be added to."""

    def to_python(self, value: Any) -> date | None:
        """The day, or None for an empty field. Raises ValidationError."""
        found = super().to_python(value)
        if found is not None and not FIRST_DAY <= found <= LAST_DAY:
            raise forms.ValidationError(self.error_messages["invalid"], code="invalid")
        return found


class Document(forms.JSONField):
    """A JSON document of a size and depth that can be read."""

    def to_python(self, value: Any) -> Any:
        """The document. Raises ValidationError."""
        if self.disabled or value in self.empty_values or not isinstance(value, str):
            return super().to_python(value)
        found = json_value(value)
        if found is None:
            raise forms.ValidationError(
                self.error_messages["invalid"], code="invalid", params={"value": "it"}
            )
        return found

    def bound_data(self, data: Any, initial: Any) -> Any:
        """What was sent, to be shown again; what is no document stays as it was typed."""
        if self.disabled or not isinstance(data, str):
            return super().bound_data(data, initial)
        found = json_value(data)
        return InvalidJSONInput(data) if found is None else found


class Cut(forms.CharField):
    """Words that are cleaned and cut to fit, never refused."""

    def __init__(self, *, most: int, **kwargs: Any) -> None:
        super().__init__(**kwargs)
        self.most = most
        self.widget.attrs["maxlength"] = most

    def to_python(self, value: Any) -> str:
        """One clean line."""
        return cut(value or "", self.most)


class _Listed(forms.CharField):
    """A list in one text."""

    joint = ", "

    def prepare_value(self, value: Any) -> Any:
        """Back to one text."""
        return self.joint.join(value) if isinstance(value, list) else value

    def has_changed(self, initial: Any, data: Any) -> bool:
        """Compared as lists."""
        return bool((initial or []) != self.to_python(data))

    def run_validators(self, value: Any) -> None:
        """Entries that can be kept, and not too many; an empty list is fine."""
        if any(unkept(entry) for entry in value):
            raise forms.ValidationError(NOT_KEPT, code="unkept")
        if len(value) > MOST_ENTRIES or sum(map(len, value)) > (self.max_length or LONGEST):
            raise forms.ValidationError("That is too much for this field.", code="too_much")


class Words(_Listed):
    """Short texts with commas between, kept as a list, each once."""

    def to_python(self, value: Any) -> Any:
        """The texts that say something."""
        return value if isinstance(value, list) else list(dict.fromkeys(listed(value)))


class Lines(_Listed):
    """A list, one entry a line."""

    widget = forms.Textarea(attrs={"rows": 4})
    joint = "\n"

    def to_python(self, value: Any) -> Any:
        """The lines that say something."""
        return [line.strip() for line in str(value or "").splitlines() if line.strip()]


class Row(forms.Form):
    """Fields whose labels stand elsewhere, in the head of a table or in a sentence: for screen
    readers each says its own.
    """

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        for field in self.fields.values():
            field.widget.attrs["aria-label"] = field.label


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
                    "invalid_choice": f"A session can be entered back to {self.first:%A} "
                    f"{self.first.day}."
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
