"""Storing many drills and ladders at once: a handful of questions to the database, however many there are.

What is stored is checked as a form would check it; a fault is told with its drill or rung, and then nothing is stored.
"""

from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from django.db.models import Model

from drill_ladder.apps.history.services import AT_ONCE, record_all
from drill_ladder.apps.library.changing import refuse_evidence
from drill_ladder.apps.library.drills.services import refuse_misfits
from drill_ladder.apps.library.ladders.services import own_rule, refuse_worked_on
from drill_ladder.apps.library.models import Drill, Ladder, Rung, Skill, Treatment
from drill_ladder.apps.library.signals import needs_changed
from drill_ladder.apps.people.models import Club, Membership
from drill_ladder.apps.people.services import by_names, check_row, update_all

Document = Mapping[str, Any]
TREATED = ("fault", "cue")
RUNG_FIELDS = ("title", "changes", "axis", "dose", "target", "floor", "rule", "plan", "intent", "tempo", "reps_high")


def store_drills(member: Membership, given: Sequence[Document]) -> None:
    """Drills that are new or changed, matched by name; home work that they concern is looked at again."""
    titles = [one["title"] for one in given]
    known = {d.title: d for d in Drill.objects.of_club(member.club).filter(title__in=titles).select_for_update()}
    skills = by_names(Skill, member.club, (one["skill"] for one in given))
    new: list[Drill] = []
    changed: list[Drill] = []
    for one in given:
        drill = known.get(one["title"]) or Drill(club=member.club)
        for key, value in one.items():
            if key not in ("skill", "treatments"):
                setattr(drill, key, value)
        drill.skill = skills.get(one["skill"].strip().casefold())
        check_row(drill, f"“{drill.title}”")
        (new if drill.pk is None else changed).append(drill)
    for drill in changed:
        drill.revision += 1
    refuse_misfits(changed)
    Drill.objects.bulk_create(new, AT_ONCE)
    fields = [key for key in given[0] if key not in ("skill", "treatments")] if given else []
    update_all(changed, [*fields, "skill", "revision"])
    _note(member, "added a drill", new)
    _note(member, "changed a drill", changed)
    needs_changed.send(sender=Drill, drills=[drill.pk for drill in changed], actor=member.user)


def store_ladders(member: Membership, given: Sequence[Document]) -> None:
    """Ladders that are new or changed, matched by name, with their rungs from the bottom.

    Raises Refused where a rung would go that players have worked on.
    """
    known = {ladder.title: ladder for ladder in Ladder.objects.of_club(member.club).for_file()}
    drills = {drill.title: drill for drill in Drill.objects.of_club(member.club)}
    skills = by_names(Skill, member.club, (one["skill"] for one in given))
    filled = []
    for one in given:
        ladder = known.get(one["title"]) or Ladder(club=member.club, title=one["title"])
        ladder.purpose, ladder.rule = one["purpose"], one["rule"]
        ladder.skill = skills.get(one["skill"].strip().casefold())
        check_row(ladder, f"“{ladder.title}”")
        filled.append((ladder, _filled_rungs(ladder, one["rungs"], drills)))
    new = [ladder for ladder, _ in filled if ladder.pk is None]
    changed = [ladder for ladder, _ in filled if ladder.pk is not None]
    for ladder in changed:
        ladder.revision += 1
    _drop_rungs([(ladder, rungs) for ladder, rungs in filled if ladder.pk is not None])
    Ladder.objects.bulk_create(new, AT_ONCE)
    update_all(changed, ["purpose", "rule", "skill", "revision"])
    _store_rungs([rung for _, rungs in filled for rung in rungs])
    _note(member, "added a ladder", new)
    _note(member, "changed a ladder", changed)
    concerned = {rung.drill_id for ladder, rungs in filled if ladder in changed for rung in rungs}
    needs_changed.send(sender=Drill, drills=list(concerned), actor=member.user)


def _filled_rungs(ladder: Ladder, given: Sequence[Document], drills: Mapping[str, Drill]) -> list[Rung]:
    """The ladder's rungs as the file has them: those that are there, place by place, then new ones."""
    standing = list(ladder.rungs.all()) if ladder.pk else []
    rungs = []
    for position, one in enumerate(given, 1):
        there = position <= len(standing)
        rung = standing[position - 1] if there else Rung(club_id=ladder.club_id, ladder=ladder)
        rung.drill, rung.position = drills[one["drill"]], position
        for key, value in _fields(one).items():
            setattr(rung, key, own_rule(rung.rule, value) if key == "rule" and there else value)
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
    fields = [*RUNG_FIELDS, "ease_note", "success_low", "success_high", "drill", "position"]
    update_all([rung for rung in rungs if rung.pk is not None], fields)
    Rung.objects.bulk_create([rung for rung in rungs if rung.pk is None], AT_ONCE)


def _fields(rung: Document) -> dict[str, Any]:
    low, high = rung["success"] or (None, None)
    ease = rung["ease"]["note"] if rung["ease"] else ""
    return {key: rung[key] for key in RUNG_FIELDS} | {"ease_note": ease, "success_low": low, "success_high": high}


def store_treatments(club: Club, given: Sequence[Document]) -> None:
    """What treats the faults of these drills, anew: after drills and rungs are there, for they are what treats."""
    drills = {drill.title: drill for drill in Drill.objects.of_club(club)}
    rungs = {(r.ladder.title, r.title): r for r in Rung.objects.filter(club=club).select_related("ladder")}
    Treatment.objects.filter(drill__in=[drills[one["title"]] for one in given]).delete()
    rows = [
        Treatment(
            club=club,
            drill=drills[one["title"]],
            by_drill=drills.get(treats["drill"]),
            by_rung=rungs.get((treats["ladder"], treats["rung"])),
            **{key: treats[key] for key in TREATED},
        )
        for one in given
        for treats in one["treatments"]
    ]
    Treatment.objects.bulk_create(rows, AT_ONCE)


def _note(member: Membership, verb: str, rows: Iterable[Model]) -> None:
    record_all(club_id=member.club_id, actor=member.user, verb=verb, subjects=rows)
