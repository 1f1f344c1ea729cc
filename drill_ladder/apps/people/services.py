"""Changing who is who."""

from typing import Any, TypeVar

from django.db import models, transaction
from django.utils import timezone

from drill_ladder.apps.history.services import record
from drill_ladder.apps.people.errors import ROLE_TOLD, Refused
from drill_ladder.apps.people.models import Club, Guardian, Membership, Player, SecretLink, Squad

Named = TypeVar("Named", bound=models.Model)


def refuse_unless_coach(member: Membership, told: str = ROLE_TOLD) -> None:
    """Raise Refused for an assistant."""
    if not member.decides:
        raise Refused(told)


def by_name(model: type[Named], club: Club, name: str) -> Named | None:
    """The club's squad or skill of a name, made if it is new; None for no name."""
    name = name.strip()
    if not name:
        return None
    rows = model._default_manager
    return rows.filter(club=club, name__iexact=name).first() or rows.create(club=club, name=name)


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
        player.squad = by_name(Squad, member.club, squad_name)
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
