"""Accounts are made by the club, never by strangers; secrets of the second step are kept locked."""

import secrets
from base64 import urlsafe_b64encode
from hashlib import sha256
from typing import Any

from allauth.account.adapter import DefaultAccountAdapter
from allauth.mfa.adapter import DefaultMFAAdapter
from cryptography.fernet import Fernet, MultiFernet
from django.conf import settings
from django.core import signing
from django.http import HttpRequest, HttpResponse
from django.shortcuts import resolve_url
from django.utils.encoding import force_bytes

from drill_ladder.apps.people.models import Membership

DEVICE = "known-device"
REMEMBERED = 400 * 24 * 3600  # s: as long as browsers keep a cookie at most


def _of_whom(email: str) -> str:
    return sha256(f"device of {email.strip().lower()}".encode()).hexdigest()[:32]


def known_device(request: HttpRequest, email: str) -> str:
    """The number of a device that has signed in with this address before; "" for a strange one."""
    try:
        said = signing.loads(request.COOKIES.get(DEVICE, ""), salt=DEVICE, max_age=REMEMBERED)
    except signing.BadSignature:
        return ""
    address: str = said.get(_of_whom(email), "") if isinstance(said, dict) else ""
    return address


def remember_device(request: HttpRequest, response: HttpResponse, email: str) -> None:
    """The cookie says, signed, for which addresses the device is known; nobody reads them in it."""
    try:
        said = signing.loads(request.COOKIES.get(DEVICE, ""), salt=DEVICE, max_age=REMEMBERED)
    except signing.BadSignature:
        said = {}
    said = dict(list(said.items())[-9:]) | {_of_whom(email): secrets.token_hex(8)}
    response.set_cookie(
        DEVICE,
        signing.dumps(said, salt=DEVICE),
        max_age=REMEMBERED,
        httponly=True,
        secure=settings.SESSION_COOKIE_SECURE,
        samesite="Lax",
    )


class MembersOnly(DefaultAccountAdapter):  # type: ignore[misc]
    """No sign-up; somebody in several clubs chooses one first."""

    def is_open_for_signup(self, request: HttpRequest) -> bool:
        """Nobody signs up by themselves."""
        return False

    def _get_login_attempts_cache_key(self, request: HttpRequest, **credentials: Any) -> str:
        """Wrong passwords of strangers slow strangers down: a device that has signed in as this
        member before is counted by itself (decision 015).
        """
        key = super()._get_login_attempts_cache_key(request, **credentials)
        return f"{key}:{known_device(request, credentials.get('email', '')) or 'strangers'}"

    def post_login(self, request: HttpRequest, user: Any, **kwargs: Any) -> HttpResponse:
        """This device is known from now on."""
        response: HttpResponse = super().post_login(request, user, **kwargs)
        remember_device(request, response, user.email)
        return response

    def get_login_redirect_url(self, request: HttpRequest) -> str:
        """The desk; the own account for somebody in several clubs, or in none."""
        user: Any = request.user
        one = Membership.objects.of_user(user.pk).count() == 1
        return resolve_url("progress:desk" if one else "people:account")


class Steps(DefaultMFAAdapter):  # type: ignore[misc]
    """What the database holds of a second step opens nothing without the application's key."""

    def encrypt(self, text: str) -> str:
        """As it is stored."""
        return _lock().encrypt(text.encode()).decode()

    def decrypt(self, encrypted_text: str) -> str:
        """As it was given."""
        return _lock().decrypt(encrypted_text.encode()).decode()


def _lock() -> MultiFernet:
    keys = [settings.SECRET_KEY, *settings.SECRET_KEY_FALLBACKS]
    return MultiFernet([Fernet(_key(key)) for key in keys])


def _key(secret: str | bytes) -> bytes:
    return urlsafe_b64encode(sha256(b"two steps " + force_bytes(secret)).digest())
