"""Keeping the club's own limits on what strains a body."""

from collections.abc import Sequence
from datetime import date

from django.db import transaction

from drill_ladder.apps.history.services import record
from drill_ladder.apps.library.models import StrainLimit, ToolLimit
from drill_ladder.apps.people.models import Membership, Player, Squad
from drill_ladder.apps.people.players import lock_club, refuse_unless_coach


@transaction.atomic
def save_limit(
    *, member: Membership, strain: str, squad: Squad | None, per_week: int, body: str, of: date
) -> StrainLimit:
    """A limit, in place of the one of the same kind and squad. Raises Refused."""
    refuse_unless_coach(member)
    lock_club(member.club_id)
    row, _ = StrainLimit.objects.update_or_create(
        club_id=member.club_id,
        squad=squad,
        strain=strain,
        defaults={"per_week": per_week, "body": body, "of": of},
    )
    _told(member, row, "set a limit")
    return row


@transaction.atomic
def drop_limit(*, member: Membership, limit: StrainLimit) -> None:
    """Take a limit away. Raises Refused."""
    refuse_unless_coach(member)
    _told(member, limit, "took a limit away")
    limit.delete()


def _told(member: Membership, row: StrainLimit, verb: str) -> None:
    record(
        club_id=member.club_id,
        actor=member.user,
        verb=verb,
        subject=row,
        strain=row.strain,
        per_week=row.per_week,
        body=row.body,
        of=str(row.of),
    )


@transaction.atomic
def save_tool_limit(
    *,
    member: Membership,
    tool: str,
    under: int | None,
    least_cm: float | None,
    most_cm: float | None,
    body: str,
    of: date,
) -> ToolLimit:
    """A limit, in place of the one of the same tool and age. Raises Refused."""
    refuse_unless_coach(member)
    lock_club(member.club_id)
    sizes = {"least_cm": least_cm, "most_cm": most_cm, "body": body, "of": of}
    row, _ = ToolLimit.objects.update_or_create(
        club_id=member.club_id, tool=tool, under=under, defaults=sizes
    )
    _told_tool(member, row, "set a limit")
    return row


@transaction.atomic
def drop_tool_limit(*, member: Membership, limit: ToolLimit) -> None:
    """Take a limit away. Raises Refused."""
    refuse_unless_coach(member)
    _told_tool(member, limit, "took a limit away")
    limit.delete()


def _told_tool(member: Membership, row: ToolLimit, verb: str) -> None:
    record(
        club_id=member.club_id,
        actor=member.user,
        verb=verb,
        subject=row,
        tool=row.tool,
        limit=row.words,
        body=row.body,
        of=str(row.of),
    )


def limits_for(player: Player) -> dict[str, StrainLimit]:
    """Kind -> the limit that counts for a player: of their squad, else of the whole club."""
    return limits_of([player])[player.pk]


def limits_of(players: Sequence[Player]) -> dict[int, dict[str, StrainLimit]]:
    """Player id -> the limits that count for each of some players of one club."""
    clubs = {player.club_id for player in players}
    rows = list(StrainLimit.objects.filter(club__in=clubs).squads_last())

    def own(player: Player) -> dict[str, StrainLimit]:
        return {row.strain: row for row in rows if row.squad_id in (None, player.squad_id)}

    return {player.pk: own(player) for player in players}
