"""Changing the library. Players keep the terms they arrived with (Stay.terms): nothing here touches results."""

from collections.abc import Iterable
from dataclasses import replace
from datetime import date
from typing import Any, TypeVar

from django.db import transaction

from drill_ladder.apps.history.services import record
from drill_ladder.apps.library.models import Drill, Ladder, Rung, Skill, Treatment
from drill_ladder.apps.library.odds import USUAL, lanes_asked
from drill_ladder.apps.library.signals import needs_changed
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership
from drill_ladder.apps.people.services import by_name, lock_club, refuse_overtaken, refuse_unless_coach
from drill_ladder.formats.documents import part_faults, rule_from, rung_from
from drill_ladder.formats.rule_document import rule_document

NEW_RULE = {"school": "in_a_row", "passes": 2}
Changing = TypeVar("Changing", Drill, Ladder)


def locked(row: Changing, revision: int) -> Changing:
    """The row, locked for a change that began at a revision. Raises Overtaken when somebody was quicker."""
    lock_club(row.club_id)
    current = type(row)._default_manager.select_for_update().get(pk=row.pk)
    refuse_overtaken(current, revision)
    return current


def _refuse_same_title(member: Membership, row: Drill | Ladder) -> None:
    """Two who add the same at once: the second is told, as if they came an hour later. Raises Refused."""
    lock_club(member.club_id)
    same = type(row)._default_manager.filter(club=member.club, title__iexact=row.title)
    if same.exclude(pk=row.pk).exists():
        raise Refused(f"There is a {type(row).__name__.lower()} of the name “{row.title}” already. Nothing was saved.")


def _store(member: Membership, row: Drill | Ladder, verb: str, **details: Any) -> None:
    """Save a new or changed row that can be read, count the change, and note who made it."""
    _refuse_same_title(member, row)
    if row.pk is not None:
        row.revision += 1
    row.full_clean()
    row.save()
    record(club_id=member.club_id, actor=member.user, verb=verb, subject=row, **details)


def _locked_rung(rung: Rung, revision: int) -> tuple[Ladder, Rung]:
    """A rung for a change that began at a revision of its ladder, both locked. Raises Overtaken."""
    ladder = locked(rung.ladder, revision)
    return ladder, Rung.objects.select_for_update(of=("self",)).select_related("drill").get(pk=rung.pk)


def _store_rung(member: Membership, ladder: Ladder, rung: Rung, verb: str, **details: Any) -> None:
    """Save one changed rung that can be read; the change is one of its ladder."""
    rung.full_clean(validate_constraints=False)
    rung.save()
    _store(member, ladder, verb, rung=rung.position, **details)


@transaction.atomic
def save_plan(*, member: Membership, drill: Drill, plan: dict[str, Any] | None, revision: int) -> Drill:
    """Give a drill another floor plan (None takes it away). Raises Refused."""
    refuse_unless_coach(member)
    current = locked(drill, revision)
    current.plan = plan
    _store(member, current, "changed the floor plan")
    _needs_changed(member, [current.pk])
    return current


def _needs_changed(member: Membership, drills: list[int]) -> None:
    """What is prescribed for home is looked at again."""
    needs_changed.send(sender=Drill, drills=drills, actor=member.user)


@transaction.atomic
def save_rung_plan(*, member: Membership, rung: Rung, plan: dict[str, Any] | None, revision: int) -> Rung:
    """Set a drill up otherwise on one rung (None: as the drill has it). revision: the ladder's. Raises Refused."""
    refuse_unless_coach(member)
    current, found = _locked_rung(rung, revision)
    found.plan = None if plan == found.drill.plan else plan
    _store_rung(member, current, found, "changed a rung's floor plan")
    _needs_changed(member, [found.drill_id])
    return found


@transaction.atomic
def save_drill(
    *,
    member: Membership,
    drill: Drill | None,
    values: dict[str, Any],
    skill: str,
    revision: int = 0,
    treatments: list[dict[str, Any]] | None = None,
) -> Drill:
    """A new drill (None) or a changed one. Raises Refused where a rung's target would not fit any more.

    treatments: what treats its faults, {fault, cue, by_drill_id, by_rung_id}; None leaves them as they are.
    """
    refuse_unless_coach(member)
    current = locked(drill, revision) if drill else Drill(club=member.club)
    for key, value in values.items():
        setattr(current, key, value)
    current.skill = by_name(Skill, member.club, skill)
    if drill:
        refuse_misfits([current])
    _store(member, current, "changed a drill" if drill else "added a drill")
    if treatments is not None:
        set_treatments(current, treatments)
    if drill:
        _needs_changed(member, [current.pk])
    return current


def set_treatments(drill: Drill, treatments: list[dict[str, Any]]) -> None:
    """What treats the faults of a drill, anew."""
    drill.treatments.all().delete()
    Treatment.objects.bulk_create(Treatment(club_id=drill.club_id, drill=drill, **one) for one in treatments)


def refuse_misfits(drills: list[Drill]) -> None:
    """Every rung that uses one of the drills still has to read with its measure and lanes. Raises Refused."""
    by_pk = {drill.pk: drill for drill in drills}
    for rung in Rung.objects.filter(drill__in=by_pk).select_related("ladder"):
        rung.drill = by_pk[rung.drill_id]
        faults = part_faults("rung", rung.document())
        if faults:
            raise Refused(
                f"Rung {rung.position} of “{rung.ladder}” would not fit any more ({faults[0]}). Nothing was saved: "
                "make a copy of this drill instead, or change that rung first."
            )


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
    _store(member, current, "changed a ladder" if ladder else "added a ladder")
    _store_rungs(current, rungs)
    refuse_evidence(current, current.rungs.select_related("drill"))
    if ladder:
        _needs_changed(member, [drill.pk for _, drill, _ in rungs])
    return current


def refuse_evidence(ladder: Ladder, rungs: Iterable[Rung]) -> None:
    """Evidence is for makes: a rung scored otherwise would never climb by it. Raises Refused."""
    for rung in rungs:
        rule = rung.rule or ladder.rule
        if rule["school"] == "evidence" and rung.drill.measure["kind"] != "makes":
            raise Refused(
                f"The evidence rule is for drills that count good ones, and rung {rung.position}, “{rung.title}”, does "
                "not: give that rung a rule of its own, or choose another school. Nothing was saved."
            )


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


@transaction.atomic
def take_rule(*, member: Membership, ladder: Ladder, rule: dict[str, Any], revision: int) -> Ladder:
    """Give a ladder another rule, for everybody who arrives on a rung from now on. Raises Refused."""
    refuse_unless_coach(member)
    current = locked(ladder, revision)
    before = current.rule
    current.rule = rule
    refuse_evidence(current, current.rungs.select_related("drill"))
    _store(member, current, "changed the rule", before=before, after=rule)
    return current


@transaction.atomic
def take_mark(*, member: Membership, rung: Rung, school: str, makes: int, of: int, revision: int) -> Ladder:
    """Give one rung another mark: makes of so many attempts a session, in each lane or over those that share it.

    school: by which the mark was found; where the ladder climbs by another one, the rung gets a rule of its own.
    Floor, form and faults stay. Raises Refused.
    """
    refuse_unless_coach(member)
    current, found = _locked_rung(rung, revision)
    _, shared = lanes_asked(rung_from(found.document()))
    sets = found.dose.get("sets", 1)
    sets = sets if of % (sets * shared) == 0 else 1
    found.dose = {**found.dose, "sets": sets, "reps": of // (sets * shared)}
    found.target = {key: value for key, value in found.target.items() if key != "value"} | {"makes": makes, "of": of}
    found.reps_high = None
    ladders, wanted = rule_from(current.rule), USUAL[school]
    found.rule = None if ladders.school == wanted else rule_document(replace(ladders, school=wanted))
    _store_rung(member, current, found, "changed the mark of a rung", makes=makes, of=of)
    return current


def keep_marks(*, member: Membership, marks: dict[str, int]) -> None:
    """A coach's own marks stay with them, from ladder to ladder and from day to day."""
    if member.marks != marks:
        member.marks = marks
        member.save(update_fields=["marks"])


@transaction.atomic
def put_aside(*, member: Membership, row: Drill | Ladder, on: date | None) -> None:
    """Archive a drill or a ladder (None brings it back). Players who are on it go on; results stay."""
    refuse_unless_coach(member)
    row.archived_on = on
    row.save(update_fields=["archived_on"])
    record(club_id=member.club_id, actor=member.user, verb="archived" if on else "restored", subject=row)
