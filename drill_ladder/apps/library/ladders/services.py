"""Writing ladders with their rungs."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from django.db import transaction

from drill_ladder.apps.library.changing import locked, refuse_evidence, store, tell_needs_changed
from drill_ladder.apps.library.models import Drill, Ladder, Rung, Skill
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership
from drill_ladder.apps.people.players import by_name, refuse_unless_coach
from drill_ladder.core.judging import InARow, Rule
from drill_ladder.core.judging import Rung as CoreRung
from drill_ladder.core.plans import FloorPlan

NEW_RULE = Rule(InARow(2))


@dataclass(frozen=True, slots=True)
class LadderHead:
    """What a ladder is called and for; skill by name, empty for none."""

    title: str
    skill: str = ""
    purpose: str = ""


@dataclass(frozen=True, slots=True)
class RungInput:
    """A rung to be stored: the stored one's id (None: a new one), its drill, what changes, its
    terms, its own plan.
    """

    pk: int | None
    drill: Drill
    changes: str
    core: CoreRung
    plan: FloorPlan | None = None


@transaction.atomic
def save_ladder(
    *,
    member: Membership,
    ladder: Ladder | None,
    head: LadderHead,
    rungs: Sequence[RungInput],
    revision: int = 0,
    rule: Rule | None = None,
) -> Ladder:
    """A new ladder (None) or a changed one, with its rungs from the bottom. rule: of a new ladder.

    Raises Refused where a rung would go that players have worked on, and then nothing has changed.
    """
    refuse_unless_coach(member)
    if not rungs:
        raise Refused("A ladder needs at least one rung. Nothing was saved.")
    current = (
        locked(ladder, revision) if ladder else Ladder(club=member.club, rule=rule or NEW_RULE)
    )
    current.title, current.purpose = head.title, head.purpose
    current.skill = by_name(Skill, member.club, head.skill)
    store(member, current, "changed a ladder" if ladder else "added a ladder")
    _store_rungs(current, rungs)
    refuse_evidence(current, current.rungs.select_related("drill"))
    if ladder:
        tell_needs_changed(member, [rung.drill.pk for rung in rungs])
    return current


def _store_rungs(ladder: Ladder, rungs: Sequence[RungInput]) -> None:
    known = {row.pk: row for row in ladder.rungs.all()}
    kept = {rung.pk for rung in rungs if rung.pk in known}
    gone = [row for row in known.values() if row.pk not in kept]
    refuse_worked_on(gone)
    ladder.rungs.filter(pk__in=[row.pk for row in gone]).delete()
    for position, rung in enumerate(rungs, 1):
        row = known[rung.pk] if rung.pk in kept else Rung(club_id=ladder.club_id, ladder=ladder)  # type: ignore[index]
        kept.discard(rung.pk)  # a row that was sent twice does not write to the same rung twice
        rule = own_rule(row.rule, rung.core.rule)
        row.drill, row.position, row.changes, row.plan = (
            rung.drill,
            position,
            rung.changes,
            rung.plan,
        )
        row.core, row.rule = rung.core, rule
        row.full_clean(validate_constraints=False)
        row.save()


def refuse_worked_on(rungs: Iterable[Rung]) -> None:
    """Raise Refused for a rung that would go though players have worked on it."""
    worked = Rung.objects.filter(pk__in=[rung.pk for rung in rungs], stays__isnull=False).first()
    if worked is not None:
        raise Refused(
            f"Players have worked on “{worked.title}”: it stays, so that their history does. "
            "Nothing was saved."
        )


def own_rule(stored: Rule | None, sent: Rule | None) -> Rule | None:
    """A rung's own rule: while its school stays the same, so do its gates, which no form shows."""
    return stored if stored and sent and stored.school == sent.school else sent
