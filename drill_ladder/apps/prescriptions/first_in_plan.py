"""A gap that was seen goes into the next plan: what covers it becomes urgent; where nothing does,
its skill is noted as something to work on.
"""

from datetime import date

from django.db import transaction

from drill_ladder.apps.history.services import record
from drill_ladder.apps.library.models import Drill
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.people.players import refuse_unless_coach
from drill_ladder.apps.prescriptions.models import Prescription, Source, Stay
from drill_ladder.apps.prescriptions.services import set_focus

URGENT = 1


@transaction.atomic
def into_next_plan(
    *, member: Membership, player: Player, axis: str, name: str, on: date
) -> list[str]:
    """The ladders that are planned first from now on, by their names; none where the player is on
    none for it, and its skill was noted. axis: drill or skill, by its name. Raises Refused.
    """
    refuse_unless_coach(member, "Only a coach plans.")
    stays = Stay.objects.of_player(player).current().of_work(axis, name)
    rows = Prescription.objects.select_for_update().filter(stays__in=stays).order_by("pk")
    urgent = []
    for row in rows.select_related("ladder"):
        row.priority = URGENT
        row.save(update_fields=["priority"])
        record(club_id=member.club_id, actor=member.user, verb="made urgent", subject=row)
        urgent.append(row.ladder.title)
    if not urgent:
        _note(player, axis, name, on)
    return urgent


def _note(player: Player, axis: str, name: str, on: date) -> None:
    skill = name
    if axis == "drill":
        row = Drill.objects.of_club(player.club).titled([name]).select_related("skill").first()
        skill = row.skill.name if row is not None and row.skill else ""
    if not skill:
        raise Refused(f"No ladder of {player} has {name}, and it has no skill. Nothing was noted.")
    why = "A gap that coverage shows"
    set_focus(
        player=player, skill=skill, priority=URGENT, source=Source.OBSERVATION, why=why, on=on
    )
