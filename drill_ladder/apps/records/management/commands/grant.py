"""What the role that serves may do with the tables of the role that owns them."""

from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from django.db import connection
from psycopg import sql

# reads and writes rows; makes, empties and changes no table, and puts no trigger aside
GRANTS = (
    "GRANT USAGE ON SCHEMA public TO {role}",
    "GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA public TO {role}",
    "GRANT USAGE, SELECT ON ALL SEQUENCES IN SCHEMA public TO {role}",
    "REVOKE TRUNCATE, REFERENCES, TRIGGER ON ALL TABLES IN SCHEMA public FROM {role}",
    "REVOKE CREATE ON SCHEMA public FROM {role}",
)


class Command(BaseCommand):
    """Run as the owner after each migrate (docs/deploy.md): one role owns, another one serves."""

    help = "Let a role serve: read and write rows, and nothing else."

    def add_arguments(self, parser: CommandParser) -> None:
        """Which role."""
        parser.add_argument("role")

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        with connection.cursor() as cursor:
            for line in GRANTS:
                cursor.execute(sql.SQL(line).format(role=sql.Identifier(options["role"])))
        self.stdout.write(f"{options['role']} serves.")
