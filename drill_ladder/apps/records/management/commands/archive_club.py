"""A club as one file."""

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from drill_ladder.apps.people.models import Club
from drill_ladder.apps.records.archive import write_club


class Command(BaseCommand):
    """Written beside its place first, so that there is never half an archive."""

    help = "Write a whole club to a ZIP."

    def add_arguments(self, parser: CommandParser) -> None:
        """Which club, and where to."""
        parser.add_argument("club", help="its name, or its number")
        parser.add_argument("file", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        asked = options["club"]
        rows = (
            Club.objects.filter(pk=int(asked))
            if asked.isdigit()
            else Club.objects.filter(name=asked)
        )
        club = rows.order_by("pk").first()
        if club is None:
            names = ", ".join(f"{one.pk} {one}" for one in Club.objects.order_by("pk"))
            raise CommandError(f"There is no club {asked}. There are: {names or 'none'}.")
        beside = options["file"].with_suffix(".part")
        with open(beside, "wb") as file:
            write_club(club, file)
        beside.replace(options["file"])
        self.stdout.write(f"{club}: {options['file'].stat().st_size:,} bytes.")
