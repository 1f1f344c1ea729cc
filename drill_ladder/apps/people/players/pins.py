"""Four digits that a card may ask for beside its secret link: kept as a hash, slow after five wrong
ones, put anew or taken away by a coach.
"""

import re
from datetime import datetime, timedelta

from django.contrib.auth.hashers import check_password, make_password
from django.core import signing
from django.core.cache import cache
from django.db import transaction

from drill_ladder.apps.history.services import record
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.people.players.services import refuse_unless_coach
from drill_ladder.apps.people.secrets import fingerprint

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
