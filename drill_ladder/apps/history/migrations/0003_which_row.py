"""A log entry names the row that it is about by type and id; its name is kept as it was called
then.
"""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("history", "0002_sent_forms")]
    operations = [
        migrations.AddField("event", "kind", models.CharField(blank=True, max_length=60)),
        migrations.AddField("event", "row_id", models.CharField(blank=True, max_length=40)),
        migrations.AddIndex(
            "event", models.Index(fields=["kind", "row_id"], name="event_of_a_row")
        ),
    ]
