"""Secret links and calendars: found, made anew, closed; what an earlier version gave out moves
over.
"""

from django.db import transaction
from django.utils import timezone

from drill_ladder.apps.at_hand import first_with
from drill_ladder.apps.history.services import record
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import FEED, Membership, OldSecret, Opens, Player, SecretLink
from drill_ladder.apps.people.players.services import refuse_unless_coach
from drill_ladder.apps.people.secrets import fingerprint, is_signed, parts_of

WORDS = {Opens.CARD: "card", Opens.CALENDAR: "calendar"}


def open_link(player: Player, opens: str = Opens.CARD) -> SecretLink | None:
    """The player's open link of a kind, or None."""
    return SecretLink.objects.filter(player=player, opens=opens, closed_at__isnull=True).first()


def open_links(player: Player) -> dict[str, SecretLink]:
    """The player's open links by their kind."""
    return {link.opens: link for link in player.links.all() if link.closed_at is None}


def player_by(token: str, opens: str, *beside: str) -> Player | None:
    """The player whose card or calendar a secret opens; beside: which of their rows are wanted at
    hand.
    """
    opened = SecretLink.objects.opened_by(token, opens).values("player")
    rows = Player.objects.filter(pk__in=opened).select_related("club")
    return first_with(rows, *beside)


def player_once_by(token: str) -> Player | None:
    """The player whose card a secret opens or once opened: it shows nothing, but a report of hurt
    still arrives.
    """
    link = SecretLink.objects.of_secret(token, Opens.CARD).first()
    if link is not None:
        return link.player
    old = OldSecret.objects.filter(fingerprint=fingerprint(token), opens=Opens.CARD).select_related(
        "player__club"
    )
    known = old.first()
    return known.player if known else None


def member_by(token: str) -> Membership | None:
    """The coach whose calendar a secret opens: nobody's once they left, may not sign in or changed
    their password.
    """
    parts = parts_of(token)
    if parts is None:
        return None
    members = Membership.objects.filter(
        pk=parts[0], feed_version=parts[1], feed_closed=False, user__is_active=True
    )
    member = members.select_related("club", "user").first()
    signed = member is not None and is_signed(token, FEED, member.user.get_session_auth_hash())
    return member if signed else None


@transaction.atomic
def moved_to(token: str, opens: str) -> str | None:
    """The present secret for one of an earlier version, which it leads to once; None for
    any other.
    """
    rows = OldSecret.objects.select_for_update(of=("self",)).select_related(
        "player", "member__user"
    )
    old = rows.filter(fingerprint=fingerprint(token), opens=opens, spent=False).first()
    if old is None:
        return None
    old.spent = True
    old.save(update_fields=["spent"])
    if old.member is not None:
        return None if old.member.feed_closed else old.member.feed_token
    link = open_link(old.player, opens) if old.player else None
    return link.token if link else None


@transaction.atomic
def renew_link(*, member: Membership, player: Player, opens: str = Opens.CARD) -> SecretLink:
    """A new secret link; every one before opens nothing any more."""
    return _next(member, player, opens, closed=False)


@transaction.atomic
def close_link(*, member: Membership, player: Player, opens: str = Opens.CARD) -> SecretLink:
    """No link opens the card (or the calendar) any more, until a new one is made."""
    return _next(member, player, opens, closed=True)


def _next(member: Membership, player: Player, opens: str, closed: bool) -> SecretLink:
    refuse_unless_coach(member)
    if player.club_id != member.club_id or opens not in Opens.values:
        raise Refused("That link is not of this club.")
    Player.objects.select_for_update().get(pk=player.pk)
    link, new = SecretLink.objects.get_or_create(club=member.club, player=player, opens=opens)
    link.version += 0 if new else 1
    link.closed_at = timezone.now() if closed else None
    link.save(update_fields=["version", "closed_at"])
    OldSecret.objects.filter(player=player, opens=opens).update(spent=True)
    verb = f"{'closed' if closed else 'renewed'} the {WORDS[Opens(opens)]} link"
    record(club_id=member.club_id, actor=member.user, verb=verb, subject=player)
    return link


@transaction.atomic
def renew_feed(*, member: Membership, closed: bool = False) -> Membership:
    """A new secret address for a coach's own calendar, or none; the one before shows nothing any
    more.
    """
    refuse_unless_coach(member)
    current = Membership.objects.select_for_update().get(pk=member.pk)
    member.feed_version, member.feed_closed = current.feed_version + 1, closed
    member.save(update_fields=["feed_version", "feed_closed"])
    OldSecret.objects.filter(member=member).update(spent=True)
    verb = "closed their calendar" if closed else "renewed their calendar"
    record(club_id=member.club_id, actor=member.user, verb=verb, subject=member)
    return member
