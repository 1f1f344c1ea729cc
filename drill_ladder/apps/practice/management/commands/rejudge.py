"""Make all judged days anew from the sessions they were judged from."""

from argparse import ArgumentParser

from django.core.management.base import BaseCommand

from drill_ladder.apps.people.models import Club
from drill_ladder.apps.practice.judged import rejudge


class Command(BaseCommand):
    """./ladder manage rejudge [--missing]"""

    help = "Judge every day of every club anew, by the terms of the player's arrival."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument(
            "--missing", action="store_true", help="only where no day is judged yet"
        )

    def handle(self, *, missing: bool, **options: object) -> None:
        """Club by club; every some hundred stays a line, as it may take long."""
        for club in Club.objects.order_by("pk"):
            for done in rejudge(club, missing):
                self.stdout.write(f"{club}: {done} stays judged")
