"""Players are put aside and brought back, with everything that is theirs."""

from datetime import date

from django.db import transaction

from drill_ladder.apps.history.services import record
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.people.players import refuse_unless_coach


@transaction.atomic
def put_aside(*, member: Membership, player: Player, on: date) -> None:
    """Out of every list, plan and card; nothing is lost. Raises Refused."""
    row = _locked(member, player)
    if row.archived_on is not None:
        raise Refused(f"{row} is archived already, since {row.archived_on:%-d %B %Y}.")
    row.archived_on = on
    row.save(update_fields=["archived_on"])
    record(club_id=member.club_id, actor=member.user, verb="put a player aside", subject=row)


@transaction.atomic
def bring_back(*, member: Membership, player: Player) -> None:
    """As it was; their link opens again. Raises Refused."""
    row = _locked(member, player)
    if row.archived_on is None or row.erased_on is not None:
        raise Refused("There is nobody to bring back.")
    row.archived_on = None
    row.save(update_fields=["archived_on"])
    record(club_id=member.club_id, actor=member.user, verb="brought a player back", subject=row)


def _locked(member: Membership, player: Player) -> Player:
    refuse_unless_coach(member)
    if player.club_id != member.club_id:
        raise Refused("That player is not of this club.")
    return Player.objects.select_for_update(of=("self",)).get(pk=player.pk)
