"""Placing is called placement, as everybody calls it."""

import django.db.models.deletion
from django.db import migrations, models

TIED = ("player_id", "ladder_id", "guess_id", "chosen_id")


def renamed(column: str) -> migrations.RunSQL:
    """A constraint that carries its table's name, under the new one."""
    turn = "ALTER TABLE prescriptions_placement RENAME CONSTRAINT prescriptions_{0}_{2} TO prescriptions_{1}_{2}"
    name = f"{column}_same_club"
    return migrations.RunSQL(
        turn.format("placing", "placement", name), turn.format("placement", "placing", name)
    )


class Migration(migrations.Migration):
    dependencies = [("prescriptions", "0008_weeks_are_gone"), ("history", "0003_which_row")]
    operations = [
        migrations.RenameModel("Placing", "Placement"),
        migrations.AlterField(
            "placement",
            "player",
            models.ForeignKey(
                on_delete=django.db.models.deletion.CASCADE,
                related_name="placements",
                to="people.player",
            ),
        ),
        *[renamed(column) for column in TIED],
        migrations.RunSQL(
            "UPDATE history_event SET kind = 'prescriptions.placement' WHERE kind = 'prescriptions.placing'",
            migrations.RunSQL.noop,
        ),
    ]
