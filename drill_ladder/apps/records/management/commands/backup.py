"""The database as one file."""

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from drill_ladder.apps.records.backups import NotBackedUp, backup, check


class Command(BaseCommand):
    """A file is good once it was restored for a trial."""

    help = "Dump the whole database into a file, and check it by restoring it."

    def add_arguments(self, parser: CommandParser) -> None:
        """Where to."""
        parser.add_argument("file", type=Path)
        parser.add_argument("--check", action="store_true", help="only look whether FILE is good")

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        try:
            result = (check if options["check"] else backup)(options["file"])
        except (NotBackedUp, OSError) as error:
            raise CommandError(f"There is no good backup. {error}") from error
        self.stdout.write(f"Good: {options['file']}, {result.words}, restored for a trial.")
