"""Foreign keys that carry the club, so that the database itself refuses a row that mixes
two clubs.
"""

from django.db import migrations


def tie(table: str, column: str, parent: str) -> migrations.RunSQL:
    """A composite foreign key (column, club_id) -> parent (id, club_id)."""
    name = f"{table}_{column}_same_club"
    return migrations.RunSQL(
        f"ALTER TABLE {table} ADD CONSTRAINT {name} FOREIGN KEY ({column}, club_id) "
        f"REFERENCES {parent} (id, club_id) DEFERRABLE INITIALLY DEFERRED",
        f"ALTER TABLE {table} DROP CONSTRAINT {name}",
    )


def tieable(table: str) -> migrations.RunSQL:
    """What a parent needs for such ties: its id is unique together with its club."""
    name = f"{table}_id_and_club"
    return migrations.RunSQL(
        f"ALTER TABLE {table} ADD CONSTRAINT {name} UNIQUE (id, club_id)",
        f"ALTER TABLE {table} DROP CONSTRAINT {name}",
    )
