"""Guests of an hour: somebody who is there and on no list yet does what others here do, and is
counted like everybody else. Whoever does not come again is put aside by the night's work.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, timedelta

from django.db import transaction

from drill_ladder.apps.history.services import record
from drill_ladder.apps.library.models import Rung
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Club, Membership, Player
from drill_ladder.apps.people.players import refuse_unless_coach, save_player
from drill_ladder.apps.prescriptions.models import Prescription, Setting
from drill_ladder.apps.prescriptions.services import prescribe

KEPT = timedelta(days=28)  # how long a guest is on the lists without coming again
MOST_LETTERS = 120


@dataclass(frozen=True, slots=True)
class Ask:
    """Who the guest is, by the name that the coach typed, and what they do: rung of a ladder, from
    1; None: nothing yet, they are here alone.
    """

    name: str
    ladder: int | None = None
    rung: int = 1


@transaction.atomic
def add_guest(*, member: Membership, ask: Ask, on: date) -> Player:
    """A guest of a day. A guest of that name who came before comes again. Raises Refused."""
    name = ask.name.strip()
    if not name or len(name) > MOST_LETTERS:
        raise Refused(f"A name of at most {MOST_LETTERS} letters, please. Nobody was added.")
    known = Player.objects.of_club(member.club).guests().named(name).first()
    guest = known or save_player(member=member, player=Player(name=name, joined_on=on, guest_on=on))
    if ask.ladder is not None:
        _put_on(member, guest, ask, on)
    return guest


def _put_on(member: Membership, guest: Player, ask: Ask, on: date) -> None:
    rung = Rung.objects.at(member.club_id, ask.ladder or 0, ask.rung).first()
    if rung is None:
        raise Refused("There is no such rung on that ladder. Nobody was added.")
    if Prescription.objects.active().of_player(guest).on_ladder(rung.ladder).exists():
        return
    prescribe(
        member=member,
        player=guest,
        ladder=rung.ladder,
        rung=rung,
        per_week=1,
        place=Setting.COACHED,
        on=on,
    )


@transaction.atomic
def stays(*, member: Membership, player: Player) -> None:
    """A guest is of the club from now on, with all that was counted. Raises Refused."""
    refuse_unless_coach(member)
    if player.guest_on is None:
        return
    player.guest_on = None
    player.save(update_fields=["guest_on"])
    record(club_id=member.club_id, actor=member.user, verb="took a guest on", subject=player)


def guests_go(club: Club, today: date) -> int:
    """The night's work: guests whom nobody has seen for four weeks are put aside, with all that is
    theirs; how many.
    """
    gone = Player.objects.of_club(club).guests().not_here_since(today - KEPT)
    return _aside(gone, today)


def _aside(guests: Iterable[Player], today: date) -> int:
    count = 0
    for guest in guests:
        guest.archived_on = today
        guest.save(update_fields=["archived_on"])
        record(club_id=guest.club_id, actor=None, verb="put a guest aside", subject=guest)
        count += 1
    return count
