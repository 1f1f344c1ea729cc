"""Forms that were done, so that a second sending is answered like the first."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("history", "0001_initial")]
    operations = [
        migrations.CreateModel(
            name="SentForm",
            fields=[
                ("id", models.UUIDField(editable=False, primary_key=True, serialize=False)),
                ("user_id", models.BigIntegerField()),
                ("answer", models.CharField(blank=True, max_length=500)),
                ("at", models.DateTimeField(auto_now_add=True, db_index=True)),
            ],
        ),
    ]
