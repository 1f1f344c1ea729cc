"""What found no place is kept with the week, so that looking at it solves nothing."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("weeks", "0001_initial"),
    ]

    operations = [
        migrations.AddField(
            model_name="week",
            name="unplaced",
            field=models.JSONField(blank=True, default=list),
        ),
        migrations.AddField(
            model_name="week",
            name="unplaced_of",
            field=models.CharField(blank=True, max_length=16),
        ),
    ]
