"""Why something may not be done at home any more, until a coach has seen to it."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("prescriptions", "0005_short_words")]
    operations = [
        migrations.AddField(
            "prescription", "not_at_home", models.CharField(blank=True, max_length=300)
        ),
    ]
