"""How fast a rung is done today: between the tempo it asks for and the one up to which it may rise,
by what was clean so far (docs/methods.md, 28).
"""

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass

from drill_ladder.apps.practice.models import SetRow
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.coaching import TempoSet, tempo_of
from drill_ladder.core.judging import Rung
from drill_ladder.core.work import Work
from drill_ladder.formats.words import tempo_word

STEPS = (0.5, 0.75, 1.0)
FAULT_LIMIT = 0.1  # share of attempts with a fault that is still clean: common practice, no source


@dataclass(frozen=True, slots=True)
class Beside:
    """What goes with every set: the words of the eased variant, the tempos to choose from, that of
    today and that of the rung (percent of full speed), and the seconds of one repetition.
    """

    easing: str = ""
    tempos: tuple[tuple[str, str], ...] = ()
    tempo: str = ""
    asked: str = ""
    pace: float = 0.0
    why: str = ""


def beside_of(work: Work) -> Beside:
    """What goes with every set of a rung, for the pad and the instruments."""
    rung, conduct = work.rung, work.conduct
    pace = rung.dose.s_per_rep or 0.0
    if rung.tempo is None or conduct.tempo is None:
        return Beside(work.how.easier, pace=pace)
    named = tuple((_percent(t), words) for t, words in tempo_choices(rung, conduct.tempo))
    now, asked = _percent(conduct.tempo), _percent(rung.tempo)
    return Beside(work.how.easier, named, now, asked, pace, conduct.tempo_why)


def tempo_choices(rung: Rung, *more: float) -> list[tuple[float, str]]:
    """(Share of full speed, words) to choose from: the rung's bounds, the usual steps up to them,
    and some more; none where the rung tells no tempo.
    """
    if rung.tempo is None:
        return []
    high = rung.tempo_high or rung.tempo
    steps = sorted({rung.tempo, high, *more, *(t for t in STEPS if t <= high)})
    return [(t, tempo_word(t)) for t in steps]


def sets_at_tempo(stays: Iterable[Stay]) -> dict[int, list[SetRow]]:
    """Stay -> its sets that were done at a told tempo, oldest first; by one question."""
    by_stay: dict[int, list[SetRow]] = defaultdict(list)
    for row in SetRow.objects.at_tempo(stays).select_related("session"):
        by_stay[row.session.stay_id].append(row)
    return by_stay


def tempo_now(rung: Rung, rows: Iterable[SetRow]) -> tuple[float, str]:
    """The tempo of today with a line why; inside the bounds of the rung. rows: of the stay, at a
    told tempo, oldest first.
    """
    low = rung.tempo or 1.0
    high = rung.tempo_high or low
    sets = tempo_sets(rows)
    tempo = tempo_of(sets, limit_of(rung))
    if tempo.next is None and tempo.fastest_clean is None:
        return low, ""
    wanted = tempo.next if tempo.next is not None else tempo.fastest_clean or low
    now = min(max(wanted, low), high)
    return now, _why(now, sets[-1].tempo, tempo.latest_clean)


def _why(now: float, last: float, clean: bool | None) -> str:
    if now > last and clean:
        return "It was clean: a little faster today."
    if now < last:
        return "There were too many faults at the last tempo: a little slower today."
    return ""


def limit_of(rung: Rung) -> float:
    """The share of attempts with a fault that is still clean: the rung's ceiling, where it has
    one.
    """
    most, attempts = rung.target.faults_max, rung.default_attempts
    return most / attempts if most is not None and attempts else FAULT_LIMIT


def tempo_sets(rows: Iterable[SetRow]) -> list[TempoSet]:
    """Sets whose faults somebody counted; an attempt has one fault, as far as anybody can say."""
    return [
        TempoSet(
            row.tempo, row.attempts, row.makes or 0, min(row.attempts, sum(row.faults.values()))
        )
        for row in rows
        if row.tempo is not None and row.attempts is not None and row.faults is not None
    ]


def _percent(tempo: float) -> str:
    return f"{tempo * 100:.0f}"
