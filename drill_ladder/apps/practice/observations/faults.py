"""Which fault is worth treating, by what, and the one cue to give."""

from collections import defaultdict
from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass
from datetime import date

from django.db.models import Count

from drill_ladder.apps.library.models import Drill, Treatment
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.coaching import RECENT, Misses, before_and_after, cue_for_set, worth_treating
from drill_ladder.core.coaching import Treatment as Remedy
from drill_ladder.core.judging import faults_by_name


@dataclass(frozen=True, slots=True)
class Advice:
    """The fault, how often it was counted among how many misses, and what treats it (None: nothing
    is noted).
    """

    fault: str
    count: int
    of: int
    treatment: Treatment | None


def fault_sessions(sessions: Iterable[Session]) -> list[Misses]:
    """Misses and their kinds, oldest first."""
    counted = []
    for session in sessions:
        sets = list(session.sets.all())
        counts = faults_by_name(one.faults for one in sets)
        missed = sum((s.attempts or 0) - (s.makes or 0) for s in sets if s.makes is not None)
        counted.append(Misses(missed, counts))
    return counted


def treatments_of(drill: Drill) -> dict[str, Treatment]:
    """Fault -> what treats it."""
    rows = drill.treatments.select_related("by_drill", "by_rung__ladder")
    return {row.fault: row for row in rows}


def advice(drill: Drill, sessions: Iterable[Session]) -> Advice | None:
    """The fault worth treating; None without faults."""
    treatments = treatments_of(drill)
    fault = worth_treating(fault_sessions(sessions), _core(treatments))
    return (
        None
        if fault is None
        else Advice(fault.fault, fault.count, fault.of, treatments.get(fault.fault))
    )


@dataclass(frozen=True, slots=True)
class Treated:
    """A fault that has a treatment: its share of the misses (0..1, None without misses) before it
    was the one to treat, and since.
    """

    fault: str
    shares: tuple[float | None, float | None]


def treated(drill: Drill, misses: Sequence[Misses]) -> Treated | None:
    """The fault that was treated first, as the cards gave its cue; None where nothing treats any.
    misses: session by session, oldest first.
    """
    treatments = _core(treatments_of(drill))
    for number in range(1, len(misses)):
        fault = worth_treating(misses[:number], treatments)
        if fault is not None and fault.fault in treatments:
            return Treated(fault.fault, before_and_after(misses, fault.fault, number))
    return None


def cues_of_the_day(stays: Collection[Stay], on: date) -> dict[int, str]:
    """Stay -> its ONE cue: it goes with the commonest fault that has one, and changes from session
    to session. A handful of questions, however many stays there are.
    """
    by_drill = _remedies({stay.worked_on.drill_id for stay in stays})
    asked = [stay for stay in stays if stay.worked_on.drill_id in by_drill]
    if not asked:
        return {}
    past = Session.objects.of_stays(asked).counted()
    number = dict(past.values_list("stay").annotate(Count("pk")).order_by())
    recent: dict[int, list[Session]] = defaultdict(list)
    for session in past.latest_of_each(RECENT):
        recent[session.stay_id].append(session)
    cues = {
        stay.pk: cue_for_set(
            fault_sessions(recent[stay.pk]),
            by_drill[stay.worked_on.drill_id],
            number.get(stay.pk, 0) + 1,
            _age(stay, on),
        )
        for stay in asked
    }
    return {pk: cue for pk, cue in cues.items() if cue}


def _remedies(drills: set[int]) -> dict[int, dict[str, Remedy]]:
    """Drill -> what treats its faults, of drills that have a cue for any."""
    rows = Treatment.objects.filter(drill__in=drills).select_related("by_drill", "by_rung__ladder")
    by_drill: dict[int, dict[str, Treatment]] = defaultdict(dict)
    for row in rows:
        by_drill[row.drill_id][row.fault] = row
    return {
        pk: _core(known) for pk, known in by_drill.items() if any(r.cue for r in known.values())
    }


def _age(stay: Stay, on: date) -> int | None:
    born = stay.prescription.player.birth_month
    return None if born is None else (on - born).days // 365


def _core(known: dict[str, Treatment]) -> dict[str, Remedy]:
    return {
        name: Remedy(row.cue, str(row.by_rung or ""), str(row.by_drill or ""))
        for name, row in known.items()
    }
