"""A club that is served is never opened by the demo's published password."""

from typing import Any

from django.core.management.base import BaseCommand

from drill_ladder.apps.people.models import User
from drill_ladder.demo.people import COACHES, PASSWORD


class Command(BaseCommand):
    """Accounts that still have the published password can be signed into by nobody any more."""

    help = "Close the demo's accounts in a database that is served."

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        for user in User.objects.filter(email__in=[email for email, _, _ in COACHES]):
            if user.check_password(PASSWORD):
                user.set_unusable_password()
                user.save(update_fields=["password"])
                self.stdout.write(
                    f"{user.email} has the demo's published password: nobody signs in with it here."
                )
