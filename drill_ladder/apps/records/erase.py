"""Somebody is erased for good: what could tell who it was goes, from every table; what was counted
stays, of nobody, so that the club's own statistics stay true.
"""

import secrets
from datetime import date
from typing import Any

from django.db import connection, models, transaction
from django.db.models import Q

from drill_ladder.apps.card.models import Report
from drill_ladder.apps.floor.models import FloorTap, GateCall, GroupSession
from drill_ladder.apps.history.models import Event
from drill_ladder.apps.history.services import record
from drill_ladder.apps.jobs.models import Job
from drill_ladder.apps.messages.models import LocalMail, MailAddress, Message
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import (
    Agreement,
    Guardian,
    Membership,
    OldSecret,
    Player,
    PlayerDay,
    PlayerNote,
    SecretLink,
    User,
)
from drill_ladder.apps.people.services import lock_club, refuse_unless_owner
from drill_ladder.apps.practice.models import HurtReport, Session, SetRow, Stop
from drill_ladder.apps.prescriptions.models import Focus, Placement, PlayerRoutine, Prescription
from drill_ladder.apps.records.models import Receipt
from drill_ladder.apps.records.words import LEAST, NOBODY, owned, replace_all
from drill_ladder.apps.review.models import Decision
from drill_ladder.apps.weeks.models import Week

Rows = Any  # a queryset of one of the models above
# what is about who somebody is, and nothing that is counted
GONE: tuple[type[models.Model], ...] = (
    Guardian,
    PlayerDay,
    PlayerNote,
    SecretLink,
    OldSecret,
    Agreement,
    Report,
    Message,
    Focus,
    GateCall,
)
ERASED = "erased"
# words that somebody wrote about the player, or the player wrote: model, its player, columns
WORDS: tuple[tuple[type[models.Model], str, dict[str, Any]], ...] = (
    (Session, "stay__prescription__player", {"word": ERASED, "device": ""}),
    (SetRow, "session__stay__prescription__player", {"feeder": ERASED}),
    (Stop, "player", {"what": ERASED, "cleared_by": ERASED}),
    (Placement, "player", {"reason": ERASED}),
    (Prescription, "player", {"not_at_home": ERASED}),
    (Decision, "proposal__player", {"reason": ERASED}),
    (Week, "player", {"told": [], "unplaced": []}),
    (PlayerRoutine, "player", {}),
)
BLANK: dict[str, Any] = {
    "birth_month": None,
    "squad": None,
    "stride_m": None,
    "shoe_m": None,
    "height_cm": None,
    "height_on": None,
    "kit_cm": {},
    "home_space": "",
    "home_width": None,
    "home_depth": None,
    "home_surface": "",
    "home_tools": "",
    "home_light": False,
    "home_wall": False,
    "home_feeder": False,
    "home_adult": False,
    "card_pin": "",
}


@transaction.atomic
def erase(*, member: Membership, player: Player, on: date) -> Receipt:
    """For good; nothing brings it back but a backup from before. Raises Refused."""
    refuse_unless_owner(member, "Only the club's owner erases somebody. Nothing was changed.")
    return erase_for(member.user, player, on)


@transaction.atomic
def erase_for(actor: User | None, player: Player, on: date) -> Receipt:
    """By somebody, or by the club's own period (None)."""
    lock_club(player.club_id)
    row = Player.objects.select_for_update(of=("self",)).get(pk=player.pk)
    if row.archived_on is None or row.erased_on is not None:
        raise Refused("Only who was put aside can be erased. Nothing was changed.")
    unlock_history()
    words = words_about(row)
    counts = {"history": _history(row)}
    counts |= dict(_gone(row)) | dict(_emptied(row))
    _leave_groups(row)
    _files(row, words)
    number = secrets.token_hex(4).upper()
    Player.objects.filter(pk=row.pk).update(
        **BLANK, name=f"Erased {number}", erased_on=on, joined_on=row.joined_on.replace(day=1)
    )
    counts["words"] = replace_all(row.club_id, words)
    receipt = Receipt.objects.create(club=row.club, number=number, by=actor, counts=counts)
    record(club_id=row.club_id, actor=actor, verb="erased a player", subject=receipt)
    lock_history()
    return receipt


def unlock_history() -> None:
    """In this transaction the trail may be changed: a trigger refuses it otherwise."""
    with connection.cursor() as cursor:
        cursor.execute("SET LOCAL drill_ladder.erasing = 'yes'")


def lock_history() -> None:
    """From here on it is append-only again."""
    with connection.cursor() as cursor:
        cursor.execute("SET LOCAL drill_ladder.erasing = 'no'")


def words_about(player: Player) -> set[str]:
    """Names and addresses that belong to this player alone: what another player, their family or a
    member shares is left where it is about them.
    """
    guardians = list(player.guardians.all())
    own = {player.name} | {
        text for one in guardians for text in (one.name, one.email, one.phone) if text
    }
    own |= set(Agreement.objects.filter(player=player).values_list("by", flat=True))
    others = Guardian.objects.filter(club=player.club_id).exclude(player=player)
    shared = set(
        Player.objects.filter(club=player.club_id)
        .exclude(pk=player.pk)
        .values_list("name", flat=True)
    )
    for names in others.values_list("name", "email", "phone"):
        shared |= set(names)
    members = User.objects.filter(memberships__club=player.club_id)
    for name, email in members.values_list("name", "email"):
        shared |= {name, email}
    known = {one.casefold() for one in shared}
    return {one for one in own if one.casefold() not in known and len(one) >= LEAST}


def _gone(player: Player) -> Any:
    HurtReport.objects.filter(stop__player=player).delete()
    for model in GONE:
        rows: Rows = model._default_manager.filter(player=player)
        count, _ = rows.delete()
        yield model._meta.verbose_name, count


def _emptied(player: Player) -> Any:
    for model, path, blank in WORDS:
        rows: Rows = model._default_manager.filter(**{path: player})
        ids = list(rows.values_list("pk", flat=True))
        for column, value in blank.items():
            written = model._default_manager.filter(pk__in=ids).exclude(**{column: type(value)()})
            written.update(**{column: value})
        yield f"{model._meta.verbose_name}, kept without words", len(ids)
    for tap in FloorTap.objects.filter(player=player).exclude(value={}):
        tap.value.pop("word", None)
        tap.save(update_fields=["value"])


def _history(player: Player) -> int:
    """What was done with anything of theirs stays, with its day; about whom and in which words
    does not.
    """
    count = 0
    for model, path in owned():
        rows: Rows = model._default_manager.filter(**{path: player.pk})
        ids = [str(pk) for pk in rows.values_list("pk", flat=True)]
        events = Event.objects.filter(
            club_id=player.club_id, kind=model._meta.label_lower, row_id__in=ids
        )
        count += events.update(subject=NOBODY, details={})
    return count


def _leave_groups(player: Player) -> None:
    """Stations name their players: this one becomes a number there."""
    name = player.name
    for session in GroupSession.objects.filter(club=player.club_id):
        if name not in session.players and name not in session.members:
            continue
        session.members.pop(name, None)
        session.save(update_fields=["members"])


def _files(player: Player, words: set[str]) -> None:
    """Papers that were made for a day, mail that was kept here, and addresses nobody else has."""
    jobs = Job.objects.filter(club=player.club_id)
    jobs.update(file=None, file_name="", lines=[], label="done before an erasure")
    for word in words:
        held = LocalMail.objects.filter(club=player.club_id)
        held.filter(
            Q(text__icontains=word) | Q(to__icontains=word) | Q(subject__icontains=word)
        ).delete()
        MailAddress.objects.filter(club=player.club_id, email__iexact=word).delete()
