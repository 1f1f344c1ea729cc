"""What is asked on a day: a dose that is a band comes to one number, and card, log, paper, calendar
and judge use that one.
"""

from collections.abc import Sequence
from datetime import date

from drill_ladder.apps.library.models import Rung as StoredRung
from drill_ladder.apps.practice.judged import work_rung
from drill_ladder.apps.prescriptions.dose import fixed, of_the_day, seconds_left
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.weeks.models import Week
from drill_ladder.core.judging import Rung
from drill_ladder.core.planning import ToldBlock
from drill_ladder.formats.reading import whole

NOT_LOOKED = object()


def rung_of_day(stay: Stay, on: date, week: Week | object | None = NOT_LOOKED) -> Rung:
    """The rung that is worked on with the dose of a day: by the week as it was told, else by the
    day's minutes. week: as it was told, where it is known (None: none was).
    """
    return work_of_day(stay, on, week)[1]


def work_of_day(
    stay: Stay, on: date, week: Week | object | None = NOT_LOOKED
) -> tuple[StoredRung, Rung]:
    """As rung_of_day, with the rung as it is stored."""
    stored, rung = work_rung(stay, stay.recheck)
    if not rung.is_open:
        return stored, rung
    player = stay.prescription.player
    if week is NOT_LOOKED:
        week = Week.objects.of(player, on).published().first()
    told = told_for(week.published, stay, on) if isinstance(week, Week) else None
    if told is not None and (told.sets or told.reps):
        return stored, fixed(rung, told.sets, told.reps)
    others = list(Stay.objects.of_player(player).current().begun(on))
    return stored, of_the_day(rung, seconds_left(player, on, others))[0]


def told_for(published: Sequence[ToldBlock], stay: Stay, on: date) -> ToldBlock | None:
    """The block of a stay that a day is about: the latest by then, else the first that comes."""
    own = [block for block in published if block.stay == stay.pk and not block.cancelled]
    own.sort(key=lambda block: block.on)
    due = [block for block in own if block.on <= on]
    return due[-1] if due else next(iter(own), None)


def dose_shown(text: str, rung: Rung) -> Rung | None:
    """The rung with the dose that a page said it asks for, as 2x8; None where that is no dose of
    the rung's bands.
    """
    sets, _, reps = text.partition("x")
    typed = whole(sets), whole(reps)
    low = fixed(rung, None, None).dose
    for value, least, most in (
        (typed[0], low.sets, rung.sets_high),
        (typed[1], low.reps, rung.reps_high),
    ):
        if value is None or least is None or not least <= value <= (most or least):
            return None
    return fixed(rung, *typed) if rung.is_open else None
