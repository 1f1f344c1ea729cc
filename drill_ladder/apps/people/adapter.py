"""Accounts are made by the club, never by strangers."""

from allauth.account.adapter import DefaultAccountAdapter
from django.http import HttpRequest


class MembersOnly(DefaultAccountAdapter):  # type: ignore[misc]
    """No sign-up."""

    def is_open_for_signup(self, request: HttpRequest) -> bool:
        """Nobody signs up by themselves."""
        return False
