"""Weeks are models of their own app now."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("prescriptions", "0007_weeks_move_out"), ("weeks", "0001_initial")]
    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.DeleteModel("PlannedBlock"),
                migrations.DeleteModel("Week"),
            ]
        )
    ]
