"""How long a prescription would take, and what the home allows: said while it is being chosen."""

from dataclasses import dataclass
from datetime import timedelta

from drill_ladder.apps.library.models import Rung
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.prescriptions.dose import asked_lines, minutes_a_day, strain_in
from drill_ladder.apps.prescriptions.forms import PrescribeForm
from drill_ladder.apps.prescriptions.home import at_home
from drill_ladder.apps.prescriptions.minutes.demand import asked_minutes, wanted
from drill_ladder.apps.prescriptions.minutes.more_days import MoreDays, more_days
from drill_ladder.apps.prescriptions.models import Prescription, Setting
from drill_ladder.apps.prescriptions.services import (
    personal_terms,
)
from drill_ladder.core.judging import Intent
from drill_ladder.formats.home_words import way_out, why_not
from drill_ladder.formats.rung_words import rest_lines

REVIEW = timedelta(weeks=6)


@dataclass(frozen=True, slots=True)
class HomeWords:
    """How a rung is done at a player's home and what is then lost; or why it cannot be, and the way
    out.
    """

    way: str = ""
    lost: str = ""
    why: str = ""
    out: str = ""


@dataclass(frozen=True, slots=True)
class Minutes:
    """Minutes of a block, a week of what is typed (wants) and of what is there beside it, and what
    the player has.

    home: None where it is not for home; rest: what of sets and rest does not fit what it is for;
    strain: what is over a limit of the club; reach: when the next rung is expected, with one more
    day too, where the club's record carries it.
    """

    each: int
    wants: int
    there: float
    has: int
    home: HomeWords | None
    rest: list[str]
    strain: list[str]
    reach: MoreDays | None

    @property
    def left(self) -> float:
        """Minutes that stay free; under zero: too many."""
        return self.has - self.there - self.wants

    @property
    def share(self) -> list[int]:
        """Percent of the week, without and with what is typed, for the bar."""
        parts = (self.there, self.there + self.wants)
        return [min(100, round(100 * part / self.has)) if self.has else 0 for part in parts]


def minutes(form: PrescribeForm, draft: Prescription, rung: Rung | None) -> Minutes | None:
    """How long it would take, as it is typed; None without a rung. draft: what is prescribed, or
    would be.
    """
    if rung is None:
        return None
    who, bound = draft.player, form.is_bound and form.is_valid()
    own = form.overrides() if bound else draft.overrides
    tried = Prescription(player=who, ladder=draft.ladder, overrides=own)
    terms = personal_terms(tried, rung).rung
    twice = form.cleaned_data["tired_too"] if bound else draft.tired_too
    each, intent = minutes_a_day(terms, twice), str(form["intent"].value() or "")
    per_week = (form.cleaned_data.get("per_week") if bound else None) or draft.per_week
    smaller = form.cleaned_data["smaller"] if bound else draft.smaller
    others = [want for want in wanted(who) if want.prescription.pk != draft.pk]
    own_strain = strain_in(rung.drill, terms)
    for_home = str(form["place"].value()) != Setting.COACHED
    return Minutes(
        each=each,
        wants=each * per_week,
        there=asked_minutes(others),
        has=sum(day.minutes for day in who.days.all()),
        home=_home_words(who, rung, smaller) if for_home else None,
        rest=rest_lines(terms, Intent(intent) if intent in list(Intent) else None),
        strain=asked_lines(
            who,
            [(own_strain, per_week), *((want.wish.strain, want.wish.per_week) for want in others)],
        )
        if own_strain
        else [],
        reach=more_days(draft, per_week) if draft.pk else None,
    )


def _home_words(who: Player, rung: Rung, smaller: bool) -> HomeWords:
    home = at_home(rung.drill, who, rung.floor_plan, smaller)
    if home.version is None:
        return HomeWords(why=why_not(home), out=way_out(home))
    return HomeWords(way=home.way, lost=", ".join(home.lost))
