"""A climb as it went: every judged day a mark, drawn."""

from dataclasses import dataclass
from datetime import date

from drill_ladder.apps.practice.judged.days import counted_rows
from drill_ladder.apps.prescriptions.models import Prescription
from drill_ladder.charts import climb
from drill_ladder.formats.measures import score_words


@dataclass(frozen=True, slots=True)
class ClimbRow:
    """A judged day of a climb: the rung's position, the score in words, the stay's id."""

    on: date
    position: int
    verdict: str
    score: str
    stay: int


def climb_of(
    p: Prescription, today: date, since: date | None
) -> tuple[list[ClimbRow], date | None, str]:
    """Of a prescription (as with_climb gives it): its days, oldest first; the day before which
    there is more, if any; the picture as SVG.
    """
    stays = list(p.stays.all())
    rows: list[ClimbRow] = []
    for stay in stays:
        measure = stay.terms.rung.measure
        for judged in counted_rows(stay):
            if since is not None and judged.on < since:
                continue  # a check of a rung passed, which is kept whole
            score = score_words(measure, judged.score)
            rows.append(ClimbRow(judged.on, stay.rung.position, judged.verdict, score, stay.pk))
    drawn = [climb.Mark(row.on, row.position, row.verdict) for row in rows]
    steps = [climb.Stay(s.rung.position, s.arrived, s.left, s.how) for s in stays]
    until = p.ended_on or today
    before = since if since is not None and steps[0].arrived < since < until else None
    return rows, before, climb.climb(p.rung_count, steps, drawn, until, since=before)
