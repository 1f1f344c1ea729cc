"""What the database reads for a question, by its own account."""

import json
from collections import Counter
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, field
from typing import Any

from django.db import connection

EXPLAIN = "EXPLAIN (ANALYZE, BUFFERS, FORMAT JSON) "


@dataclass
class Read:
    """questions: how many were asked; blocks: of 8 kB, read or found in memory; rows: by table,
    what scans gave and what their filters threw away; worst: of each table the question that read
    most.
    """

    questions: int = 0
    blocks: int = 0
    rows: Counter[str] = field(default_factory=Counter)
    worst: dict[str, tuple[float, str]] = field(default_factory=dict)

    def explain(self, sql: str, params: Sequence[Any] | None) -> None:
        """Ask a question again, and add what it read."""
        # a cursor of its own: what is read in portions has one that explains nothing
        with connection.connection.cursor() as plain:
            plain.execute(EXPLAIN + sql, params)
            answer = plain.fetchone()[0]
        told = json.loads(answer) if isinstance(answer, str) else answer
        plan = told[0]["Plan"]
        self.blocks += plan["Shared Hit Blocks"] + plan["Shared Read Blocks"]
        rows = _scanned(plan)
        self.rows += rows
        for table, count in rows.items():
            self.worst[table] = max(self.worst.get(table, (0, "")), (count, sql))


def _scanned(plan: dict[str, Any]) -> Counter[str]:
    found: Counter[str] = Counter()
    if "Relation Name" in plan:
        thrown = plan.get("Rows Removed by Filter", 0)
        thrown += plan.get("Rows Removed by Index Recheck", 0)
        found[plan["Relation Name"]] = (plan["Actual Rows"] + thrown) * plan["Actual Loops"]
    for part in plan.get("Plans", []):
        found += _scanned(part)
    return found


@contextmanager
def read() -> Iterator[Read]:
    """What is read for the questions asked inside."""
    found = Read()

    def ask(execute: Any, sql: str, params: Any, many: bool, context: Any) -> Any:
        found.questions += 1
        if sql.lstrip().upper().startswith("SELECT") and not many and "FOR UPDATE" not in sql:
            found.explain(sql, params)
        return execute(sql, params, many, context)

    with connection.execute_wrapper(ask):
        yield found


def as_large() -> None:
    """Plan as where tables are large: small ones are read whole whatever their indexes are."""
    with connection.cursor() as cursor:
        cursor.execute("ANALYZE")
        for way in ("seqscan", "mergejoin", "hashjoin"):
            cursor.execute(f"SET enable_{way} = off")


def sizes(club: int) -> dict[str, int]:
    """Table -> how many rows it has of a club, where there are many: what grows with the work."""
    found = {}
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT table_name FROM information_schema.columns "
            "WHERE column_name = 'club_id' AND table_schema = 'public'"
        )
        for (table,) in cursor.fetchall():
            cursor.execute(f"SELECT count(*) FROM {table} WHERE club_id = %s", [club])  # noqa: S608
            found[table] = cursor.fetchone()[0]
    return {table: rows for table, rows in found.items() if rows >= MANY}


MANY = 400
