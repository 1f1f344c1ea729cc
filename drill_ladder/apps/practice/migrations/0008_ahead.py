"""What came next is kept with the session that led to it, so that the page that tells it decides
nothing.
"""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("practice", "0007_stations_are_gone"),
    ]

    operations = [
        migrations.AddField(
            model_name="session",
            name="ahead",
            field=models.JSONField(blank=True, null=True),
        ),
    ]
