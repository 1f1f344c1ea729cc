"""What did not arrive is counted on the desk, however many mails a club has sent."""

from django.contrib.postgres.operations import AddIndexConcurrently
from django.db import migrations, models


class Migration(migrations.Migration):
    atomic = False
    dependencies = [("outbox", "0002_one_club")]
    operations = [
        AddIndexConcurrently(
            model_name="message",
            index=models.Index(
                condition=models.Q(("fate", "failed")),
                fields=["club", "made_at"],
                name="messages_not_sent",
            ),
        ),
    ]
