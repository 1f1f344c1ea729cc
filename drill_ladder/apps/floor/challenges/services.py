"""Challenges: a player's own best against their own best. They exist only where a coach opens one,
end by themselves, and rank nobody; a board by initials is for adults and for whose guardian agreed.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from django.db import transaction

from drill_ladder.apps.floor.models import Challenge, Protocol
from drill_ladder.apps.floor.test_days import Record, record_of_tests, score_words
from drill_ladder.apps.history.services import record
from drill_ladder.apps.people.agreements import who_agree
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import AgreedTo, Membership, Player, Squad
from drill_ladder.apps.people.players import refuse_unless_coach

LONGEST = 90  # days


@dataclass(frozen=True, slots=True)
class Own:
    """A player against themselves: the best before it began, the best since; None for none."""

    player: Player
    before: float | None
    since: float | None
    told: str


@transaction.atomic
def open_challenge(
    *,
    member: Membership,
    protocol: Protocol,
    title: str,
    begins: date,
    ends: date,
    squad: Squad | None = None,
    board: bool = False,
) -> Challenge:
    """A new challenge. Raises Refused."""
    refuse_unless_coach(member)
    if not 0 <= (ends - begins).days <= LONGEST:
        raise Refused(f"A challenge lasts from one day to {LONGEST}. Nothing was opened.")
    row = Challenge.objects.create(
        club=member.club,
        protocol=protocol,
        title=title,
        begins=begins,
        ends=ends,
        squad=squad,
        board=board,
    )
    record(club_id=member.club_id, actor=member.user, verb="opened a challenge", subject=row)
    return row


def own_of(challenge: Challenge, player: Player, found: Record | None = None) -> Own:
    """One player's own best, before and since. found: what is known of the test, if it is."""
    protocol = challenge.protocol
    found = found or record_of_tests([protocol])
    higher = protocol.measure.higher_is_better
    best = max if higher else min
    own = [one for (who, _, _), one in found.measured[protocol.pk].items() if who == player.pk]
    before = [one.score for one in own if one.on < challenge.begins]
    since = [one.score for one in own if challenge.begins <= one.on <= challenge.ends]
    old, new = best(before, default=None), best(since, default=None)
    return Own(player, old, new, _told(protocol, old, new, higher))


def _told(protocol: Protocol, old: float | None, new: float | None, higher: bool) -> str:
    if new is None:
        return f"to beat: {score_words(protocol, old)}" if old is not None else "not tried yet"
    if old is None:
        return f"{score_words(protocol, new)}, the first one"
    beaten = new > old if higher else new < old
    gap = score_words(protocol, abs(new - old))
    if beaten:
        return f"own best beaten by {gap}: {score_words(protocol, new)}"
    return f"own best stands: {score_words(protocol, old)}; {score_words(protocol, new)} so far"


def board_of(challenge: Challenge, players: Sequence[Player], on: date) -> list[tuple[str, str]]:
    """(Initials, result) of those who took part and may stand there (adults, and whose guardian
    agreed), by initials and never by result; nobody's where there is no board.
    """
    if not challenge.board or not challenge.begins <= on <= challenge.ends:
        return []
    found = record_of_tests([challenge.protocol])
    allowed = who_agree(players, AgreedTo.BOARDS, on)
    rows = [own_of(challenge, player, found) for player in players if player.pk in allowed]
    return sorted(
        (
            "".join(part[0] for part in row.player.name.split()),
            score_words(challenge.protocol, row.since),
        )
        for row in rows
        if row.since is not None
    )
