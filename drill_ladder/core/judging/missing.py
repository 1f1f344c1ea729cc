"""What a player is still missing, in numbers, in the order a coach would say it."""

from collections.abc import Iterator
from datetime import date

from drill_ladder.core.judging.reasons import Lacking, Missing
from drill_ladder.core.judging.rules import ByCoach, InARow, Window
from drill_ladder.core.judging.schools import (
    Standing,
    form_and_faults,
    next_counted_day,
    school_missing,
    sessions_missing,
)
from drill_ladder.core.judging.verdicts import Judged, dose_done, lacks


def missing_for_full(standing: Standing) -> Missing:
    """Dose done on the latest day against the dose asked, all judged lanes together."""
    day = standing.days[-1].day if standing.days else None
    have, need = dose_done(standing.rung, day)
    return Missing(Lacking.DOSE, {"have": have, "need": need})


def missing_for_climb(standing: Standing, today: date) -> list[Missing]:
    """What the school and the gates lack, then what the latest session lacked, then the next day
    that counts.
    """
    found = list(school_missing(standing))
    if isinstance(standing.rule.school, ByCoach):
        return found + list(_latest_lacks(standing))
    known = {m.code for m in found}
    found += [m for m in sessions_missing(standing) if m.code not in known]
    if isinstance(standing.rule.school, InARow | Window):
        found += _latest_lacks(standing)
    next_on = next_counted_day(standing, today)
    if next_on is not None:
        found.append(Missing(Lacking.DAYS, {"next_on": next_on}))
    return found


def _latest_lacks(standing: Standing) -> Iterator[Missing]:
    latest: Judged = standing.full[-1]
    if latest.met:
        return
    for lack in lacks(standing.rung, latest.day):
        numbers = {"have": lack.have, "need": lack.need}
        if lack.lane is None:
            yield Missing(Lacking.SCORE, numbers)
        else:
            yield Missing(Lacking.LANE, {"lane": lack.lane, **numbers})
    yield from form_and_faults(standing.rung, latest)
