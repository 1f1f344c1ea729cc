"""Changing who is who."""

from datetime import date
from typing import Any, TypeVar

from django.db import models, transaction

from drill_ladder.apps.history.services import record
from drill_ladder.apps.people.errors import ROLE_TOLD, Refused
from drill_ladder.apps.people.models import (
    Club,
    Guardian,
    Membership,
    Opens,
    Player,
    PlayerDay,
    PlayerNote,
    SecretLink,
    Squad,
)
from drill_ladder.apps.people.signals import home_changed

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
    *,
    member: Membership,
    player: Player,
    guardians: list[dict[str, Any]] | None = None,
    squad_name: str | None = None,
    days: list[dict[str, Any]] | None = None,
    note: str = "",
    on: date | None = None,
) -> Player:
    """Store a new or changed player with whom to tell; a new one gets a secret link.

    squad_name: the squad, made if it is new; empty for none. What is None stays as it is. note: kept with its day.
    """
    refuse_unless_coach(member)
    new = player.pk is None
    player.club = member.club
    if squad_name is not None:
        player.squad = by_name(Squad, member.club, squad_name)
    player.full_clean()
    player.save()
    if guardians is not None:
        _replace(Guardian, player, guardians)
    if days is not None:
        _replace(PlayerDay, player, days)
    if note.strip() and on is not None:
        PlayerNote.objects.create(club=member.club, player=player, on=on, text=note.strip(), by=member.user)
    if new:
        for opens in Opens:
            SecretLink.objects.create(club=member.club, player=player, opens=opens)
    if not new:
        home_changed.send(sender=Player, player=player, actor=member.user)
    verb = "added a player" if new else "changed a player"
    record(club_id=member.club_id, actor=member.user, verb=verb, subject=player)
    return player


def _replace(model: type[Guardian] | type[PlayerDay], player: Player, rows: list[dict[str, Any]]) -> None:
    """The rows of a player, anew: nothing else points at them."""
    model._default_manager.filter(player=player).delete()
    for values in rows:
        row = model(club_id=player.club_id, player=player, **values)
        row.full_clean()
        row.save()
