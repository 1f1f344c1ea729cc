"""Group sessions are a model of the floor now."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("practice", "0006_stations_move_out"), ("floor", "0001_initial")]
    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[migrations.DeleteModel("GroupSession")]
        )
    ]
