from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("library", "0008_second_version"),
        ("people", "0012_seen_on"),
        ("review", "0003_short_proposals"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.RemoveConstraint(
            model_name="decision",
            name="decision_action_known",
        ),
        migrations.RemoveConstraint(
            model_name="decision",
            name="override_says_why",
        ),
        migrations.AlterField(
            model_name="decision",
            name="action",
            field=models.CharField(
                choices=[
                    ("confirm", "Confirmed"),
                    ("hold", "Held"),
                    ("override", "Overridden"),
                    ("moved", "Moved by hand"),
                ],
                max_length=8,
            ),
        ),
        migrations.AddConstraint(
            model_name="decision",
            constraint=models.CheckConstraint(
                condition=models.Q(("action__in", ["confirm", "hold", "override", "moved"])),
                name="decision_action_known",
            ),
        ),
        migrations.AddConstraint(
            model_name="decision",
            constraint=models.CheckConstraint(
                condition=models.Q(
                    models.Q(("action__in", ("override", "moved")), _negated=True),
                    models.Q(("reason", ""), _negated=True),
                    _connector="OR",
                ),
                name="override_says_why",
            ),
        ),
    ]
