"""Two coaches who save one player are told of each other."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("people", "0009_no_secrets_kept")]
    operations = [migrations.AddField("player", "revision", models.PositiveIntegerField(default=1))]
