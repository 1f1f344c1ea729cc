"""The database from a backup."""

from pathlib import Path
from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.utils import timezone

from drill_ladder.apps.records.backups import NotBackedUp, restore


class Command(BaseCommand):
    """What was there is kept under another name."""

    help = "Put a backup in the place of the present database, which is kept beside it."

    def add_arguments(self, parser: CommandParser) -> None:
        """Which file."""
        parser.add_argument("file", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        try:
            restored, before = restore(options["file"], timezone.now())
        except (NotBackedUp, OSError) as error:
            raise CommandError(f"Nothing was restored. {error}") from error
        call_command("migrate", verbosity=0)  # a backup may be older than this program
        self.stdout.write(f"Restored: {restored.words}. What was there is kept as {before}.")
