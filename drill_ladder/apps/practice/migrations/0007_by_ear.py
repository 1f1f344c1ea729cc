"""Who saw it may be a phone that heard it. The old bounds go, and the new ones hold for what is
written from now on; 0008 looks at what was written before.
"""

from django.contrib.postgres.operations import AddConstraintNotValid
from django.db import migrations, models

OBSERVERS = [
    ("coach", "Coach"),
    ("device", "Device"),
    ("helper", "Helper"),
    ("ear", "By ear"),
    ("self", "Player"),
]
KNOWN = models.Q(observer__in=[name for name, _ in OBSERVERS])
BOUNDS = [("judgedday", "judged_observer_known"), ("session", "session_observer_known")]


class Migration(migrations.Migration):
    dependencies = [("practice", "0006_by_what_is_asked"), ("people", "0007_by_ear")]

    operations = [
        *(
            migrations.AddField(
                "setrow", name, models.PositiveSmallIntegerField(blank=True, null=True)
            )
            for name in ("heard", "heard_pace")
        ),
        migrations.AddField("setrow", "heard_steady", models.BooleanField(blank=True, null=True)),
        *(migrations.RemoveConstraint(model, name) for model, name in BOUNDS),
        *(
            AddConstraintNotValid(model, models.CheckConstraint(condition=KNOWN, name=name))
            for model, name in BOUNDS
        ),
        # only the words of a choice: nothing of the table changes
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.AlterField(
                    model, "observer", models.CharField(choices=OBSERVERS, max_length=6)
                )
                for model, _ in BOUNDS
            ]
        ),
    ]
