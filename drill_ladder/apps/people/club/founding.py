"""A club is founded in the browser, by a one-time code from the command line."""

import secrets
from datetime import timedelta
from hashlib import sha256

from django.db import transaction
from django.utils import timezone

from drill_ladder.apps.history.services import record
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Club, FoundingCode, Membership, Role, User

CODE_FOR = timedelta(hours=24)
LETTERS = "ABCDEFGHJKMNPQRSTUVWXYZ23456789"  # none that is taken for another one
WRONG = (
    "This code is not known, was used, or is older than a day. Nothing was made. "
    "On the server: ./ladder manage founding_code"
)


def new_code() -> str:
    """A code for one club, told now and kept as a digest: 60 bits, as ABCD-EFGH-JKMN."""
    letters = "".join(secrets.choice(LETTERS) for _ in range(12))
    code = "-".join(letters[i : i + 4] for i in (0, 4, 8))
    FoundingCode.objects.create(digest=_digest(code), expires_at=timezone.now() + CODE_FOR)
    return code


@transaction.atomic
def found(
    *, code: str, club: str, time_zone: str, name: str, email: str, password: str
) -> Membership:
    """A club and its owner. Raises Refused, ValidationError."""
    now = timezone.now()
    rows = FoundingCode.objects.select_for_update().filter(used_at=None, expires_at__gt=now)
    code_row = rows.filter(digest=_digest(code)).first()
    if code_row is None:
        raise Refused(WRONG)
    if User.objects.filter(email=email.lower()).exists():
        raise Refused(f"{email} has an account already. Nothing was made.")
    made = Club(name=club.strip(), time_zone=time_zone)
    made.full_clean()
    made.save()
    user = User.objects.create_user(email, password, name.strip())
    owner = Membership.objects.create(club=made, user=user, role=Role.OWNER)
    code_row.used_at = now
    code_row.save(update_fields=["used_at"])
    record(club_id=made.pk, actor=user, verb="founded the club", subject=made)
    return owner


def _digest(code: str) -> str:
    """A code has 60 random bits and lives for a day."""
    plain = "".join(letter for letter in code.upper() if letter.isalnum())
    return sha256(f"founding {plain}".encode()).hexdigest()
