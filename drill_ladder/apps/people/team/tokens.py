"""Making, finding and revoking the tokens of a club's own tools."""

import secrets
from collections.abc import Sequence
from hashlib import sha256

from django.db import transaction
from django.utils import timezone

from drill_ladder.apps.history.services import record
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import AccessToken, Membership, Scope
from drill_ladder.apps.people.players import refuse_unless_owner

TOKENS_TOLD = "Only the club’s owner makes and revokes tokens. Nothing was changed."
MARK = "dl_"  # a secret that is found somewhere says whose it is


def digest_of(secret: str) -> str:
    """What is kept of a secret: 256 bits of chance need no salt and no slow hash."""
    return sha256(secret.encode()).hexdigest()


@transaction.atomic
def make_access(*, member: Membership, name: str, scopes: Sequence[str]) -> tuple[AccessToken, str]:
    """(The token, its secret): the secret is told now and never again. Raises Refused."""
    refuse_unless_owner(member, TOKENS_TOLD)
    allowed = [scope for scope in Scope.values if scope in scopes]
    if not allowed:
        raise Refused("Choose at least one thing that it may do. Nothing was made.")
    secret = MARK + secrets.token_urlsafe(32)
    row = AccessToken.objects.create(
        club=member.club,
        name=name,
        start=secret[:9],
        digest=digest_of(secret),
        scopes=allowed,
        made_by=member.user,
    )
    record(
        club_id=member.club_id, actor=member.user, verb="made a token", subject=row, scopes=allowed
    )
    return row, secret


@transaction.atomic
def revoke_access(*, member: Membership, token: AccessToken) -> None:
    """It opens nothing any more. Raises Refused."""
    refuse_unless_owner(member, TOKENS_TOLD)
    if token.revoked_at is None:
        token.revoked_at = timezone.now()
        token.save(update_fields=["revoked_at"])
        record(club_id=member.club_id, actor=member.user, verb="revoked a token", subject=token)


def token_of(secret: str) -> AccessToken | None:
    """The token of a secret; None for a wrong or revoked one, and for one whose maker has left."""
    token: AccessToken | None = AccessToken.objects.of_secret(digest_of(secret)).first()
    return token
