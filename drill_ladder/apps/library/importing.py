"""Storing many drills and ladders at once: a handful of questions to the database, however many there are.

What is stored is checked as a form would check it; a fault is told with its drill or rung, and then nothing is stored.
"""

from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from django.core.exceptions import ValidationError
from django.db.models import Model

from drill_ladder.apps.history.services import record_all
from drill_ladder.apps.library.models import Drill, Ladder, Rung, Skill, Treatment
from drill_ladder.apps.library.services import refuse_evidence, refuse_misfits, save_ladder, take_rule
from drill_ladder.apps.library.signals import needs_changed
from drill_ladder.apps.people.models import Club, Membership
from drill_ladder.apps.people.services import check_row, refusal, update_all

Document = Mapping[str, Any]
AT_ONCE = 500  # rows of one statement
TREATED = ("fault", "cue")
RUNG_FIELDS = ("title", "changes", "axis", "dose", "target", "floor", "rule", "plan", "intent", "tempo", "reps_high")


def store_drills(member: Membership, given: Sequence[Document]) -> None:
    """Drills that are new or changed, matched by name; home work that they concern is looked at again."""
    titles = [one["title"] for one in given]
    known = {d.title: d for d in Drill.objects.of_club(member.club).filter(title__in=titles).select_for_update()}
    skills = _skills(member.club, (one["skill"] for one in given))
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
    """Ladders that are new or changed, matched by name."""
    known = {ladder.title: ladder for ladder in Ladder.objects.of_club(member.club).for_file()}
    drills = {drill.title: drill for drill in Drill.objects.of_club(member.club)}
    _add([one for one in given if one["title"] not in known], member, drills)
    for one in given:
        if one["title"] in known:
            _change(member, known[one["title"]], one, drills)


def _add(given: Sequence[Document], member: Membership, drills: Mapping[str, Drill]) -> None:
    skills = _skills(member.club, (one["skill"] for one in given))
    ladders = []
    for one in given:
        ladder = Ladder(club=member.club, title=one["title"], purpose=one["purpose"], rule=one["rule"])
        ladder.skill = skills.get(one["skill"].strip().casefold())
        check_row(ladder, f"“{ladder.title}”")
        ladders.append(ladder)
    Ladder.objects.bulk_create(ladders, AT_ONCE)
    rungs = []
    for ladder, one in zip(ladders, given, strict=True):
        mine = [
            Rung(club=member.club, ladder=ladder, position=n, drill=drills[rung["drill"]], **_fields(rung))
            for n, rung in enumerate(one["rungs"], 1)
        ]
        for rung in mine:
            check_row(rung, f"Rung {rung.position} of “{ladder}”")
        refuse_evidence(ladder, mine)
        rungs += mine
    Rung.objects.bulk_create(rungs, AT_ONCE)
    _note(member, "added a ladder", ladders)


def _change(member: Membership, known: Ladder, given: Document, drills: Mapping[str, Drill]) -> None:
    standing = [rung.pk for rung in known.rungs.all()]
    rungs = [
        (standing[i] if i < len(standing) else None, drills[rung["drill"]], _fields(rung))
        for i, rung in enumerate(given["rungs"])
    ]
    head = {key: given[key] for key in ("title", "purpose", "skill")}
    try:
        saved = save_ladder(member=member, ladder=known, head=head, rungs=rungs, revision=known.revision)
        if saved.rule != given["rule"]:
            take_rule(member=member, ladder=saved, rule=given["rule"], revision=saved.revision)
    except ValidationError as error:
        raise refusal(error, f"“{known}”") from None


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


def _skills(club: Club, names: Iterable[str]) -> dict[str, Skill]:
    """The club's skills by name, those that are new made at once."""
    wanted = {name.strip().casefold(): name.strip() for name in names if name.strip()}
    known = {skill.name.casefold(): skill for skill in Skill.objects.filter(club=club)}
    new = [Skill(club=club, name=name) for key, name in wanted.items() if key not in known]
    Skill.objects.bulk_create(new, AT_ONCE, ignore_conflicts=True)
    if new:
        known = {skill.name.casefold(): skill for skill in Skill.objects.filter(club=club)}
    return known


def _note(member: Membership, verb: str, rows: Iterable[Model]) -> None:
    record_all(club_id=member.club_id, actor=member.user, verb=verb, subjects=rows)
