"""Secret links and calendars: found, made anew, closed; what an earlier version gave out moves
over. And the four digits that a card may ask for beside its link: kept as a hash, slow after five
wrong ones, put anew or taken away by a coach.
"""

import re
from collections.abc import Iterable
from datetime import datetime, timedelta

from django.contrib.auth.hashers import check_password, make_password
from django.core import signing
from django.core.cache import cache
from django.db import transaction
from django.utils import timezone

from drill_ladder.apps.history.services import record
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import FEED, Membership, OldSecret, Opens, Player, SecretLink
from drill_ladder.apps.people.players.services import refuse_unless_coach
from drill_ladder.apps.people.secrets import fingerprint, is_signed, parts_of
from drill_ladder.apps.stored import first_with

WORDS = {Opens.CARD: "card", Opens.CALENDAR: "calendar"}


def open_link(player: Player, opens: str = Opens.CARD) -> SecretLink | None:
    """The player's open link of a kind, or None."""
    return SecretLink.objects.filter(player=player, opens=opens, closed_at__isnull=True).first()


def card_tokens(players: Iterable[Player]) -> dict[int, str]:
    """Player id -> what opens the card, of those whose link is open."""
    own = SecretLink.objects.filter(player__in=[player.pk for player in players])
    rows = own.filter(opens=Opens.CARD, closed_at__isnull=True)
    return {link.player_id: link.token for link in rows}


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


DIGITS = re.compile(r"[0-9]{4}")
FREE, FIRST_S, LONGEST_S = 5, 30, 900  # wrong ones without a wait; then 30 s, doubled, to 15 min
REMEMBERED = 180 * 24 * 3600  # seconds that a device stays unlocked
SALT = "card-pin"


@transaction.atomic
def set_pin(*, member: Membership, player: Player, pin: str) -> None:
    """A PIN, or none (empty). Raises Refused."""
    refuse_unless_coach(member)
    if player.club_id != member.club_id:
        raise Refused("That player is not of this club.")
    if pin and not DIGITS.fullmatch(pin):
        raise Refused("A PIN has four digits. Nothing was changed.")
    player.card_pin = make_password(pin) if pin else ""
    player.save(update_fields=["card_pin"])
    cache.delete(_key(player))
    verb = "set a PIN for the card" if pin else "took the card's PIN away"
    record(club_id=member.club_id, actor=member.user, verb=verb, subject=player)


def _key(player: Player) -> str:
    return f"card-pin:{player.pk}"


def wait_s(player: Player, now: datetime) -> int:
    """Seconds until the next try counts; 0 where it does now."""
    _, until = cache.get(_key(player), (0, now))
    return max(0, int((until - now).total_seconds()))


def try_pin(player: Player, pin: str, now: datetime) -> bool:
    """Whether it is the right one. A try during a wait is none, whatever it was."""
    if wait_s(player, now):
        return False
    if check_password(pin, player.card_pin):
        cache.delete(_key(player))
        return True
    wrong = cache.get(_key(player), (0, now))[0] + 1
    seconds = 0 if wrong < FREE else min(LONGEST_S, FIRST_S * 2 ** (wrong - FREE))
    cache.set(_key(player), (wrong, now + timedelta(seconds=seconds)), 24 * 3600)
    return False


def unlocked(player: Player, cookie: str) -> bool:
    """Whether a device has said the PIN that the card has now."""
    if not player.card_pin:
        return True
    try:
        said = signing.loads(cookie, salt=SALT, max_age=REMEMBERED)
    except signing.BadSignature:
        return False
    return bool(said == [player.pk, fingerprint(player.card_pin)])


def unlocking(player: Player) -> str:
    """What a device keeps once it has said the PIN; worth nothing after another one was put."""
    return signing.dumps([player.pk, fingerprint(player.card_pin)], salt=SALT)
