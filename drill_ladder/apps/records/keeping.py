"""How long a club keeps what: looked at first, then done at night."""

import logging
from dataclasses import dataclass
from datetime import date

from django.db import DatabaseError, transaction

from drill_ladder.apps.history.services import record
from drill_ladder.apps.messages.models import LocalMail, Message
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Club, Membership, Player
from drill_ladder.apps.people.players import refuse_unless_owner
from drill_ladder.apps.records.erase import erase_for
from drill_ladder.apps.records.models import Retention

LOG = logging.getLogger(__name__)


@dataclass(frozen=True, slots=True)
class Due:
    """What the periods would take on a day: players to be erased, mails to be deleted."""

    players: list[Player]
    mails: int

    @property
    def nothing(self) -> bool:
        """Whether nothing is due."""
        return not self.players and not self.mails


def periods_of(club: Club) -> Retention:
    """The club's periods; none where nobody chose."""
    return Retention.objects.filter(club=club).first() or Retention(club=club)


def months_before(on: date, months: int) -> date:
    """That many months before a day; the last day of a shorter month."""
    year, month = divmod(on.year * 12 + on.month - 1 - months, 12)
    last = 31
    while True:
        try:
            return date(year, month + 1, min(on.day, last))
        except ValueError:
            last -= 1


def due(club: Club, periods: Retention, on: date) -> Due:
    """What is due on a day, without doing anything."""
    players: list[Player] = []
    mails = 0
    if periods.players:
        until = months_before(on, periods.players)
        players = list(Player.objects.aside_of(club).filter(archived_on__lte=until))
    if periods.mail:
        before = months_before(on, periods.mail)
        mails = Message.objects.of_club(club).filter(made_at__date__lt=before).count()
    return Due(players, mails)


@transaction.atomic
def keep_periods(
    *, member: Membership, players: int | None, mail: int | None, on: date
) -> Retention:
    """Choose the periods; what they make due goes in the next night. Raises Refused."""
    refuse_unless_owner(member)
    row, _ = Retention.objects.update_or_create(
        club=member.club, defaults={"players": players, "mail": mail}
    )
    record(
        club_id=member.club_id,
        actor=member.user,
        verb="chose how long to keep",
        subject=member.club,
        players=players,
        mail=mail,
    )
    return row


def retain(club: Club, on: date) -> Due:
    """Do what is due: each player in a transaction of their own, and what is wrong with one of them
    stops none of the others. The desk and the list of who is put aside go on showing who is due.
    """
    periods = periods_of(club)
    over = due(club, periods, on)
    for player in over.players:
        try:
            erase_for(None, player, on)
        except (Refused, DatabaseError):
            LOG.exception("player %s of club %s is due, and was not erased", player.pk, club.pk)
    if over.mails and periods.mail:
        before = months_before(on, periods.mail)
        with transaction.atomic():
            Message.objects.of_club(club).filter(made_at__date__lt=before).delete()
            LocalMail.objects.of_club(club).filter(at__date__lt=before).delete()
            record(
                club_id=club.pk,
                actor=None,
                verb="deleted old mail",
                subject=club,
                mails=over.mails,
            )
    return over


def retain_all() -> None:
    """Every club's, on its own day; a club with a fault stops none of the others."""
    for row in Retention.objects.select_related("club"):
        try:
            retain(row.club, row.club.today())
        except (Refused, DatabaseError):
            LOG.exception("what is due in club %s was not done", row.club_id)
