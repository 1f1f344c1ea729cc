"""Tables emptied after a test that other connections saw: a third of a second by Django's own way,
which truncates every table and makes all permissions anew; a few milliseconds by this one, the
queue of jobs included.
"""

import time

from django.core.management import CommandError, call_command
from django.db import OperationalError, ProgrammingError, connection, transaction

# what the models make, and no test: Django would make the same again
KEPT = {"django_content_type", "auth_permission", "django_migrations"}
# rows that are deleted leave room behind in a table, which is read through until it is truncated
ROUNDS = 40


class Emptying:
    """Stands in for TransactionTestCase's own; counts its rounds."""

    def __init__(self) -> None:
        self.rounds = 0
        self.allowed = True

    def __call__(self) -> None:
        """After a test: every table is empty but those of the models themselves. A request that a
        browser still has under way may hold a table, and each waits for the other: then once more.
        """
        for tries_left in (3, 2, 1, 0):
            try:
                return self._once()
            except (CommandError, OperationalError):
                if not tries_left:
                    raise
                time.sleep(0.3)

    def _once(self) -> None:
        self.rounds += 1
        if not self.allowed or self.rounds % ROUNDS == 0:
            call_command("flush", verbosity=0, interactive=False)
            return
        try:
            _delete_all()
        except ProgrammingError:
            # a cluster that scripts/pg did not start does not let the tests' role do this
            self.allowed = False
            self._once()


FILLED = "SELECT '{0}' WHERE EXISTS (SELECT FROM \"{0}\")"


def _delete_all() -> None:
    """Locks wait for what a request still writes; without triggers and foreign keys, which only a
    cluster for tests allows, the order does not matter and the trail lets its rows go.
    """
    names = sorted({*connection.introspection.table_names()} - KEPT)
    with transaction.atomic(), connection.cursor() as cursor:
        cursor.execute("SET LOCAL session_replication_role = replica")
        cursor.execute("LOCK TABLE {} IN EXCLUSIVE MODE".format(", ".join(map(quoted, names))))
        cursor.execute(" UNION ALL ".join(map(FILLED.format, names)))
        for (name,) in cursor.fetchall():
            cursor.execute(f"DELETE FROM {quoted(name)}")  # noqa: S608


def quoted(name: str) -> str:
    """A table's name as SQL has it."""
    return connection.ops.quote_name(name)
