"""A report of hurt is a row of its own, with its time; the words known so far become the first
report of each stop.
"""

import uuid
from datetime import datetime, time

import django.db.models.deletion
import django.utils.timezone
from django.conf import settings
from django.db import migrations, models

from drill_ladder.apps.people.club_ties import tie, tieable


def first_reports(apps, schema_editor):
    Stop, HurtReport = apps.get_model("practice", "Stop"), apps.get_model("practice", "HurtReport")
    noon = time(12)
    for stop in Stop.objects.iterator():
        at = django.utils.timezone.make_aware(datetime.combine(stop.opened_on, noon))
        words = (stop.what.replace("\n", " ").strip() or "Something hurts")[:300]
        HurtReport.objects.create(
            club_id=stop.club_id, stop=stop, words=words, at=at, by_id=stop.opened_by_id
        )
    # what was inserted is checked now, or no table could be altered any more in this step
    schema_editor.execute("SET CONSTRAINTS ALL IMMEDIATE")


class Migration(migrations.Migration):
    dependencies = [
        ("people", "0009_no_secrets_kept"),
        ("practice", "0004_way"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.AlterField(model_name="stop", name="what", field=models.TextField()),
        migrations.CreateModel(
            name="HurtReport",
            fields=[
                (
                    "id",
                    models.UUIDField(
                        default=uuid.uuid4, editable=False, primary_key=True, serialize=False
                    ),
                ),
                ("words", models.CharField(max_length=300)),
                ("at", models.DateTimeField(default=django.utils.timezone.now)),
                (
                    "by",
                    models.ForeignKey(
                        blank=True,
                        null=True,
                        on_delete=django.db.models.deletion.SET_NULL,
                        related_name="+",
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
                (
                    "club",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="+",
                        to="people.club",
                    ),
                ),
                (
                    "stop",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="reports",
                        to="practice.stop",
                    ),
                ),
            ],
            options={
                "ordering": ["at", "id"],
                "constraints": [
                    models.CheckConstraint(
                        condition=models.Q(("words", ""), _negated=True),
                        name="a_report_says_something",
                    )
                ],
            },
        ),
        tieable("practice_stop"),
        tie("practice_hurtreport", "stop_id", "practice_stop"),
        migrations.RunPython(first_reports, migrations.RunPython.noop, elidable=False),
    ]
