"""Accounts are made by the club, never by strangers; secrets of the second step are kept locked."""

from base64 import urlsafe_b64encode
from hashlib import sha256
from typing import Any

from allauth.account.adapter import DefaultAccountAdapter
from allauth.mfa.adapter import DefaultMFAAdapter
from cryptography.fernet import Fernet, MultiFernet
from django.conf import settings
from django.http import HttpRequest
from django.shortcuts import resolve_url
from django.utils.encoding import force_bytes

from drill_ladder.apps.people.models import Membership


class MembersOnly(DefaultAccountAdapter):  # type: ignore[misc]
    """No sign-up; somebody in several clubs chooses one first."""

    def is_open_for_signup(self, request: HttpRequest) -> bool:
        """Nobody signs up by themselves."""
        return False

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
