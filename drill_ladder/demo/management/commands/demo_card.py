"""Say where the demo is and how to get in."""

from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from drill_ladder.apps.people.models import Opens, SecretLink
from drill_ladder.demo.people import CARD_OF, COACHES, PASSWORD


class Command(BaseCommand):
    """Address, sign-in, and one player's home card."""

    help = "Print the demo's address, sign-in and one home card's link."

    def add_arguments(self, parser: CommandParser) -> None:
        """Where it is served."""
        parser.add_argument("--port", type=int, required=True)

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        base = f"http://127.0.0.1:{options['port']}"
        link = SecretLink.objects.filter(
            player__name=CARD_OF, opens=Opens.CARD, closed_at__isnull=True
        ).first()
        self.stdout.write(f"\nDrill Ladder runs at  {base}/   (Ctrl-C stops it)")
        self.stdout.write(f"  Coach:               {COACHES[0][0]}   password {PASSWORD}")
        if link:
            self.stdout.write(f"  Home card of {CARD_OF}: {base}/card/{link.token}/\n")
