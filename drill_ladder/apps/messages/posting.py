"""Writing into the outbox and sending from it. A message is written in the transaction of what it
is about; it goes out once that is stored, and is tried again until it is gone or given up.
"""

from collections.abc import Collection, Iterable, Sequence
from contextlib import suppress
from dataclasses import dataclass
from datetime import datetime
from smtplib import SMTPException
from typing import Any
from urllib.parse import urlsplit

from django.conf import settings
from django.core.mail import EmailMultiAlternatives
from django.db import InterfaceError, OperationalError, transaction
from django.template.loader import render_to_string
from django.utils import timezone
from procrastinate import JobContext, RetryStrategy
from procrastinate.contrib.django import app as queue
from procrastinate.exceptions import AlreadyEnqueued

from drill_ladder.apps.history.services import record
from drill_ladder.apps.messages.letters import Letter
from drill_ladder.apps.messages.models import (
    Fate,
    MailAddress,
    MailSettings,
    Message,
)
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Club, Membership, Player
from drill_ladder.apps.people.players import refuse_unless_coach

AT_ONCE = 500
TRIES = 6  # with pauses of 4, 16, 64, 256 and 1,024 seconds: half an hour in all
PASSING = (SMTPException, OSError)


class NotSent(Exception):
    """The mail server did not take it this time."""


# the database may be away as well as the mail server
RETRIED = [NotSent, OperationalError, InterfaceError]


@dataclass(frozen=True, slots=True)
class Receiver:
    """Who gets a letter."""

    name: str
    email: str


def settings_of(club: Club) -> MailSettings:
    """What the club lets out; the usual where nobody chose."""
    return MailSettings.objects.filter(club=club).first() or MailSettings(club=club)


@transaction.atomic
def write(
    *,
    club: Club,
    letter: Letter,
    to: Iterable[Receiver],
    player: Player | None = None,
    due_at: datetime | None = None,
) -> list[Message]:
    """A message to each of them, once for what it is about; those who stopped the kind get none,
    which the outbox shows. due_at: when it goes out, None for now.
    """
    chosen = settings_of(club)
    made = []
    for receiver in _once_each(to):
        row, new = Message.objects.get_or_create(
            club=club,
            key=letter.key,
            to_email=receiver.email,
            defaults={**_written(letter, receiver, player), "fate": Fate.HELD, "due_at": due_at},
        )
        if new:
            stopped = address_of(club, row.to_email).stopped if row.optional else ()
            row.fate = _first_fate(row, chosen, stopped)
            row.save(update_fields=["fate"])
            made.append(row)
    for row in made:
        if row.fate == Fate.WAITING and due_at is None:
            _hand_over(row)
    return made


@transaction.atomic
def write_all(
    *, club: Club, letters: Iterable[tuple[Letter, Iterable[Receiver], Player]]
) -> list[Message]:
    """Many letters at once, each about something that was never written about: as `write`, by a
    handful of questions however many they are.
    """
    chosen = settings_of(club)
    rows = [
        Message(
            club=club,
            key=letter.key,
            to_email=receiver.email,
            **_written(letter, receiver, player),
        )
        for letter, to, player in letters
        for receiver in _once_each(to)
    ]
    stopped = _stopped(club, {row.to_email for row in rows if row.optional})
    for row in rows:
        row.fate = _first_fate(row, chosen, stopped.get(row.to_email, ()))
    Message.objects.bulk_create(rows, AT_ONCE)
    _hand_over_all([row.pk for row in rows if row.fate == Fate.WAITING])
    return rows


def _written(letter: Letter, receiver: Receiver, player: Player | None) -> dict[str, Any]:
    return {
        "player": player,
        "kind": letter.kind,
        "to_name": receiver.name,
        "subject": letter.subject[:150],
        "lines": list(letter.lines),
        "link": letter.link,
        "link_words": letter.link_words,
    }


def _stopped(club: Club, emails: Collection[str]) -> dict[str, Collection[str]]:
    """Address -> the kinds that its owner does not want; an address that is new gets its row."""
    new = [MailAddress(club=club, email=email) for email in sorted(emails)]
    MailAddress.objects.bulk_create(new, AT_ONCE, ignore_conflicts=True)
    rows = MailAddress.objects.filter(club=club, email__in=emails)
    return dict(rows.values_list("email", "stopped"))


def write_anew(row: Message, letter: Letter) -> None:
    """Another text in the place of one that has not gone out yet."""
    row.subject, row.lines = letter.subject[:150], list(letter.lines)
    row.save(update_fields=["subject", "lines"])


def _once_each(to: Iterable[Receiver]) -> list[Receiver]:
    receivers = {r.email.strip().lower(): r for r in to if r.email.strip()}
    return [Receiver(r.name, email) for email, r in receivers.items()]


def _first_fate(row: Message, chosen: MailSettings, stopped: Collection[str]) -> Fate:
    """stopped: the kinds that whoever has the address does not want."""
    if row.club.practice:
        return Fate.STOPPED
    if row.optional and (row.kind not in chosen.kinds or row.kind in stopped):
        return Fate.STOPPED
    return Fate.HELD if chosen.look_first and not row.urgent else Fate.WAITING


def address_of(club: Club, email: str) -> MailAddress:
    """The row of an address that the club writes to."""
    return MailAddress.objects.get_or_create(club=club, email=email)[0]


def _hand_over(row: Message) -> None:
    """To a worker, as soon as all of it is stored."""
    if settings.JOBS_INLINE:
        deliver(row.pk, last=True)
        return
    # one piece of work for a message, however often it is handed over
    with suppress(AlreadyEnqueued), transaction.atomic():
        send_out.configure(queueing_lock=f"mail {row.pk}").defer(message=row.pk)


def _hand_over_all(pks: Sequence[int]) -> None:
    """Many by one piece of work, which hands each of them over."""
    if settings.JOBS_INLINE:
        for pk in pks:
            deliver(pk, last=True)
    elif pks:
        hand_over_each.defer(messages=list(pks))


@queue.task(name="hand_over_each", queue="jobs", retry=RetryStrategy(max_attempts=TRIES))
def hand_over_each(messages: list[int]) -> None:
    """What a worker is given; whoever is cut off leaves the rest to `hand_over_left`."""
    for row in Message.objects.filter(pk__in=messages, fate=Fate.WAITING):
        _hand_over(row)


def hand_over_left(before: datetime, now: datetime) -> int:
    """What waits since before a moment, is due, and has no work any more (its worker and the
    database went at once, or it was to wait) is handed over; how many that are.
    """
    rows = list(Message.objects.waiting_since(before, now))
    for row in rows:
        _hand_over(row)
    return len(rows)


@queue.task(
    name="send_out",
    queue="jobs",
    pass_context=True,
    retry=RetryStrategy(max_attempts=TRIES, exponential_wait=4, retry_exceptions=RETRIED),
)
def send_out(context: JobContext, message: int) -> None:
    """What a worker is given."""
    deliver(message, last=context.job.attempts + 1 >= TRIES)
    failed = Message.objects.filter(pk=message, fate=Fate.WAITING).exists()
    if failed:
        raise NotSent


@transaction.atomic
def deliver(pk: int, last: bool) -> Fate | None:
    """Send a message that waits, and note what became of it; None where another one is at it.

    last: what fails now is given up. A server that took it and died before it was noted gets it
    again, with the same Message-ID.
    """
    rows = Message.objects.select_for_update(of=("self",), skip_locked=True)
    row = rows.select_related("club").filter(pk=pk).first()
    if row is None or row.fate != Fate.WAITING:
        return Fate(row.fate) if row else None
    row.tries += 1
    try:
        mail_of(row).send()
    except PASSING as error:
        row.error = f"{type(error).__name__}: {error}"[:300]
        row.fate = Fate.FAILED if last else Fate.WAITING
    else:
        row.fate, row.error, row.sent_at = Fate.SENT, "", timezone.now()
    row.save(update_fields=["tries", "error", "fate", "sent_at"])
    return Fate(row.fate)


def mail_of(row: Message) -> EmailMultiAlternatives:
    """The mail itself: plain text and HTML that say the same."""
    context = context_of(row)
    host = urlsplit(settings.MAIL_ADDRESS).hostname or "localhost"
    headers = {"Message-ID": f"<{row.pk}.{row.made_at:%Y%m%d%H%M%S}@{host}>"}
    headers["X-Club"] = str(row.club_id)
    if row.optional:
        headers["List-Unsubscribe"] = f"<{context['stops']}now/>"
        headers["List-Unsubscribe-Post"] = "List-Unsubscribe=One-Click"
    sender = f'"{row.club.name.replace(chr(34), "")}" <{settings.DEFAULT_FROM_EMAIL}>'
    mail = EmailMultiAlternatives(
        row.subject, text_of(row), sender, [row.to_email], headers=headers
    )
    mail.about = row.player_id  # type: ignore[attr-defined]  # for the mailbox here, in no header
    mail.attach_alternative(render_to_string("outbox/mail.html", context), "text/html")
    return mail


def text_of(row: Message) -> str:
    """The plain text."""
    return render_to_string("outbox/mail.txt", context_of(row))


def context_of(row: Message) -> dict[str, object]:
    """What both ways of writing it are given."""
    base = settings.MAIL_ADDRESS.rstrip("/")
    address = address_of(row.club, row.to_email)
    return {
        "row": row,
        "link": f"{base}{row.link}" if row.link else "",
        "stops": f"{base}/mail/{address.token}/",
    }


@transaction.atomic
def send_again(*, member: Membership, message: Message) -> Message:
    """What was held or failed goes out (again). Raises Refused."""
    refuse_unless_coach(member)
    row = Message.objects.select_for_update(of=("self",)).get(pk=message.pk)
    if row.fate not in (Fate.HELD, Fate.FAILED):
        raise Refused(f"That is not waiting for you: {row.get_fate_display().lower()}.")
    row.fate, row.error = Fate.WAITING, ""
    row.save(update_fields=["fate", "error"])
    record(club_id=member.club_id, actor=member.user, verb="sent a message", subject=row)
    _hand_over(row)
    return row


@transaction.atomic
def take_back(*, member: Membership, message: Message) -> None:
    """What has not gone out does not. Raises Refused."""
    refuse_unless_coach(member)
    row = Message.objects.select_for_update(of=("self",)).get(pk=message.pk)
    if row.fate in (Fate.SENT, Fate.STOPPED, Fate.WITHDRAWN):
        raise Refused(f"It cannot be taken back: {row.get_fate_display().lower()}.")
    row.fate = Fate.WITHDRAWN
    row.save(update_fields=["fate"])
    record(club_id=member.club_id, actor=member.user, verb="took a message back", subject=row)


@transaction.atomic
def choose_mail(*, member: Membership, kinds: Iterable[str], look_first: bool) -> None:
    """What the club lets out. Raises Refused."""
    refuse_unless_coach(member)
    MailSettings.objects.update_or_create(
        club=member.club, defaults={"kinds": sorted(kinds), "look_first": look_first}
    )
    record(
        club_id=member.club_id,
        actor=member.user,
        verb="chose what goes out by mail",
        subject=member.club,
        kinds=sorted(kinds),
    )


def stop_mail(address: MailAddress, kinds: Iterable[str]) -> None:
    """Whoever has the address does not want these kinds; what waits for them is stopped too."""
    address.stopped = sorted(kinds)
    address.save(update_fields=["stopped"])
    waiting = Message.objects.filter(club=address.club_id, to_email=address.email)
    waiting.filter(fate__in=(Fate.HELD, Fate.WAITING), kind__in=address.stopped).update(
        fate=Fate.STOPPED
    )
