"""What is worth a mail, and who gets it. Nothing that is stored fails because a mail cannot be
written.
"""

from datetime import datetime, timedelta
from typing import Any

from django.db import transaction
from django.db.models import prefetch_related_objects
from django.utils import timezone

from drill_ladder.apps.card.models import Report
from drill_ladder.apps.messages import letters
from drill_ladder.apps.messages.models import Fate, Message
from drill_ladder.apps.messages.posting import Receiver, write, write_all, write_anew
from drill_ladder.apps.people.agreements import agrees, who_agree
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import AgreedTo, Invitation, Membership, Player, Role
from drill_ladder.apps.people.players import card_tokens, open_link, refuse_unless_coach
from drill_ladder.apps.practice.models import Stop
from drill_ladder.apps.weeks.models import Week

TOGETHER = timedelta(minutes=10)  # a frightened child taps often: one mail says how often
NO_ADDRESS = "No guardian of {} has a mail address. Add one on their page."


def guardians_of(player: Player) -> list[Receiver]:
    """Those with a mail address."""
    return [Receiver(g.name, g.email) for g in player.guardians.all() if g.email]


def coaches_of(player: Player) -> list[Receiver]:
    """Those who look after the player's squad; every coach and owner where nobody does."""
    rows = Membership.objects.filter(club=player.club_id, user__is_active=True)
    rows = rows.exclude(role=Role.ASSISTANT).select_related("user")
    squads = rows.filter(duties__squad=player.squad_id) if player.squad_id else rows.none()
    return [Receiver(m.user.name, m.user.email) for m in squads or rows]


def on_invited(*, invitation: Invitation, **_: Any) -> None:
    """By mail as well as by the link on the page."""
    to = [Receiver(invitation.name, invitation.email)]
    write(club=invitation.club, letter=letters.invitation(invitation), to=to)


def on_hurt(*, stop: Stop, words: str, **_: Any) -> None:
    """To guardians and coaches: the first report at once, what is added within ten minutes together
    after them, in one mail with its number.
    """
    now = timezone.now()
    before = list(Message.objects.about_stop(stop))
    last = max((row.due_at or row.made_at for row in before), default=None)
    number = stop.reports.count()
    with transaction.atomic():
        if last is not None and last > now:
            _tell_together(stop, words, number, last)
            return
        due_at = last + TOGETHER if last is not None and now - last < TOGETHER else None
        _tell_hurt(stop, words, number, due_at)


def _tell_hurt(stop: Stop, words: str, number: int, due_at: datetime | None) -> None:
    player = stop.player
    for to_coach, to in ((True, coaches_of(player)), (False, guardians_of(player))):
        letter = letters.hurt(stop, words, number, to_coach)
        write(club=player.club, letter=letter, to=to, player=player, due_at=due_at)


def _tell_together(stop: Stop, words: str, number: int, due_at: datetime) -> None:
    """The mail that waits says now how many there are."""
    for row in Message.objects.about_stop(stop).filter(fate=Fate.WAITING, due_at=due_at):
        first = int(row.key.rsplit(" ", 1)[1])
        letter = letters.hurt(stop, words, number, row.link != "", number - first + 1)
        write_anew(row, letter)


def on_cleared(*, stop: Stop, **_: Any) -> None:
    """At once, to guardians and coaches."""
    player = stop.player
    with transaction.atomic():
        for to_coach, to in ((True, coaches_of(player)), (False, guardians_of(player))):
            letter = letters.cleared(stop, to_coach)
            write(club=player.club, letter=letter, to=to, player=player)


def on_weeks(*, told: list[tuple[Week, list[str]]], **_: Any) -> None:
    """To guardians, with the link of the card that says the same."""
    prefetch_related_objects([week.player for week, _ in told], "guardians")
    to_tell = [(week, lines) for week, lines in told if guardians_of(week.player)]
    if not to_tell:
        return
    tokens = card_tokens(week.player for week, _ in to_tell)
    to_write = [
        (letters.week(week, lines, tokens[week.player_id]), guardians_of(week.player), week.player)
        for week, lines in to_tell
        if week.player_id in tokens
    ]
    write_all(club=told[0][0].club, letters=to_write)


def on_report(*, report: Report, **_: Any) -> None:
    """To guardians who agreed to it."""
    player, link = report.player, open_link(report.player)
    if link is not None and agrees(player, AgreedTo.REPORTS, report.on):
        letter = letters.report(report, link.token)
        write(club=player.club, letter=letter, to=guardians_of(player), player=player)


def on_reports(*, reports: list[Report], **_: Any) -> None:
    """To the guardians of many who agreed to it, at once."""
    players = [report.player for report in reports]
    prefetch_related_objects(players, "guardians")
    tokens, agree = card_tokens(players), who_agree(players, AgreedTo.REPORTS, reports[0].on)
    to_write = [
        (letters.report(report, tokens[player.pk]), guardians_of(player), player)
        for report, player in zip(reports, players, strict=True)
        if player.pk in tokens and player.pk in agree and guardians_of(player)
    ]
    write_all(club=reports[0].club, letters=to_write)


@transaction.atomic
def mail_card(*, member: Membership, player: Player) -> list[Message]:
    """The link of the home card, to the guardians. Raises Refused."""
    refuse_unless_coach(member)
    link, to = open_link(player), guardians_of(player)
    if link is None:
        raise Refused("No link opens the card. Make a new one first.")
    if not to:
        raise Refused(NO_ADDRESS.format(player.name))
    count = Message.objects.filter(club=member.club, kind="card", player=player).count()
    letter = letters.card_link(player, link.token, f"{link.version}.{count}")
    return write(club=member.club, letter=letter, to=to, player=player)
