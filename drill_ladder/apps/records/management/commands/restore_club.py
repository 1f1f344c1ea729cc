"""A club from its archive."""

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.records.archive import Damaged, read_archive, restore_club


class Command(BaseCommand):
    """All of it or nothing."""

    help = "Restore a club from an archive, beside the clubs that are here."

    def add_arguments(self, parser: CommandParser) -> None:
        """Which file, and under which name."""
        parser.add_argument("file", type=Path)
        parser.add_argument("--as", dest="name", default="", help="another name than it had")
        parser.add_argument("--check", action="store_true", help="only look whether it is whole")

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        try:
            with open(options["file"], "rb") as file:
                archive = read_archive(file)
        except OSError as error:
            raise CommandError(f"{options['file']} cannot be read: {error.strerror}") from error
        except Damaged as error:
            raise CommandError(f"Nothing was restored.\n{error}") from error
        rows = sum(map(len, archive.rows.values()))
        if options["check"]:
            self.stdout.write(f"Whole: {archive.club['name']}, {rows:,} rows.")
            return
        try:
            club = restore_club(archive, options["name"])
        except Refused as error:
            raise CommandError(str(error)) from error
        self.stdout.write(f"{club} is restored: {rows:,} rows. Links of cards are new.")
