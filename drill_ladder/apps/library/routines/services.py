"""Writing routines, and taking them out and in as file values."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from django.db import transaction

from drill_ladder.apps.history.services import record
from drill_ladder.apps.library.changing import locked
from drill_ladder.apps.library.models import Drill, Ladder, Routine, RoutinePart, Rung
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership
from drill_ladder.apps.people.players import lock_club, refuse_unless_coach
from drill_ladder.core.judging import ByCoach, Dose, Measure, Rule
from drill_ladder.formats.measures import form_of


@dataclass(frozen=True, slots=True)
class PartInput:
    """A part as it was typed: a ladder, or a plain drill. together: judged in the same repetitions
    as the part before it.
    """

    of: Ladder | Drill
    sets: int | None = None
    keep: bool = False
    insert_after: bool = False
    together: bool = False


@dataclass(frozen=True, slots=True)
class RoutineHead:
    """What a routine is called and for; the insert: of which part (from 0), attempts, seconds of
    each; None for none.
    """

    title: str
    purpose: str = ""
    change_s: float = 20
    insert: tuple[int, int, float] | None = None


@transaction.atomic
def save_routine(
    *,
    member: Membership,
    routine: Routine | None,
    head: RoutineHead,
    parts: Sequence[PartInput],
    revision: int = 0,
) -> Routine:
    """A new routine (None) or a changed one. A plain drill gets a ladder of one rung, on which
    nothing progresses. Raises Refused.
    """
    refuse_unless_coach(member)
    lock_club(member.club_id)
    if not parts:
        raise Refused("A routine needs at least one part. Nothing was saved.")
    row = locked(routine, revision) if routine else Routine(club=member.club)
    ladders = [_ladder_of(member, part.of) for part in parts]
    if len(set(ladders)) < len(ladders):
        raise Refused("A ladder stands twice in this routine. Nothing was saved.")
    _refuse_together(ladders, parts)
    row.title, row.purpose, row.change_s = head.title, head.purpose, head.change_s
    row.insert_of, row.insert_reps, row.insert_s = None, None, None
    if head.insert is not None:
        at, row.insert_reps, row.insert_s = head.insert
        row.insert_of = ladders[at]
    _store(member, row, zip(ladders, parts, strict=True), "changed" if routine else "added")
    return row


def _refuse_together(ladders: Sequence[Ladder], parts: Sequence[PartInput]) -> None:
    """Only what is counted repetition by repetition can be judged in the same ones."""
    asked = set[Ladder]()
    for before, ladder, part in zip(ladders, ladders[1:], parts[1:], strict=False):
        asked |= {before, ladder} if part.together else set()
    for ladder in asked:
        rungs = ladder.rungs.with_drill()
        if any(not _by_repetition(rung.drill.measure) for rung in rungs):
            raise Refused(
                f"{ladder} is not counted repetition by repetition, so it cannot be judged in the "
                "same ones as another part. Nothing was saved."
            )


def _by_repetition(measure: Measure) -> bool:
    return measure.counts_attempts or measure.in_rows


def _store(
    member: Membership, row: Routine, parts: Iterable[tuple[Ladder, PartInput]], verb: str
) -> None:
    if row.pk is not None:
        row.revision += 1
    row.full_clean()
    row.save()
    row.parts.all().delete()
    RoutinePart.objects.bulk_create(
        RoutinePart(
            club=member.club,
            routine=row,
            ladder=ladder,
            position=position,
            sets=part.sets,
            keep=part.keep,
            insert_after=part.insert_after,
            together=part.together and position > 1,
        )
        for position, (ladder, part) in enumerate(parts, 1)
    )
    record(club_id=member.club_id, actor=member.user, verb=f"{verb} a routine", subject=row)


def _ladder_of(member: Membership, of: Ladder | Drill) -> Ladder:
    """The ladder itself; for a plain drill its ladder of one rung, made where there is none."""
    if isinstance(of, Ladder):
        return of
    ladders = Ladder.objects.of_club(member.club)
    known = ladders.filter(title=of.title).prefetch_related("rungs").first()
    if known is not None and [rung.drill_id for rung in known.rungs.all()] == [of.pk]:
        return known
    title = of.title if known is None else f"{of.title[:100]} (one rung)"
    ladder, made = ladders.get_or_create(
        club=member.club, title=title, defaults={"rule": Rule(ByCoach()), "skill": of.skill}
    )
    if made:
        dose = Dose(1, 10 if of.measure.counts_attempts else None)
        rung = Rung(club=member.club, ladder=ladder, drill=of, position=1, title=of.title[:120])
        rung.dose, rung.target = dose, form_of(of.measure).first(of.measure)
        rung.full_clean()
        rung.save()
    return ladder


def known_ladders(member: Membership, titles: Iterable[str]) -> Mapping[str, Ladder]:
    """The club's ladders of some names."""
    return {row.title: row for row in Ladder.objects.of_club(member.club).titled(list(titles))}
