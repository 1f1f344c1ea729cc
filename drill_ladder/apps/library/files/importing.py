"""Storing many drills and ladders at once: a handful of questions to the database, however many
there are.

What is stored is checked as a form would check it; a fault is told with its drill or rung, and then
nothing is stored.
"""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import fields

from django.db.models import Model

from drill_ladder.apps.history.services import AT_ONCE, record_all
from drill_ladder.apps.library.changing import refuse_evidence
from drill_ladder.apps.library.drills import refuse_misfits
from drill_ladder.apps.library.ladders import own_rule, refuse_worked_on
from drill_ladder.apps.library.models import CORE_COLUMNS, Drill, Ladder, Rung, Skill, Treatment
from drill_ladder.apps.library.signals import needs_changed
from drill_ladder.apps.people.models import Club, Membership
from drill_ladder.apps.people.players import by_names, check_row, update_all
from drill_ladder.formats.library_values import FileDrill, FileLadder, FileRung

# the columns that a file's drill and a stored one have alike
SAME = tuple(field.name for field in fields(FileDrill) if field.name not in ("skill", "treatments"))


def store_drills(member: Membership, drills: Sequence[FileDrill]) -> None:
    """Drills that are new or changed, matched by name; home work that they concern is looked at
    again.
    """
    titles = [drill.title for drill in drills]
    there = {
        row.title: row
        for row in Drill.objects.of_club(member.club).titled(titles).select_for_update()
    }
    skills = by_names(Skill, member.club, (drill.skill for drill in drills))
    new: list[Drill] = []
    changed: list[Drill] = []
    for drill in drills:
        row = there.get(drill.title) or Drill(club=member.club)
        for name in SAME:
            setattr(row, name, getattr(drill, name))
        row.skill = skills.get(drill.skill.strip().casefold())
        check_row(row, f"“{row.title}”")
        (new if row.pk is None else changed).append(row)
    for row in changed:
        row.revision += 1
    refuse_misfits(changed)
    Drill.objects.bulk_create(new, AT_ONCE)
    update_all(changed, [*SAME, "skill", "revision"])
    _note(member, "added a drill", new)
    _note(member, "changed a drill", changed)
    needs_changed.send(sender=Drill, drills=[row.pk for row in changed], actor=member.user)


def store_ladders(member: Membership, ladders: Sequence[FileLadder]) -> None:
    """Ladders that are new or changed, matched by name, with their rungs from the bottom.

    Raises Refused where a rung would go that players have worked on.
    """
    there = {row.title: row for row in Ladder.objects.of_club(member.club).for_file()}
    drills = {row.title: row for row in Drill.objects.of_club(member.club)}
    skills = by_names(Skill, member.club, (ladder.skill for ladder in ladders))
    filled = []
    for ladder in ladders:
        row = there.get(ladder.title) or Ladder(club=member.club, title=ladder.title)
        row.purpose, row.rule = ladder.purpose, ladder.rule
        row.skill = skills.get(ladder.skill.strip().casefold())
        check_row(row, f"“{row.title}”")
        filled.append((row, _filled_rungs(row, ladder.rungs, drills)))
    new = [row for row, _ in filled if row.pk is None]
    changed = [row for row, _ in filled if row.pk is not None]
    for row in changed:
        row.revision += 1
    _drop_rungs([(row, rungs) for row, rungs in filled if row.pk is not None])
    Ladder.objects.bulk_create(new, AT_ONCE)
    update_all(changed, ["purpose", "rule", "skill", "revision"])
    _store_rungs([rung for _, rungs in filled for rung in rungs])
    _note(member, "added a ladder", new)
    _note(member, "changed a ladder", changed)
    concerned = {rung.drill_id for row, rungs in filled if row in changed for rung in rungs}
    needs_changed.send(sender=Drill, drills=list(concerned), actor=member.user)


def _filled_rungs(
    ladder: Ladder, sent: Sequence[FileRung], drills: Mapping[str, Drill]
) -> list[Rung]:
    """The ladder's rungs as the file has them: those that are there, place by place, then
    new ones.
    """
    standing = list(ladder.rungs.all()) if ladder.pk else []
    rungs = []
    for position, one in enumerate(sent, 1):
        there = position <= len(standing)
        rung = standing[position - 1] if there else Rung(club_id=ladder.club_id, ladder=ladder)
        rule = own_rule(rung.rule, one.core.rule) if there else one.core.rule
        rung.drill, rung.position, rung.changes, rung.plan = (
            drills[one.drill],
            position,
            one.changes,
            one.plan,
        )
        rung.core, rung.rule = one.core, rule
        check_row(rung, f"Rung {position} of “{ladder}”")
        rungs.append(rung)
    refuse_evidence(ladder, rungs)
    return rungs


def _drop_rungs(changed: Sequence[tuple[Ladder, list[Rung]]]) -> None:
    """The rungs that the file has no more. Raises Refused for those that players have worked on."""
    kept = {rung.pk for _, rungs in changed for rung in rungs}
    gone = [rung for ladder, _ in changed for rung in ladder.rungs.all() if rung.pk not in kept]
    refuse_worked_on(gone)
    Rung.objects.filter(pk__in=[rung.pk for rung in gone]).delete()


def _store_rungs(rungs: Sequence[Rung]) -> None:
    columns = [*CORE_COLUMNS, "changes", "plan", "drill", "position"]
    update_all([rung for rung in rungs if rung.pk is not None], columns)
    Rung.objects.bulk_create([rung for rung in rungs if rung.pk is None], AT_ONCE)


def store_treatments(club: Club, drills: Sequence[FileDrill]) -> None:
    """What treats the faults of these drills, anew: after drills and rungs are there, for they are
    what treats.
    """
    rows = {row.title: row for row in Drill.objects.of_club(club)}
    rungs = {
        (row.ladder.title, row.title): row
        for row in Rung.objects.filter(club=club).select_related("ladder")
    }
    Treatment.objects.filter(drill__in=[rows[drill.title] for drill in drills]).delete()
    Treatment.objects.bulk_create(
        [
            Treatment(
                club=club,
                drill=rows[drill.title],
                fault=treatment.fault,
                cue=treatment.cue,
                by_drill=rows.get(treatment.drill),
                by_rung=rungs.get((treatment.ladder, treatment.rung)),
            )
            for drill in drills
            for treatment in drill.treatments
        ],
        AT_ONCE,
    )


def _note(member: Membership, verb: str, rows: Iterable[Model]) -> None:
    record_all(club_id=member.club_id, actor=member.user, verb=verb, subjects=rows)
