from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("people", "0012_seen_on"),
        ("practice", "0009_judged_days"),
        ("prescriptions", "0010_last_on"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.AddField(
            model_name="judgedday",
            name="extra",
            field=models.JSONField(blank=True, default=list),
        ),
        migrations.AddField(
            model_name="judgedday",
            name="stopped",
            field=models.JSONField(blank=True, default=list),
        ),
        migrations.AddField(
            model_name="session",
            name="extra",
            field=models.BooleanField(default=False),
        ),
        migrations.AddField(
            model_name="session",
            name="tired",
            field=models.BooleanField(default=False),
        ),
        migrations.AddField(
            model_name="session",
            name="word_read",
            field=models.BooleanField(default=False),
        ),
        migrations.AddField(
            model_name="setrow",
            name="feeder",
            field=models.CharField(blank=True, max_length=60),
        ),
        migrations.AddField(
            model_name="setrow",
            name="seen",
            field=models.JSONField(blank=True, null=True),
        ),
        migrations.AlterField(
            model_name="setrow",
            name="faults",
            field=models.JSONField(blank=True, default=dict, null=True),
        ),
        migrations.AddIndex(
            model_name="session",
            index=models.Index(
                condition=models.Q(("word_read", False), models.Q(("word", ""), _negated=True)),
                fields=["club"],
                name="words_to_read",
            ),
        ),
    ]
