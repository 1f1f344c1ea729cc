"""Whoever is signed in, with their places in clubs: one question for both."""

from allauth.account.auth_backends import AuthenticationBackend

from drill_ladder.apps.people.models import Membership, User


class Members(AuthenticationBackend):  # type: ignore[misc]
    """As allauth's; every page that knows who asks also knows for which clubs."""

    def get_user(self, user_id: int) -> User | None:
        """The user, and at hand what `choose_club` is asked for."""
        memberships = list(Membership.objects.of_user(user_id))
        if not memberships:
            user: User | None = super().get_user(user_id)
            return user
        user = memberships[0].user
        if not self.user_can_authenticate(user):
            return None
        user.__dict__["_memberships"] = memberships
        return user
