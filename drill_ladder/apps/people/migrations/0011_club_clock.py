"""A club has a time zone, and knows the last day whose night's work is done."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("people", "0010_player_revision"),
    ]

    operations = [
        migrations.AddField(
            model_name="club",
            name="night_on",
            field=models.DateField(blank=True, null=True),
        ),
        migrations.AddField(
            model_name="club",
            name="time_zone",
            field=models.CharField(default="Europe/London", max_length=60),
        ),
    ]
