"""Guardians' agreements: noted, looked up, withdrawn."""

from collections.abc import Iterable
from datetime import date

from django.db import transaction

from drill_ladder.apps.history.services import record
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import AgreedTo, Agreement, Membership, Player
from drill_ladder.apps.people.players import refuse_unless_coach

ADULT = 18  # years: from then on the player's own word counts


def is_adult(player: Player, on: date) -> bool:
    """Whether a player is known to be of age: who has no month of birth here is not."""
    born = player.birth_month
    if born is None:
        return False
    months = (on.year - born.year) * 12 + on.month - born.month
    return months > ADULT * 12  # the day itself is nobody's business here: the month after


def who_agree(players: Iterable[Player], what: AgreedTo, on: date) -> set[int]:
    """The ids of those who are known to be adults or whose guardian's agreement is in force."""
    by_player = {player.pk: player for player in players}
    rows = Agreement.objects.in_force().to(what).filter(player__in=by_player)
    adults = {pk for pk, player in by_player.items() if is_adult(player, on)}
    return adults | set(rows.values_list("player", flat=True))


def agrees(player: Player, what: AgreedTo, on: date) -> bool:
    """Whether an agreement is in force, or the player is known to be an adult."""
    return bool(who_agree([player], what, on))


@transaction.atomic
def agree(*, member: Membership, player: Player, what: str, by: str, on: date) -> Agreement:
    """Note what a guardian agreed to. Raises Refused."""
    _refuse(member, player)
    Player.objects.select_for_update().get(pk=player.pk)
    agreement = Agreement.objects.in_force().to(what).filter(player=player).first()
    if agreement is not None:
        raise Refused(f"That is on record already: {agreement.words}.")
    if not by.strip():
        raise Refused("Write who agreed. Nothing was noted.")
    row = Agreement.objects.create(
        club=member.club,
        player=player,
        what=what,
        by=by.strip(),
        given_on=on,
        noted_by=member.user,
    )
    record(
        club_id=member.club_id,
        actor=member.user,
        verb="noted an agreement",
        subject=player,
        what=what,
        by=row.by,
    )
    return row


@transaction.atomic
def withdraw(*, member: Membership, agreement: Agreement, on: date) -> None:
    """A guardian takes it back: from this day on. Raises Refused."""
    _refuse(member, agreement.player)
    if agreement.withdrawn_on is not None:
        raise Refused("It was withdrawn already.")
    agreement.withdrawn_on = max(on, agreement.given_on)
    agreement.save(update_fields=["withdrawn_on"])
    record(
        club_id=member.club_id,
        actor=member.user,
        verb="noted a withdrawal",
        subject=agreement.player,
        what=agreement.what,
    )


def _refuse(member: Membership, player: Player) -> None:
    refuse_unless_coach(member)
    if player.club_id != member.club_id:
        raise Refused("That player is not of this club.")
