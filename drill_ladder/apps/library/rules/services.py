"""Taking rules and marks."""

from dataclasses import replace

from django.db import transaction

from drill_ladder.apps.library.changing import (
    locked,
    locked_rung,
    refuse_evidence,
    store,
    store_rung,
)
from drill_ladder.apps.library.models import Ladder, Rung
from drill_ladder.apps.library.rules.odds import USUAL, lanes_asked
from drill_ladder.apps.people.models import Membership
from drill_ladder.apps.people.players import refuse_unless_coach
from drill_ladder.core.judging import Rule
from drill_ladder.formats.documents import RULE


@transaction.atomic
def take_rule(*, member: Membership, ladder: Ladder, rule: Rule, revision: int) -> Ladder:
    """Give a ladder another rule, for everybody who arrives on a rung from now on. Raises
    Refused.
    """
    refuse_unless_coach(member)
    current = locked(ladder, revision)
    before = current.rule
    current.rule = rule
    refuse_evidence(current, current.rungs.select_related("drill"))
    store(member, current, "changed the rule", before=RULE.write(before), after=RULE.write(rule))
    return current


@transaction.atomic
def take_mark(
    *, member: Membership, rung: Rung, school: str, makes: int, of: int, revision: int
) -> Ladder:
    """Give one rung another mark: makes of so many attempts a session, in each lane or over those
    that share it.

    school: by which the mark was found; where the ladder climbs by another one, the rung gets a
    rule of its own. Floor, form and faults stay. Raises Refused.
    """
    refuse_unless_coach(member)
    current, marks = locked_rung(rung, revision)
    _, shared = lanes_asked(marks.core)
    sets = marks.dose.sets if of % (marks.dose.sets * shared) == 0 else 1
    marks.dose = replace(marks.dose, sets=sets, reps=of // (sets * shared))
    marks.target = replace(marks.target, makes=makes, of=of, value=None)
    marks.reps_high = marks.sets_high = marks.minutes = None
    wanted = USUAL[school]
    marks.rule = None if current.rule.school == wanted else replace(current.rule, school=wanted)
    store_rung(member, current, marks, "changed the mark of a rung", makes=makes, of=of)
    return current


def keep_marks(*, member: Membership, marks: dict[str, int]) -> None:
    """A coach's own marks stay with them, from ladder to ladder and from day to day."""
    if member.marks != marks:
        member.marks = marks
        member.save(update_fields=["marks"])
