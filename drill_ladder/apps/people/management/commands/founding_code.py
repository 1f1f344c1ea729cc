"""A code by which a club is founded in the browser."""

from typing import Any

from django.core.management.base import BaseCommand

from drill_ladder.apps.people.club import new_code


class Command(BaseCommand):
    """Whoever can run this may found a club."""

    help = "Print a code that founds one club in the browser within a day."

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        self.stdout.write(f"{new_code()}  (for one club, within 24 hours, at /found/)")
