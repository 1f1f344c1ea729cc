"""Built beside the work that goes on: a trail may be long."""

from django.contrib.postgres.operations import AddIndexConcurrently
from django.db import migrations, models


class Migration(migrations.Migration):
    atomic = False
    dependencies = [("history", "0004_append_only")]

    operations = [
        AddIndexConcurrently(
            model_name="event",
            index=models.Index(fields=["club_id", "-at"], name="events_of_a_club"),
        ),
    ]
