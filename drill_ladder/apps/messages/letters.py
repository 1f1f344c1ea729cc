"""Every mail in words, in one place: what it says is what card, feed and page say."""

from collections.abc import Iterable
from dataclasses import dataclass

from drill_ladder.apps.card.models import Report
from drill_ladder.apps.messages.models import Kind
from drill_ladder.apps.people.models import Invitation, Player
from drill_ladder.apps.practice.models import Stop
from drill_ladder.apps.weeks.models import Week
from drill_ladder.core.planning import ToldBlock

NO_DIAGNOSIS = (
    "The program stops the drills. It cannot say what is wrong. Please see a doctor or a physio "
    "who is licensed. A coach ends the stop when they know who cleared it."
)
DAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")


@dataclass(frozen=True, slots=True)
class Letter:
    """What a mail says. key: what it is about; link: a path of this program."""

    kind: Kind
    key: str
    subject: str
    lines: tuple[str, ...]
    link: str = ""
    link_words: str = ""


def invitation(row: Invitation) -> Letter:
    """Somebody is invited to a club."""
    lines = (
        f"{row.made_by or 'The owner'} invites you to {row.club} as {row.role}.",
        f"The link works until {row.expires_at:%-d %B}, once. It is for {row.email} alone.",
    )
    key = f"invitation {row.pk}"
    subject = f"You are invited to {row.club}"
    return Letter(Kind.INVITATION, key, subject, lines, f"/join/{row.token}/", "Join the club")


def card_link(player: Player, token: str, count: str) -> Letter:
    """The address of a home card."""
    lines = (
        f"This is {player.name}'s card: what to practise at home, how many, and where to say how "
        "it went. It needs no account and no password.",
        "Whoever has the link opens the card, so please keep it in the family. Is it lost or "
        "known to others? Tell the coach: a new one closes this one.",
        "If anything hurts, say so on the card: the drills stop and the coach is told.",
    )
    subject = f"The card of {player.name}"
    return Letter(Kind.CARD, f"card {player.pk} {count}", subject, lines, f"/card/{token}/", "Card")


def week(row: Week, changed: Iterable[str], token: str) -> Letter:
    """A week as it was told, or what is another in it."""
    changed = tuple(changed)
    name = row.player.name
    blocks = [block for block in row.published if not block.cancelled]
    if changed:
        subject = f"{name}'s week has changed"
        lines = ("What is different:", *changed)
    else:
        subject = f"{name}'s week from {row.monday:%-d %B}"
        lines = tuple(_day_line(block) for block in sorted(blocks, key=lambda b: (b.on, b.order)))
        lines = lines or ("Nothing is planned this week.",)
    key = f"week {row.pk} {row.published_at:%Y%m%d%H%M%S%f}"
    return Letter(Kind.WEEK, key, subject, lines, f"/card/{token}/", "Open the card")


def _day_line(block: ToldBlock) -> str:
    day = DAYS[block.on.weekday()]
    place = "at home" if block.place == "home" else "at the club"
    dose = f": {block.dose}" if block.dose else ""
    return f"{day} {block.on:%-d %B}, {place}: {block.ladder}, {block.title}{dose}"


def hurt(stop: Stop, words: str, number: int, to_coach: bool, since: int = 1) -> Letter:
    """Something hurts. words: of the latest report; number: which one of the stop it is; since: how
    many reports this letter speaks of.
    """
    name = stop.player.name
    lines = [f"{name} has told: “{words}”. Everything is stopped from now on."]
    if since > 1:
        lines = [
            f"{name} has told {since} more times that something hurts, the last time: “{words}”."
        ]
    if to_coach:
        lines.append("Please talk to the player and the family.")
        link, link_words = f"/players/{stop.player_id}/", "Open the player"
    else:
        lines.append("The coach has been told as well.")
        link, link_words = "", ""
    lines.append(NO_DIAGNOSIS)
    key = f"hurt {stop.pk} {number}"
    return Letter(Kind.HURT, key, f"{name}: something hurts", tuple(lines), link, link_words)


def cleared(stop: Stop, to_coach: bool) -> Letter:
    """A stop is ended."""
    name = stop.player.name
    lines = (
        f"The stop of {stop.opened_on:%-d %B} (“{stop.what}”) is ended. Cleared by: "
        f"{stop.cleared_by}.",
        "If it hurts again, say so on the card: everything stops again.",
    )
    link = f"/players/{stop.player_id}/" if to_coach else ""
    words = "Open the player" if to_coach else ""
    return Letter(Kind.CLEARED, f"cleared {stop.pk}", f"{name} may begin again", lines, link, words)


def report(row: Report, token: str) -> Letter:
    """A report can be read."""
    lines = (
        f"There is a new report for {row.player.name}, from {row.since:%-d %B} to {row.on:%-d %B}.",
        "What we worked on, what has changed, what comes next, and how to help at home.",
    )
    subject = f"A report for {row.player.name}"
    link = f"/card/{token}/report/{row.pk}/"
    return Letter(Kind.REPORT, f"report {row.pk}", subject, lines, link, "Read it")


def reminder(player: Player, left: Iterable[str], monday: str, token: str) -> Letter:
    """Home work of this week that is not done yet: once a week at most, without a reproach."""
    lines = (
        f"Still to do at home this week, if it fits: {', '.join(left)}.",
        "Ten minutes are better than none. Is something in the way? Say so on the card.",
    )
    subject = f"{player.name}: at home this week"
    key = f"reminder {player.pk} {monday}"
    return Letter(Kind.REMINDER, key, subject, lines, f"/card/{token}/", "Open the card")
