"""How long a prescription would take, and what the home allows: said while it is being chosen."""

from datetime import timedelta
from typing import Any

from drill_ladder.apps.library.models import Rung
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.prescriptions.demand import asked_minutes, minutes_of, wanted
from drill_ladder.apps.prescriptions.forms import PrescribeForm
from drill_ladder.apps.prescriptions.home import at_home
from drill_ladder.apps.prescriptions.models import Place, Prescription
from drill_ladder.apps.prescriptions.services import (
    personal_terms,
)
from drill_ladder.formats.home_words import way_out, why_not

REVIEW = timedelta(weeks=6)


def minutes(form: PrescribeForm, draft: Prescription, rung: Rung | None) -> dict[str, Any] | None:
    """Minutes a week of what is typed, of what is there beside it, and what the player has; None without a rung.

    draft: what is prescribed, or would be.
    """
    if rung is None:
        return None
    who, bound = draft.player, form.is_bound and form.is_valid()
    own = form.overrides() if bound else draft.overrides
    tried = Prescription(player=who, ladder=draft.ladder, overrides=own)
    each = minutes_of(personal_terms(tried, rung).rung)
    per_week = (form.cleaned_data.get("per_week") if bound else None) or draft.per_week
    there = asked_minutes(one for one in wanted(who) if one.prescription.pk != draft.pk)
    has = sum(day.minutes for day in who.days.all())
    wants = each * per_week
    share = [min(100, round(100 * part / has)) if has else 0 for part in (there, there + wants)]
    found = {"each": each, "wants": wants, "there": there, "has": has, "left": has - there - wants, "share": share}
    return found | {"home": _at_home(who, rung) if str(form["place"].value()) != Place.COACHED else None}


def _at_home(who: Player, rung: Rung) -> dict[str, Any]:
    """How the rung is done at this player's home, or why it cannot be and the way out."""
    home = at_home(rung.drill, who, rung.floor_plan)
    if home.version is None:
        return {"why": why_not(home), "out": way_out(home)}
    return {"way": home.way, "lost": ", ".join(home.lost)}
