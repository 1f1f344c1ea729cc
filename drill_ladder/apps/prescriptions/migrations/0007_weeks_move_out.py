"""The tables of weeks get the name of their own app; the rows stay where they are."""

from django.db import migrations


def renamed(table: str, constraint: str) -> migrations.RunSQL:
    """A constraint that carries its table's name, under the new one."""
    turn = "ALTER TABLE weeks_{0} RENAME CONSTRAINT {1}_{0}_{2} TO {3}_{0}_{2}"
    return migrations.RunSQL(
        turn.format(table, "prescriptions", constraint, "weeks"),
        turn.format(table, "weeks", constraint, "prescriptions"),
    )


class Migration(migrations.Migration):
    dependencies = [("prescriptions", "0006_not_at_home")]
    operations = [
        migrations.SeparateDatabaseAndState(
            database_operations=[
                migrations.AlterModelTable("week", "weeks_week"),
                migrations.AlterModelTable("plannedblock", "weeks_plannedblock"),
                renamed("week", "id_and_club"),
                renamed("week", "player_id_same_club"),
                renamed("plannedblock", "week_id_same_club"),
                renamed("plannedblock", "prescription_id_same_club"),
            ]
        )
    ]
