"""Changing who is who."""

from collections.abc import Iterable, Sequence
from datetime import date
from typing import Any, TypeVar

from django.core.exceptions import ValidationError
from django.db import models, transaction

from drill_ladder.apps.history.models import Event
from drill_ladder.apps.history.services import AT_ONCE, record
from drill_ladder.apps.people.access import refuse_unless_coach
from drill_ladder.apps.people.errors import Overtaken, Refused
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


def lock_club(club_id: int) -> None:
    """One change of a club's library or roster at a time, held until the transaction ends. Taken
    before any other row.

    It is the weaker lock: whatever is recorded for the club meanwhile, a report of hurt first of
    all, does not wait.
    """
    Club.objects.select_for_update(no_key=True).get(pk=club_id)


def by_name(model: type[Named], club: Club, name: str) -> Named | None:
    """The club's squad or skill of a name, made if it is new; None for no name."""
    name = name.strip()
    if not name:
        return None
    rows = model._default_manager.filter(club=club, name__iexact=name)
    row = rows.first()
    if row is None:
        # two at once make one
        model._default_manager.bulk_create([model(club=club, name=name)], ignore_conflicts=True)  # type: ignore[misc]
        row = rows.first()
    return row


def check_row(row: models.Model, named: str) -> None:
    """What a form would check of a row that is stored with many others, without a question to the
    database.

    named: which row it is. Raises Refused.
    """
    relations = [field.name for field in row._meta.fields if field.is_relation]
    try:
        row.full_clean(exclude=relations, validate_unique=False, validate_constraints=False)
    except ValidationError as error:
        field, messages = next(iter(error.message_dict.items()))
        place = "" if field == "__all__" else f", {field}"
        raise Refused(f"{named}{place}: {messages[0]} Nothing was stored.") from None


def by_names(model: type[Named], club: Club, names: Iterable[str]) -> dict[str, Named]:
    """The club's squads or skills by name, without regard to capitals; those that are new are made
    at once.
    """
    wanted = {name.strip().casefold(): name.strip() for name in names if name.strip()}
    rows: Any = model._default_manager.filter(club=club)
    known = {row.name.casefold(): row for row in rows.all()}
    new = [model(club=club, name=name) for key, name in wanted.items() if key not in known]  # type: ignore[misc]
    if new:
        model._default_manager.bulk_create(new, AT_ONCE, ignore_conflicts=True)
        known = {row.name.casefold(): row for row in rows.all()}
    return known


def update_all(rows: Sequence[models.Model], fields: Sequence[str]) -> None:
    """Store some fields of many rows that exist and are locked, as an insert that meets them: ten
    times faster than a statement with one case a row.
    """
    if rows:
        type(rows[0])._default_manager.bulk_create(
            rows, AT_ONCE, update_conflicts=True, unique_fields=["id"], update_fields=fields
        )


def refuse_overtaken(row: Any, revision: int) -> None:
    """Raise Overtaken where a row that is locked has changed since a revision, naming who
    did it.
    """
    if row.revision == revision:
        return
    last = Event.objects.about(row).first()
    who = f"{last.actor} ({last.verb})" if last and last.actor else "Somebody"
    raise Overtaken(
        f"{who} changed this while you had it open. Nothing of theirs was overwritten, and what "
        "you typed "
        "is still here.",
        row,
    )


@transaction.atomic
def save_player(
    *,
    member: Membership,
    player: Player,
    guardians: list[dict[str, Any]] | None = None,
    squad_name: str | None = None,
    days: list[dict[str, Any]] | None = None,
    note: str = "",
    note_shared: bool = False,
    on: date | None = None,
    revision: int | None = None,
) -> Player:
    """Store a new or changed player with whom to tell; a new one gets secret links.

    revision: what the change began with; None: whatever there is. Raises Overtaken when somebody
    was quicker.

    squad_name: the squad, made if it is new; empty for none. What is None stays as it is. note:
    kept with its day; note_shared: whether the family may read it.
    """
    refuse_unless_coach(member)
    new = player.pk is None
    if not new:
        _begin_change(player, revision)
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
        PlayerNote.objects.create(
            club=member.club,
            player=player,
            on=on,
            text=note.strip(),
            by=member.user,
            shared=note_shared,
        )
    if new:
        _made(member, player)
    else:
        home_changed.send(sender=Player, players=[player], actor=member.user)
        record(club_id=member.club_id, actor=member.user, verb="changed a player", subject=player)
    return player


def _begin_change(player: Player, revision: int | None) -> None:
    """The stored row is locked, and the change counted. Raises Overtaken."""
    current = (
        Player.objects.select_for_update(of=("self",)).select_related("squad").get(pk=player.pk)
    )
    if revision is not None:
        refuse_overtaken(current, revision)
    player.revision = current.revision + 1


def _made(member: Membership, player: Player) -> None:
    """A new player's secret links."""
    for opens in Opens:
        SecretLink.objects.create(club=member.club, player=player, opens=opens)
    record(club_id=member.club_id, actor=member.user, verb="added a player", subject=player)


def _replace(
    model: type[Guardian] | type[PlayerDay], player: Player, rows: list[dict[str, Any]]
) -> None:
    """The rows of a player, anew: nothing else points at them."""
    model._default_manager.filter(player=player).delete()
    for values in rows:
        row = model(club_id=player.club_id, player=player, **values)
        row.full_clean()
        row.save()
