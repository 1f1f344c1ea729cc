"""A rung's fields as they are typed: what the builder asks for, how a row opens, and how it is
read. Everything comes from the one table of a rung's fields (formats/rung_fields).
"""

from collections.abc import Iterator
from typing import Any

from django import forms

from drill_ladder.core.judging import Dose, Measure, Rung, Target
from drill_ladder.formats.age_words import BadAges, ages_text, read_ages
from drill_ladder.formats.reading import decimal
from drill_ladder.formats.rung_fields import FIELDS, Kind, RungField, fields_in, is_share
from drill_ladder.ui.fields import FormValues, Line, Number, Whole

LOW, HIGH = "low", "high"  # the two ends of a band
IN_UNIT = (Kind.SCORE, Kind.BAND)
NAMES = (Kind.LANES, Kind.NAMES)
TYPED_LINES = (*NAMES, Kind.AGES)


class Ages(Line):
    """Steps by age, typed in a line."""

    def to_python(self, value: Any) -> Any:
        """The steps. Raises ValidationError."""
        try:
            return read_ages(super().to_python(value) or "")
        except BadAges as error:
            raise forms.ValidationError(str(error), code="ages") from error


def fits(field: RungField) -> str:
    """The classes by which its row shows it for the measures that have it, in their unit, and as
    wide as it needs.
    """
    unit = "kind-unit" if field.kind in IN_UNIT else ""
    wide = "wide" if field.kind in TYPED_LINES else ""
    return " ".join(filter(None, (field.only and f"for-{field.only}", unit, wide)))


def names(field: RungField) -> tuple[str, ...]:
    """What it is called in the form: a band has two ends."""
    if field.kind is Kind.BAND:
        return f"{field.name}_{LOW}", f"{field.name}_{HIGH}"
    return (field.name,)


def typed_fields() -> dict[str, forms.Field]:
    """What a form asks for."""
    fields = {name: _typed(field, name) for field in FIELDS for name in names(field)}
    for field in fields.values():
        field.widget.attrs["aria-label"] = field.label
    return fields


def _typed(field: RungField, name: str) -> forms.Field:
    label = "to" if name.endswith(f"_{HIGH}") and field.kind is Kind.BAND else field.label
    if field.choices:
        return forms.ChoiceField(label=label, choices=field.choices, required=False)
    if field.kind is Kind.YES:
        return forms.BooleanField(label=label, required=False)
    if field.kind in NAMES:
        return Line(label=label, max_length=400, required=False)
    if field.kind is Kind.AGES:
        return Ages(label=label, max_length=400, required=False)
    most = 100.0 if field.kind is Kind.SHARE else field.most
    if field.kind is Kind.WHOLE:
        return Whole(
            label=label,
            min_value=int(field.low),
            max_value=None if most is None else int(most),
            required=False,
        )
    return Number(label=label, min_value=field.low, max_value=most, required=False)


def with_own_choice(field: forms.Field, value: Any) -> None:
    """A value that a file brought and no choice names is a choice too: it would be lost."""
    choices = [str(key) for key, _ in field.choices]  # type: ignore[attr-defined]
    share = decimal(value, 0, 1)
    if share and str(share) == str(value) not in choices:
        words = f"{share * 100:g} %"
        field.choices = [*field.choices, (str(value), words)]  # type: ignore[attr-defined]


def opened(rung: Rung) -> FormValues:
    """A rung's fields as a row opens."""
    values: FormValues = {}
    for field in FIELDS:
        value = field.of(rung)
        ends = (value or (None, None)) if field.kind is Kind.BAND else (value,)
        times = 100 if is_share(field, rung.measure) else 1
        for name, end in zip(names(field), ends, strict=True):
            values[name] = _shown(field, end, times)
    return values


def _shown(field: RungField, value: Any, times: int) -> Any:
    if field.choices:
        number = field.kind is Kind.NUMBER and value is not None
        return str(float(value)) if number else str(value or "")
    if field.kind in NAMES:
        return ", ".join(value)
    if field.kind is Kind.AGES:
        return ages_text(value)
    if value is None or isinstance(value, bool):
        return value
    if value == 0 and field.default == 0:
        return None
    return tidy(value, times)


def tidy(value: float, times: float = 1) -> float | int:
    """40 and not 40.0."""
    value = round(value * times, 4)
    return int(value) if value == int(value) else value


def read(data: FormValues, measure: Measure) -> dict[str, Any]:
    """The fields as typed, as arguments of the core's rung."""
    values = dict(_read(data, measure, ""))
    values["dose"] = Dose(**dict(_read(data, measure, "dose")))
    values["target"] = Target(**dict(_read(data, measure, "target")))
    return values


def _read(data: FormValues, measure: Measure, part: str) -> Iterator[tuple[str, Any]]:
    other = "value" if measure.counts_makes else "makes"
    for field in fields_in(part):
        # what stops a set is refused for other measures, and not dropped
        if field.part == "target" and field.only == other:
            continue
        ends = [_value(field, data[name], measure) for name in names(field)]
        if field.kind is Kind.BAND:
            yield field.key, None if None in ends else tuple(ends)
        else:
            yield field.key, ends[0]


def _value(field: RungField, value: Any, measure: Measure) -> Any:
    if field.kind in NAMES:
        return names_in(value)
    if field.kind is Kind.AGES:
        return value
    if value in ("", None) or (value == 0 and field.above == 0):
        return field.default
    if field.choices and field.kind is Kind.NUMBER:
        return float(value)
    return value / 100 if is_share(field, measure) else value


def names_in(text: str | None) -> tuple[str, ...]:
    """Names as they are typed, with commas between."""
    found = (one.strip() for one in (text or "").split(","))
    return tuple(one for one in found if one)


def folds_out(form: forms.Form) -> bool:
    """Whether something in the folded part says more than usual, or is wrong."""
    usual = {"", None}
    for field in FIELDS:
        if field.where != "more" or not field.folds_out:
            continue
        for name in names(field):
            said = form[name].value()
            if form[name].errors or (said not in usual and said != field.default):
                return True
    return False
