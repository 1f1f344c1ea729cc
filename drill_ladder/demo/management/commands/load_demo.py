"""Load the demo club, once."""

from typing import Any

from django.core.management.base import BaseCommand
from django.utils import timezone

from drill_ladder.apps.people.models import Club
from drill_ladder.demo.load import CLUB, load


class Command(BaseCommand):
    """Nothing happens where the demo club exists already: what was entered stays."""

    help = "Load the demo club, unless it is there already."

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        if Club.objects.filter(name=CLUB).exists():
            return
        self.stdout.write("Making the demo club: eight weeks of eight players")
        load(timezone.localdate(), lambda line: self.stdout.write(f"  {line}"))
