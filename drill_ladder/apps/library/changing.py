"""Changing rows of the library: locked, checked, counted and noted.

Players keep the terms they arrived with (Stay.terms): nothing here touches results.
"""

from collections.abc import Iterable
from typing import TypeVar

from drill_ladder.apps.history.services import record
from drill_ladder.apps.library.models import Drill, Ladder, Routine, Rung
from drill_ladder.apps.library.signals import needs_changed
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership
from drill_ladder.apps.people.players import lock_club, refuse_overtaken
from drill_ladder.core.judging import Evidence

Changing = TypeVar("Changing", Drill, Ladder, Routine)


def locked(row: Changing, revision: int) -> Changing:
    """The row, locked for a change that began at a revision. Raises Overtaken when somebody was
    quicker.
    """
    lock_club(row.club_id)
    current = type(row)._default_manager.select_for_update().get(pk=row.pk)
    refuse_overtaken(current, revision)
    return current


def _refuse_same_title(member: Membership, row: Drill | Ladder) -> None:
    """Two who add the same at once: the second is told, as if they came an hour later. Raises
    Refused.
    """
    lock_club(member.club_id)
    same = type(row)._default_manager.filter(club=member.club, title__iexact=row.title)
    if same.exclude(pk=row.pk).exists():
        raise Refused(
            f"There is a {type(row).__name__.lower()} of the name “{row.title}” already. Nothing "
            "was saved."
        )


def store(member: Membership, row: Drill | Ladder, verb: str, **details: object) -> None:
    """Save a new or changed row that can be read, count the change, and note who made it."""
    _refuse_same_title(member, row)
    if row.pk is not None:
        row.revision += 1
    row.full_clean()
    row.save()
    record(club_id=member.club_id, actor=member.user, verb=verb, subject=row, **details)


def locked_rung(rung: Rung, revision: int) -> tuple[Ladder, Rung]:
    """A rung for a change that began at a revision of its ladder, both locked. Raises Overtaken."""
    ladder = locked(rung.ladder, revision)
    return ladder, Rung.objects.select_for_update(of=("self",)).select_related("drill").get(
        pk=rung.pk
    )


def store_rung(
    member: Membership, ladder: Ladder, rung: Rung, verb: str, **details: object
) -> None:
    """Save one changed rung that can be read; the change is one of its ladder."""
    rung.full_clean(validate_constraints=False)
    rung.save()
    store(member, ladder, verb, rung=rung.position, **details)


def tell_needs_changed(member: Membership, drills: list[int]) -> None:
    """What is prescribed for home is looked at again."""
    needs_changed.send(sender=Drill, drills=drills, actor=member.user)


def refuse_evidence(ladder: Ladder, rungs: Iterable[Rung]) -> None:
    """Evidence is for makes: a rung scored otherwise would never climb by it. Raises Refused."""
    for rung in rungs:
        rule = rung.rule or ladder.rule
        if isinstance(rule.school, Evidence) and not rung.drill.measure.counts_makes:
            raise Refused(
                f"The evidence rule is for drills that count good ones, and rung {rung.position}, "
                f"“{rung.title}”, does "
                "not: give that rung a rule of its own, or choose another school. Nothing was "
                "saved."
            )
