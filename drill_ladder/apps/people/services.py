"""Changing who is who."""

from typing import Any

from django.db import transaction
from django.utils import timezone

from drill_ladder.apps.history.services import record
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Guardian, Membership, Player, SecretLink, Squad


def refuse_unless_coach(member: Membership) -> None:
    """Raise Refused for an assistant."""
    if not member.decides:
        raise Refused("Assistants log results; prescribing and deciding is a coach's call.")


def squad_of(member: Membership, name: str) -> Squad | None:
    """The club's squad of a name, made if it is new; None for no name."""
    name = name.strip()
    if not name:
        return None
    found = Squad.objects.filter(club=member.club, name__iexact=name).first()
    return found or Squad.objects.create(club=member.club, name=name)


@transaction.atomic
def save_player(
    *, member: Membership, player: Player, guardian: dict[str, str], squad_name: str | None = None
) -> Player:
    """Store a new or changed player with the guardian to tell; a new one gets a secret link.

    squad_name: the squad, made if it is new; empty for none; None leaves it as it is.
    """
    refuse_unless_coach(member)
    new = player.pk is None
    player.club = member.club
    if squad_name is not None:
        player.squad = squad_of(member, squad_name)
    player.full_clean()
    player.save()
    if guardian.get("name"):
        Guardian.objects.update_or_create(club=member.club, player=player, defaults=guardian)
    if new:
        SecretLink.objects.create(club=member.club, player=player)
    verb = "added a player" if new else "changed a player"
    record(club_id=member.club_id, actor=member.user, verb=verb, subject=player)
    return player


@transaction.atomic
def renew_link(*, member: Membership, player: Player) -> SecretLink:
    """A new secret link; the one before opens nothing any more."""
    refuse_unless_coach(member)
    SecretLink.objects.filter(player=player, revoked_at__isnull=True).update(revoked_at=timezone.now())
    link = SecretLink.objects.create(club=member.club, player=player)
    record(club_id=member.club_id, actor=member.user, verb="renewed the link", subject=player)
    return link


def open_link(player: Player) -> Any:
    """The player's open link, or None."""
    return SecretLink.objects.filter(player=player, revoked_at__isnull=True).first()
