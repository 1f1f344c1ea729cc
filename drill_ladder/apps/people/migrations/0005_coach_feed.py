"""A secret for each member's own calendar: made one by one, as each has to be different."""

import secrets

from django.db import migrations, models


def fill(apps, schema_editor):
    for member in apps.get_model("people", "Membership").objects.all():
        member.feed_token = new_token()
        member.save(update_fields=["feed_token"])


def new_token():
    return secrets.token_urlsafe(32)


class Migration(migrations.Migration):
    dependencies = [("people", "0004_profile")]
    operations = [
        migrations.AddField("membership", "feed_token", models.CharField(max_length=64, null=True)),
        migrations.RunPython(fill, migrations.RunPython.noop),
        migrations.AlterField(
            "membership",
            "feed_token",
            models.CharField(default=new_token, max_length=64, unique=True),
        ),
    ]
