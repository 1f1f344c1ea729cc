"""One player's ladders: where they stand, what was done there, how the climb went."""

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from drill_ladder.apps.practice.judged import ClimbRow, climb_of, counted_rows
from drill_ladder.apps.practice.models import JudgedDay
from drill_ladder.apps.practice.work import rung_of_day
from drill_ladder.apps.prescriptions.models import Prescription, Stay
from drill_ladder.apps.prescriptions.services import changes_since, personal
from drill_ladder.apps.progress.player.result import result_lines
from drill_ladder.apps.progress.player.tiredness import cost_line
from drill_ladder.apps.review.models import Proposal
from drill_ladder.apps.review.services import moves_of
from drill_ladder.core.coaching import RECENT
from drill_ladder.core.judging import Rung
from drill_ladder.formats.rung_words import dose_words, target_words
from drill_ladder.formats.words import rule_sentence


@dataclass(frozen=True, slots=True)
class Standing:
    """A prescription as the player's page shows it. rows: the climb's numbers, newest first;
    since: there is more before this day; lines: what the last day came to; last: the last days;
    moves: what a coach may do by hand.
    """

    prescription: Prescription
    stay: Stay | None
    rungs: int
    marks: list[str]
    chart: str
    rows: list[ClimbRow]
    since: date | None
    lines: list[str]
    last: list[JudgedDay]
    moves: list[tuple[str, str]]
    today: date

    @property
    def last_on(self) -> date | None:
        """The last day on this rung."""
        return self.last[-1].on if self.last else None

    @property
    def changes(self) -> list[str]:
        """What the ladder says now against the terms in force here."""
        return changes_since(self.stay) if self.stay is not None else []

    @property
    def own(self) -> list[str]:
        """What is different for this player against the ladder."""
        return personal(self.stay) if self.stay is not None else []

    def _today(self, stay: Stay) -> Rung:
        return rung_of_day(stay, self.today)

    @property
    def terms(self) -> dict[str, str]:
        """Dose, target and rule in words."""
        if self.stay is None:
            return {}
        terms = self.stay.terms
        return {
            "dose": dose_words(terms.rung if self.stay.recheck else self._today(self.stay)),
            "target": target_words(terms.rung),
            "rule": rule_sentence(terms.rule),
        }


def standings(
    ladders: Iterable[Prescription],
    today: date,
    since: date | None,
    said: Mapping[int, Proposal],
) -> list[Standing]:
    """A player's ladders (as with_climb gives them), active ones first, parts of a routine after
    the others, each from a day on. said: stay id -> what the core said last.
    """
    order = {"active": 0, "finished": 1, "ended": 2}
    rows = sorted(
        ladders,
        key=lambda p: (order[p.status], p.player_routine_id is not None, p.ladder.title),
    )
    current = [stay for p in rows for stay in p.stays.all() if stay.left is None]
    recent = _recent(current)
    return [_standing(p, today, since, said, recent) for p in rows]


def _recent(stays: Sequence[Stay]) -> dict[int, list[JudgedDay]]:
    """Stay id -> its last days with their sets, the latest last, by one question for all."""
    keys = [row.pk for stay in stays for row in counted_rows(stay)[-RECENT:]]
    days: dict[int, list[JudgedDay]] = defaultdict(list)
    for row in JudgedDay.objects.filter(pk__in=keys).order_by("on"):
        days[row.stay_id].append(row)
    return days


def _lines(stay: Stay, last: Sequence[JudgedDay], proposal: Proposal | None) -> list[str]:
    said = proposal.said if proposal is not None else None
    return result_lines(
        stay.terms.rung,
        [row.value for row in last],
        said.ahead if said else None,
        said.odds_next if said else None,
        getattr(stay, "cures", None),
    )


def _standing(
    p: Prescription,
    today: date,
    since: date | None,
    said: Mapping[int, Proposal],
    recent: Mapping[int, list[JudgedDay]],
) -> Standing:
    stays = list(p.stays.all())
    rungs = p.rung_count
    current = next((s for s in stays if s.left is None), None)
    rows, before, chart = climb_of(p, today, since)
    marks = [row.verdict for row in rows if current and row.stay == current.pk]
    last = recent.get(current.pk, []) if current else []
    lines = _lines(current, last, said.get(current.pk)) if current else []
    lines += [line for line in [cost_line(current) if current else ""] if line]
    moves = moves_of(current, rungs) if current else []
    return Standing(p, current, rungs, marks, chart, rows[::-1], before, lines, last, moves, today)
