"""Forms about people."""

from collections.abc import Iterable
from datetime import date
from typing import Any

from django import forms

from drill_ladder.apps.people.models import PACE_CM, SHOE_CM, SPACE_M, Club, Player, Squad
from drill_ladder.apps.people.players.days_form import WEEKDAYS
from drill_ladder.formats.kit_words import BadSize, read_sizes, sizes_text
from drill_ladder.ui.fields import Day, FormValues, Line, Number, Prose, Whole

GUARDIANS, PARTS = ("guardian", "guardian2"), ("name", "email", "phone", "consent_on")
AGREED = "The day they agreed that the club keeps this here"
DAY = forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d")


class MonthField(forms.DateField):
    """A month, written 2014-06; kept as its first day."""

    widget = forms.TextInput(attrs={"type": "month", "placeholder": "2014-06"})

    def to_python(self, value: Any) -> Any:
        """The first day of the month."""
        if isinstance(value, str) and len(value.strip()) == 7:
            value = f"{value.strip()}-01"
        value_ = super().to_python(value)
        return value_.replace(day=1) if value_ else None

    def prepare_value(self, value: Any) -> Any:
        """The month as the browser writes it."""
        return f"{value:%Y-%m}" if isinstance(value, date) else value


class PlayerForm(forms.ModelForm):
    """Who a player is and what there is at home."""

    birth_month = MonthField(
        label="Month of birth",
        required=False,
        error_messages={"invalid": "Write a year and a month, such as 2014-06."},
    )
    squad_name = Line(
        label="Squad",
        max_length=80,
        required=False,
        help_text="A new name makes a new squad",
        widget=forms.TextInput(attrs={"list": "squads"}),
    )
    stride_cm = Number(
        label="One pace, cm",
        min_value=PACE_CM[0],
        max_value=PACE_CM[1],
        required=False,
        help_text="Walk ten, measure, divide by ten",
    )
    shoe_cm = Number(
        label="One shoe, cm", min_value=SHOE_CM[0], max_value=SHOE_CM[1], required=False
    )
    height_now = Number(
        label="Height, cm",
        min_value=50,
        max_value=250,
        required=False,
        help_text="For tools that go with the body; kept with its day",
    )
    kit = Line(
        label="Own tools, cm",
        max_length=200,
        required=False,
        help_text="For example: stick 88, racket 66",
    )
    guardian_name = Line(label="Guardian to tell", max_length=120, required=False)
    guardian_email = forms.EmailField(label="Their mail address", required=False)
    guardian_phone = Line(label="Their phone", max_length=40, required=False)
    guardian_consent_on = Day(label="Agreed on", required=False, widget=DAY, help_text=AGREED)
    guardian2_name = Line(label="A second guardian", max_length=120, required=False)
    guardian2_email = forms.EmailField(label="Their mail address", required=False)
    guardian2_phone = Line(label="Their phone", max_length=40, required=False)
    guardian2_consent_on = Day(label="Agreed on", required=False, widget=DAY)
    revision = Whole(widget=forms.HiddenInput, required=False)
    note = Prose(
        label="A note, dated today",
        max_length=500,
        required=False,
        widget=forms.Textarea(attrs={"rows": 2}),
    )

    note_shared = forms.BooleanField(label="The family may read this note", required=False)

    class Meta:
        model = Player
        fields = [
            "name",
            "birth_month",
            "dominant_side",
            "home_space",
            "home_width",
            "home_depth",
            "home_surface",
            "home_tools",
            "home_wall",
            "home_feeder",
            "home_adult",
            "home_light",
        ]
        field_classes = dict.fromkeys(
            ("name", "home_space", "home_surface", "home_tools"), Line
        ) | dict.fromkeys(("home_width", "home_depth"), Number)
        labels = {
            "dominant_side": "Stronger side",
            "home_space": "Space at home",
            "home_width": "Width, m",
            "home_depth": "Depth, m",
            "home_surface": "Ground",
            "home_light": "Light in the evening",
            "home_tools": "Things at home",
            "home_wall": "A wall to play against",
            "home_feeder": "Somebody who can feed",
            "home_adult": "An adult who can be there",
        }
        help_texts = {
            "home_space": "For example: the yard behind the house",
            "home_surface": "For example: grass, concrete, carpet",
            "home_tools": "For example: stick, two balls, cones",
            "home_adult": "Needed for drills with bats, sticks or balls near others",
        }

    def __init__(self, *args: Any, club: Club, today: date, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.today = today
        self.fields["revision"].initial = self.instance.revision if self.instance.pk else 0
        self.squads = [squad.name for squad in Squad.objects.of_club(club)]
        self.fields["squad_name"].initial = self.instance.squad.name if self.instance.squad else ""
        for name, metres in (
            ("stride_cm", self.instance.stride_m),
            ("shoe_cm", self.instance.shoe_m),
        ):
            self.fields[name].initial = None if metres is None else round(metres * 100, 1)
        self.fields["height_now"].initial = self.instance.height_cm
        if self.instance.height_on:
            self.fields["height_now"].help_text = f"Measured on {self.instance.height_on:%-d %B %Y}"
        self.fields["kit"].initial = sizes_text(self.instance.kit_cm)
        guardians = list(self.instance.guardians.all()[:2]) if self.instance.pk else []
        for prefix, guardian in zip(GUARDIANS, guardians, strict=False):
            for part in PARTS:
                self.fields[f"{prefix}_{part}"].initial = getattr(guardian, part)

    def clean_home_width(self) -> float | None:
        """Metres, not nothing."""
        return self._metres("home_width")

    def clean_home_depth(self) -> float | None:
        """Metres, not nothing."""
        return self._metres("home_depth")

    def _metres(self, name: str) -> float | None:
        value: float | None = self.cleaned_data[name]
        if value is not None and not SPACE_M[0] <= value <= SPACE_M[1]:
            raise forms.ValidationError(f"Metres, from {SPACE_M[0]} to {SPACE_M[1]}.")
        return value

    def clean_kit(self) -> dict[str, float]:
        """Lengths by tool."""
        try:
            return read_sizes(self.cleaned_data["kit"])
        except BadSize as error:
            raise forms.ValidationError(str(error)) from error

    def clean_birth_month(self) -> date | None:
        """A month of the past hundred years."""
        month: date | None = self.cleaned_data["birth_month"]
        if month and not 0 <= self.today.year - month.year <= 100:
            raise forms.ValidationError(
                "That month cannot be right: it is in the future or over 100 years ago."
            )
        if month and month > self.today:
            raise forms.ValidationError("That month is in the future.")
        return month

    def clean(self) -> FormValues:
        """A guardian needs a name, an agreement a day that has been, a space both sides."""
        data = super().clean() or self.cleaned_data
        for prefix in GUARDIANS:
            if not data.get(f"{prefix}_name") and any(
                data.get(f"{prefix}_{part}") for part in PARTS[1:]
            ):
                self.add_error(f"{prefix}_name", "Whose address is this? Please add the name.")
            if data.get(f"{prefix}_consent_on") and data[f"{prefix}_consent_on"] > self.today:
                self.add_error(f"{prefix}_consent_on", "That day is in the future.")
        if (data.get("home_width") is None) != (data.get("home_depth") is None):
            self.add_error("home_width", "Give both sides, or neither.")
        for name in ("stride", "shoe"):
            centimetres = data.get(f"{name}_cm")
            setattr(self.instance, f"{name}_m", centimetres / 100 if centimetres else None)
        self._keep_body(data)
        return data

    def _keep_body(self, data: FormValues) -> None:
        """The height with the day on which it was typed, and the tools."""
        height = data.get("height_now")
        if height != self.instance.height_cm:
            self.instance.height_cm = height
            self.instance.height_on = None if height is None else self.today
        self.instance.kit_cm = data.get("kit") or {}

    def guardians(self) -> list[FormValues]:
        """The guardians as typed."""
        rows = [
            {part: self.cleaned_data[f"{prefix}_{part}"] for part in PARTS} for prefix in GUARDIANS
        ]
        return [row for row in rows if row["name"]]


TOLD = {
    "name": "Name",
    "birth_month": "Month of birth",
    "dominant_side": "Stronger side",
    "stride_m": "One pace, m",
    "shoe_m": "One shoe, m",
    "height_cm": "Height, cm",
    "kit_cm": "Own tools, cm",
    "home_space": "Space at home",
    "home_width": "Width, m",
    "home_depth": "Depth, m",
    "home_surface": "Ground",
    "home_tools": "Things at home",
    "home_wall": "A wall",
    "home_feeder": "Somebody who can feed",
    "home_adult": "An adult",
    "home_light": "Light in the evening",
}


def told_player(
    player: Player, guardians: Iterable[Any], days: Iterable[Any], squad: str | None = None
) -> dict[str, str]:
    """A player in words, place by place, as stored or as typed (squad: its name as typed; rows as
    objects or dicts).
    """
    lines = {word: _said(getattr(player, name)) for name, word in TOLD.items()}
    stored = player.squad.name if player.squad else ""
    lines["Squad"] = stored if squad is None else squad
    for number, guardian in enumerate(guardians, 1):
        lines[f"Guardian {number}"] = ", ".join(
            filter(None, (_said(_of(guardian, part)) for part in PARTS))
        )
    for day in days:
        said = [f"{_of(day, 'minutes')} min {_of(day, 'place')}"]
        said += [
            word
            for part, word in (("helper", "somebody feeds"), ("adult", "an adult"))
            if _of(day, part)
        ]
        lines[WEEKDAYS[int(_of(day, "weekday"))]] = ", ".join(said)
    return lines


def _of(row: Any, name: str) -> Any:
    return row.get(name) if isinstance(row, dict) else getattr(row, name)


def _said(value: Any) -> str:
    if value is None or value is False:
        return ""
    if value is True:
        return "yes"
    return f"{value:g}" if isinstance(value, float) else str(value)
