"""The night's work of every club, once, or again and again beside a server."""

import time
from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from django.db import OperationalError, close_old_connections

from drill_ladder.apps.review.night import all_clubs, learn_of_all


class Command(BaseCommand):
    """Runs until it is stopped where --every says how often."""

    help = "Do what is due because a new day has begun at a club."

    def add_arguments(self, parser: CommandParser) -> None:
        """How often."""
        parser.add_argument(
            "--every", type=int, default=0, metavar="SECONDS", help="again and again; 0: once"
        )

    def handle(self, *args: Any, **options: Any) -> None:
        """Run. A database that is away for a while is asked again the next time."""
        while True:
            try:
                done = all_clubs()
                learn_of_all()
                if done and not options["every"]:
                    self.stdout.write(f"Clubs whose new day was begun: {done}.")
            except OperationalError:
                if not options["every"]:
                    raise
            if not options["every"]:
                return
            close_old_connections()
            time.sleep(options["every"])
