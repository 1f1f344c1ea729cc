"""The first club and its owner, on a new installation."""

import os
from getpass import getpass
from typing import Any

from django.conf import settings
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import transaction

from drill_ladder.apps.people.models import Club, Membership, Role, User


class Command(BaseCommand):
    """Asks for the password, or takes it from OWNER_PASSWORD."""

    help = "Make a club and its owner's account."

    def add_arguments(self, parser: CommandParser) -> None:
        """Which club, whose account."""
        parser.add_argument("club")
        parser.add_argument("email")
        parser.add_argument("--name", default="")
        parser.add_argument(
            "--time-zone",
            default=settings.TIME_ZONE,
            help="such as Europe/London: whose days count",
        )

    @transaction.atomic
    def handle(self, *args: Any, **options: Any) -> None:
        """Run. Nothing is made when something is wrong."""
        email = options["email"].lower()
        if User.objects.filter(email=email).exists():
            raise CommandError(f"{email} has an account already. Nothing was made.")
        password = os.environ.get("OWNER_PASSWORD") or getpass("Password (at least ten letters): ")
        club = Club(name=options["club"], time_zone=options["time_zone"])
        try:
            validate_password(password)
            club.full_clean()
        except ValidationError as error:
            raise CommandError(" ".join(error.messages) + " Nothing was made.") from error
        user = User.objects.create_user(email, password, options["name"])
        club.save()
        Membership.objects.create(club=club, user=user, role=Role.OWNER)
        self.stdout.write(f"{club} is there. Sign in as {email}.")
