"""Whoever is signed in, with their place in the club: one question for both."""

from allauth.account.auth_backends import AuthenticationBackend

from drill_ladder.apps.people.models import Membership, User


class Members(AuthenticationBackend):  # type: ignore[misc]
    """As allauth's; every page that knows who asks also knows for which club."""

    def get_user(self, user_id: int) -> User | None:
        """The user, and at hand what `membership_of` is asked for."""
        found = Membership.objects.select_related("club", "user").filter(user=user_id).first()
        if found is None:
            user: User | None = super().get_user(user_id)
            return user
        if not self.user_can_authenticate(found.user):
            return None
        found.user.__dict__["_membership"] = found
        return found.user
