"""Everything that a start needs from Django, in one go: five starts of Django would take as long as
all the rest.
"""

from argparse import ArgumentParser

from django.core.management import call_command
from django.core.management.base import BaseCommand


class Command(BaseCommand):
    """./ladder demo and ./ladder serve run it before the web server."""

    help = "Bring the database up to date and do what is due."

    def add_arguments(self, parser: ArgumentParser) -> None:
        """Whose data it is."""
        parser.add_argument("--demo", action="store_true", help="with the demo club")

    def handle(self, *, demo: bool, **options: object) -> None:
        """Tables, the cache, what an earlier version did not judge yet, the demo, the night's
        work.
        """
        call_command("migrate", verbosity=0)
        call_command("createcachetable", verbosity=0)
        call_command("rejudge", missing=True, stdout=self.stdout)
        call_command("load_demo" if demo else "close_demo_accounts", stdout=self.stdout)
        call_command("night", stdout=self.stdout)
