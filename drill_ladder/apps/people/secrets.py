"""Secret addresses: a signature by the application's key over a row's id and version.

The database holds ids and versions only, so that whoever reads it opens nothing; the key and a row
make the address again, for paper and QR codes. A new version closes every address given out before.
"""

import hashlib
import re

from django.conf import settings
from django.utils.crypto import constant_time_compare, salted_hmac

_TOKEN = re.compile(r"([0-9a-z]{1,13})-([0-9a-z]{1,6})-([0-9a-f]{40})")
_DIGITS = "0123456789abcdefghijklmnopqrstuvwxyz"


def make_token(kind: str, pk: int, version: int, more: str = "") -> str:
    """The secret of a row. kind: what it opens; more: what else closes it when it changes (a
    password).

    160 bits of HMAC-SHA256, which nobody guesses.
    """
    signature = _signature(settings.SECRET_KEY, kind, pk, version, more)
    return f"{_base36(pk)}-{_base36(version)}-{signature}"


def parts_of(token: str) -> tuple[int, int] | None:
    """The row's id and version that a secret claims; None for what is no secret at all."""
    match = _TOKEN.fullmatch(token)
    return (int(match[1], 36), int(match[2], 36)) if match and int(match[1], 36) < 2**63 else None


def is_signed(token: str, kind: str, more: str = "") -> bool:
    """Whether this application signed the secret for this kind, with its present key or one from
    before.
    """
    parts = parts_of(token)
    if parts is None:
        return False
    keys = [settings.SECRET_KEY, *settings.SECRET_KEY_FALLBACKS]
    signature = token.rsplit("-", 1)[1]
    return any(
        constant_time_compare(signature, _signature(key, kind, *parts, more)) for key in keys
    )


def fingerprint(token: str) -> str:
    """What is kept of a random secret given out by an earlier version."""
    return hashlib.sha256(token.encode("utf-8", "replace")).hexdigest()


def _signature(key: str | bytes, kind: str, pk: int, version: int, more: str) -> str:
    value = f"{pk}.{version}.{more}"
    return salted_hmac(f"drill_ladder.{kind}", value, secret=key, algorithm="sha256").hexdigest()[
        :40
    ]


def _base36(number: int) -> str:
    text = ""
    while True:
        number, rest = divmod(number, 36)
        text = _DIGITS[rest] + text
        if not number:
            return text
