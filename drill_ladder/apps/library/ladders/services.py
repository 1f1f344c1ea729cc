"""Writing ladders with their rungs."""

from collections.abc import Iterable
from typing import Any

from django.db import transaction

from drill_ladder.apps.library.changing import locked, refuse_evidence, store, tell_needs_changed
from drill_ladder.apps.library.models import Drill, Ladder, Rung, Skill
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership
from drill_ladder.apps.people.services import by_name, refuse_unless_coach
from drill_ladder.formats.documents import rule_from

NEW_RULE = {"school": "in_a_row", "passes": 2}


@transaction.atomic
def save_ladder(
    *,
    member: Membership,
    ladder: Ladder | None,
    head: dict[str, Any],
    rungs: list[tuple[int | None, Drill, dict[str, Any]]],
    revision: int = 0,
    rule: dict[str, Any] | None = None,
) -> Ladder:
    """A new ladder (None) or a changed one, with its rungs from the bottom: (id or None, drill, fields).

    rule: of a new ladder; None: two passes in a row.

    Raises Refused where a rung would go that players have worked on, and then nothing has changed.
    """
    refuse_unless_coach(member)
    if not rungs:
        raise Refused("A ladder needs at least one rung. Nothing was saved.")
    current = locked(ladder, revision) if ladder else Ladder(club=member.club, rule=rule or NEW_RULE)
    current.title, current.purpose = head["title"], head["purpose"]
    current.skill = by_name(Skill, member.club, head["skill"])
    store(member, current, "changed a ladder" if ladder else "added a ladder")
    _store_rungs(current, rungs)
    refuse_evidence(current, current.rungs.select_related("drill"))
    if ladder:
        tell_needs_changed(member, [drill.pk for _, drill, _ in rungs])
    return current


def _store_rungs(ladder: Ladder, rungs: list[tuple[int | None, Drill, dict[str, Any]]]) -> None:
    known = {rung.pk: rung for rung in ladder.rungs.all()}
    kept = {pk for pk, _, _ in rungs if pk in known}
    gone = [rung for rung in known.values() if rung.pk not in kept]
    refuse_worked_on(gone)
    ladder.rungs.filter(pk__in=[rung.pk for rung in gone]).delete()
    for position, (pk, drill, fields) in enumerate(rungs, 1):
        rung = known[pk] if pk in kept else Rung(club_id=ladder.club_id, ladder=ladder)
        kept.discard(pk)  # a row that was sent twice does not write to the same rung twice
        rung.drill, rung.position = drill, position
        fields = {**fields, "rule": own_rule(rung.rule, fields.get("rule"))}
        for key, value in fields.items():
            setattr(rung, key, value)
        rung.full_clean(validate_constraints=False)
        rung.save()


def refuse_worked_on(rungs: Iterable[Rung]) -> None:
    """Raise Refused for a rung that would go though players have worked on it."""
    worked = Rung.objects.filter(pk__in=[rung.pk for rung in rungs], stays__isnull=False).first()
    if worked is not None:
        raise Refused(
            f"Players have worked on “{worked.title}”: it stays, so that their history does. Nothing was saved."
        )


def own_rule(stored: dict[str, Any] | None, given: dict[str, Any] | None) -> dict[str, Any] | None:
    """A rung's own rule: while its school stays the same, so do its gates, which no form shows."""
    if stored and given and rule_from(stored).school == rule_from(given).school:
        return stored
    return given
