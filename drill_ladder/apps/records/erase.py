"""Somebody is erased for good: what each model declares as theirs (apps/personal.py) goes or is
blanked, row by row of their own; what was counted stays, of nobody, so that the club's own
statistics stay true. No other row is touched: what others wrote about the player is listed before
(mentions.py), for the owner to blank or leave.
"""

import secrets
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from types import MappingProxyType
from typing import Any

from django.db import connection, models, transaction

from drill_ladder.apps.history.models import Event
from drill_ladder.apps.history.services import record
from drill_ladder.apps.jobs.models import Job
from drill_ladder.apps.messages.models import MailAddress
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Guardian, Membership, Player, User
from drill_ladder.apps.people.players import lock_club, refuse_unless_owner
from drill_ladder.apps.personal import Personal, of_players
from drill_ladder.apps.records.mentions import Mention, change_mention, mentions
from drill_ladder.apps.records.models import Receipt

NOBODY = "an erased player"
AT_ONCE = 2_000  # rows of one statement


@dataclass(frozen=True, slots=True)
class Part:
    """What becomes of one table: its name, how many rows, whether they go or are blanked."""

    name: str
    rows: int
    gone: bool


def preview(player: Player) -> list[Part]:
    """What an erasure would do, table by table, without doing it."""
    parts = []
    for model, personal in of_players():
        rows = _rows_of(model, personal, player).count()
        if rows and (personal.gone or personal.blank):
            parts.append(Part(str(model._meta.verbose_name), rows, personal.gone))
    return parts


@transaction.atomic
def erase(
    *, member: Membership, player: Player, on: date, others: Mapping[str, str | None] | None = None
) -> Receipt:
    """For good; nothing brings it back but a backup from before. others: the key of a mention in
    somebody else's row -> what is to stand there, None for nothing. Raises Refused.
    """
    refuse_unless_owner(member, "Only the club's owner erases somebody. Nothing was changed.")
    return erase_for(member.user, player, on, others or {})


@transaction.atomic
def erase_for(
    actor: User | None,
    player: Player,
    on: date,
    others: Mapping[str, str | None] = MappingProxyType({}),
) -> Receipt:
    """By somebody, or by the club's own period (None). Raises Refused."""
    lock_club(player.club_id)
    row = Player.objects.select_for_update(of=("self",)).get(pk=player.pk)
    if row.archived_on is None or row.erased_on is not None:
        raise Refused("Only who is archived can be erased. Nothing was changed.")
    _refuse_too_many(row)
    unlock_history()
    listed = mentions(row)
    chosen = [one for one in listed if one.key in others]
    for one in chosen:
        change_mention(one, row, others[one.key])
    addresses = list(Guardian.objects.filter(player=row).values_list("email", flat=True))
    counts = {"history": _history(row)}
    counts |= _do(row)
    _forget(row, addresses)
    number = secrets.token_hex(4).upper()
    Player.objects.filter(pk=row.pk).update(
        name=f"Erased {number}", erased_on=on, joined_on=row.joined_on.replace(day=1)
    )
    counts |= _told(listed, chosen)
    receipt = Receipt.objects.create(club=row.club, number=number, by=actor, counts=counts)
    record(club_id=row.club_id, actor=actor, verb="erased a player", subject=receipt)
    lock_history()
    return receipt


def _told(listed: Sequence[Mention], chosen: Sequence[Mention]) -> dict[str, int]:
    """What of other people's words was blanked and what was left, for the receipt."""
    return {"others' words changed": len(chosen), "others' words left": len(listed) - len(chosen)}


def unlock_history() -> None:
    """In this transaction the trail may be changed: a trigger refuses it otherwise."""
    with connection.cursor() as cursor:
        cursor.execute("SET LOCAL drill_ladder.erasing = 'yes'")


def lock_history() -> None:
    """From here on it is append-only again."""
    with connection.cursor() as cursor:
        cursor.execute("SET LOCAL drill_ladder.erasing = 'no'")


def _rows_of(model: type[models.Model], personal: Personal, player: Player) -> Any:
    return model._default_manager.filter(**{personal.player: player.pk})


def _refuse_too_many(player: Player) -> None:
    """More rows than any child can have are a fault of ours: nothing is done then."""
    for model, personal in of_players():
        rows = _rows_of(model, personal, player).count()
        if rows > personal.most:
            raise Refused(
                f"{rows:,} rows of “{model._meta.verbose_name}” cannot be one player’s. Nothing "
                "was erased: whoever runs the server has to look."
            )


def _do(player: Player) -> dict[str, int]:
    """Each table as it declares; how many rows of each."""
    counts = {}
    for model, personal in of_players():
        rows = _rows_of(model, personal, player)
        name = str(model._meta.verbose_name)
        if personal.gone:
            counts[name] = rows.delete()[0]
        elif personal.blank:
            counts[f"{name}, kept without words"] = _blank(model, personal.blank, rows)
    return counts


def _blank(model: type[models.Model], blank: Mapping[str, Any], rows: Any) -> int:
    """Columns put to what stands there afterwards; where nothing stood, nothing is put."""
    ids = list(rows.values_list("pk", flat=True))
    manager = model._default_manager
    for column, value in blank.items():
        if callable(value):
            _turn(manager, ids, column, value)
            continue
        chosen = manager.filter(pk__in=ids)
        if value is not None:
            chosen = chosen.exclude(**{column: type(value)()})
        chosen.update(**{column: value})
    return len(ids)


def _turn(manager: Any, ids: Sequence[Any], column: str, turned: Any) -> None:
    changed = []
    for row in manager.filter(pk__in=ids).only("pk", column):
        new = turned(getattr(row, column))
        if new != getattr(row, column):
            setattr(row, column, new)
            changed.append(row)
    manager.bulk_update(changed, [column], AT_ONCE)


def _history(player: Player) -> int:
    """What was done with anything of theirs stays, with its day; about whom and in which words
    does not.
    """
    count = 0
    for model, personal in of_players():
        ids = [str(pk) for pk in _rows_of(model, personal, player).values_list("pk", flat=True)]
        events = Event.objects.filter(
            club_id=player.club_id, kind=model._meta.label_lower, row_id__in=ids
        )
        count += events.update(subject=NOBODY, details={})
    return count


def _forget(player: Player, addresses: Sequence[str]) -> None:
    """Addresses that nobody else has, and papers that were made with the player on them."""
    others = Guardian.objects.filter(club=player.club_id)
    for email in filter(None, addresses):
        member = User.objects.filter(memberships__club=player.club_id, email__iexact=email)
        if not others.filter(email__iexact=email).exists() and not member.exists():
            MailAddress.objects.filter(club=player.club_id, email__iexact=email).delete()
    papers = Job.objects.filter(club=player.club_id, file__isnull=False)
    papers.update(file=None, file_name="")
