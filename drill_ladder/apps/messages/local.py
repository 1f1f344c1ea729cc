"""The local mailbox: a mail backend for where no mail server is set, as in the demo."""

from collections.abc import Sequence

from django.core.mail import EmailMessage
from django.core.mail.backends.base import BaseEmailBackend

from drill_ladder.apps.messages.models import LocalMail
from drill_ladder.formats.reading import whole


class Mailbox(BaseEmailBackend):
    """Keeps what would have been sent, as it would have arrived."""

    def send_messages(self, email_messages: Sequence[EmailMessage]) -> int:
        """How many were kept."""
        for mail in email_messages:
            html = [body for body, kind in getattr(mail, "alternatives", []) if kind == "text/html"]
            LocalMail.objects.create(
                club_id=whole(str(mail.extra_headers.get("X-Club", ""))),
                player_id=getattr(mail, "about", None),
                to=", ".join(mail.recipients())[:300],
                sender=str(mail.from_email)[:300],
                subject=mail.subject[:200],
                text=str(mail.body),
                html=str(html[0]) if html else "",
                headers={key: str(value) for key, value in mail.extra_headers.items()},
            )
        return len(email_messages)
