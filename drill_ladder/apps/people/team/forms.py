"""Forms about a club and who belongs to it."""

from typing import Any
from zoneinfo import available_timezones

from django import forms
from django.contrib.auth.password_validation import validate_password

from drill_ladder.apps.people.models import Club, LengthUnit, Membership, Role, Squad, User
from drill_ladder.ui.fields import Line

ZONE = forms.TextInput(attrs={"list": "zones", "autocomplete": "off"})
ALL = "all"


def zones() -> list[str]:
    """Those of places, in order."""
    return sorted(zone for zone in available_timezones() if "/" in zone and "Etc/" not in zone)


class ZoneField(Line):
    """A time zone."""

    def __init__(self) -> None:
        super().__init__(
            label="Time zone", max_length=60, widget=ZONE, help_text="Such as Europe/London"
        )

    def clean(self, value: Any) -> str:
        """A zone that is known. Raises ValidationError."""
        zone: str = super().clean(value)
        if zone not in available_timezones():
            raise forms.ValidationError("This time zone is not known: write it as Europe/London.")
        return zone


class PasswordField(forms.CharField):
    """A new password."""

    def __init__(self) -> None:
        super().__init__(
            label="Your password",
            max_length=200,
            strip=False,
            help_text="At least ten letters or signs",
            widget=forms.PasswordInput(attrs={"autocomplete": "new-password"}),
        )

    def clean(self, value: Any) -> str:
        """One that is good enough. Raises ValidationError."""
        password: str = super().clean(value)
        validate_password(password)
        return password


class RoleForm(forms.Form):
    """What a member may do, and for which squads."""

    role = forms.ChoiceField(label="Role", choices=Role.choices, initial=Role.COACH)
    squads = forms.MultipleChoiceField(
        label="Squads", required=False, widget=forms.CheckboxSelectMultiple
    )

    def __init__(self, *args: Any, club: Club, of: Membership | None = None, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        rows = [(str(row.pk), row.name) for row in Squad.objects.of_club(club)]
        squads: Any = self.fields["squads"]
        squads.choices = [(ALL, "All squads, also new ones"), *rows]
        self.initial.setdefault("squads", [ALL])
        if of is not None:
            mine = [str(duty.squad_id) for duty in of.duties.all()]
            self.initial = {"role": of.role, "squads": [*([ALL] if of.every_squad else []), *mine]}

    @property
    def chosen(self) -> list[int] | None:
        """The squads' ids: whoever ticks one gives that one, and not all of them besides. None for
        all of them.
        """
        chosen = self.cleaned_data["squads"]
        own = [int(pk) for pk in chosen if pk != ALL]
        return None if not own and ALL in chosen else own


class InviteForm(RoleForm):
    """Somebody who is to become a member."""

    name = Line(label="Name", max_length=120)
    email = forms.EmailField(label="Mail address", max_length=254)
    field_order = ("name", "email", "role", "squads")


class ClubForm(forms.Form):
    """What a club is called, whose days count, how its plans are measured."""

    name = Line(label="Name of the club", max_length=120)
    time_zone = ZoneField()
    unit = forms.ChoiceField(label="Plans are measured in", choices=LengthUnit.choices)
    ear_asks = forms.BooleanField(
        label="A guardian agrees before a phone counts by ear",
        required=False,
        help_text="Nothing is recorded or sent either way; agreements stand on the player’s page",
    )
    trusts_ear = forms.BooleanField(
        label="What a phone heard counts as seen by a device",
        required=False,
        help_text="Else it counts as the player’s own word, wherever a rule asks who saw it. From "
        "now on: what was done before stays as it was judged",
    )


class SquadForm(forms.Form):
    """A squad."""

    name = Line(label="Name of the squad", max_length=80)


class JoinForm(forms.Form):
    """A new account for somebody who was invited."""

    name = Line(label="Your name", max_length=120)
    password = PasswordField()


class FoundForm(forms.Form):
    """A new club and its owner."""

    code = Line(
        label="Code from the server",
        max_length=30,
        help_text="Whoever runs the server gets one by ./ladder manage founding_code",
    )
    club = Line(label="Name of the club", max_length=120)
    time_zone = ZoneField()
    name = Line(label="Your name", max_length=120)
    email = forms.EmailField(
        label="Your mail address",
        max_length=254,
        widget=forms.EmailInput(attrs={"autocomplete": "username"}),
    )
    password = PasswordField()


class YouForm(forms.ModelForm):
    """How somebody is called, and how they like their pages."""

    name = Line(label="Your name", max_length=120)

    class Meta:
        model = User
        fields = ("name", "density")
        labels = {"density": "Lists on a wide screen"}
