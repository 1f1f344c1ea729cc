"""The secrets themselves are dropped."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("people", "0008_signed_links")]
    operations = [
        migrations.RemoveField("secretlink", "token"),
        migrations.RemoveField("secretlink", "revoked_at"),
        migrations.RemoveField("membership", "feed_token"),
        migrations.AddConstraint(
            "secretlink",
            models.UniqueConstraint(fields=("player", "opens"), name="one_link_a_player_and_kind"),
        ),
        migrations.AddConstraint(
            "secretlink",
            models.CheckConstraint(
                condition=models.Q(("opens__in", ["card", "calendar"])), name="link_kind_known"
            ),
        ),
    ]
