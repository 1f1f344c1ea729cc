"""Judged days as rows, and the last days of ladders and players. The days of what was recorded before are judged by
`manage begin`, which every start runs.
"""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

from drill_ladder.apps.people.club_ties import tie

LAST_DAYS = """
UPDATE prescriptions_prescription p SET last_on = done.last FROM (
  SELECT st.prescription_id AS id, max(se."on") AS last
  FROM practice_session se JOIN prescriptions_stay st ON st.id = se.stay_id GROUP BY 1
) done WHERE done.id = p.id
"""
SEEN_DAYS = """
UPDATE people_player pl SET seen_on = done.last FROM (
  SELECT p.player_id AS id, max(se."on") AS last
  FROM practice_session se JOIN prescriptions_stay st ON st.id = se.stay_id
  JOIN prescriptions_prescription p ON p.id = st.prescription_id
  WHERE se.observer IN ('coach', 'device') GROUP BY 1
) done WHERE done.id = pl.id
"""


class Migration(migrations.Migration):
    dependencies = [
        ("people", "0012_seen_on"),
        ("practice", "0008_ahead"),
        ("prescriptions", "0010_last_on"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name="JudgedDay",
            fields=[
                (
                    "id",
                    models.BigAutoField(
                        auto_created=True, primary_key=True, serialize=False, verbose_name="ID"
                    ),
                ),
                ("on", models.DateField()),
                ("recheck", models.BooleanField(default=False)),
                (
                    "observer",
                    models.CharField(
                        choices=[
                            ("coach", "Coach"),
                            ("device", "Device"),
                            ("helper", "Helper"),
                            ("self", "Player"),
                        ],
                        max_length=6,
                    ),
                ),
                ("eased", models.BooleanField(default=False)),
                ("form", models.FloatField(blank=True, null=True)),
                (
                    "verdict",
                    models.CharField(
                        choices=[
                            ("short", "short"),
                            ("pass", "pass"),
                            ("low", "low"),
                            ("near", "near"),
                        ],
                        max_length=5,
                    ),
                ),
                ("met", models.BooleanField()),
                ("score", models.FloatField(blank=True, null=True)),
                ("lanes", models.JSONField(blank=True, default=dict)),
                ("sets", models.JSONField(blank=True, default=list)),
                ("beside", models.JSONField(blank=True, default=list)),
            ],
            options={
                "ordering": ["on"],
            },
        ),
        migrations.AlterField(
            model_name="session",
            name="stay",
            field=models.ForeignKey(
                db_index=False,
                on_delete=django.db.models.deletion.CASCADE,
                related_name="sessions",
                to="prescriptions.stay",
            ),
        ),
        migrations.AlterField(
            model_name="setrow",
            name="club",
            field=models.ForeignKey(
                db_constraint=False,
                db_index=False,
                on_delete=django.db.models.deletion.CASCADE,
                related_name="+",
                to="people.club",
            ),
        ),
        migrations.AlterField(
            model_name="setrow",
            name="session",
            field=models.ForeignKey(
                db_constraint=False,
                db_index=False,
                on_delete=django.db.models.deletion.CASCADE,
                related_name="sets",
                to="practice.session",
            ),
        ),
        migrations.AddIndex(
            model_name="stop",
            index=models.Index(
                condition=models.Q(("ended_on__isnull", True)),
                fields=["player"],
                name="open_stops",
            ),
        ),
        migrations.AddField(
            model_name="judgedday",
            name="club",
            field=models.ForeignKey(
                db_constraint=False,
                db_index=False,
                on_delete=django.db.models.deletion.CASCADE,
                related_name="+",
                to="people.club",
            ),
        ),
        migrations.AddField(
            model_name="judgedday",
            name="stay",
            field=models.ForeignKey(
                db_constraint=False,
                db_index=False,
                on_delete=django.db.models.deletion.CASCADE,
                related_name="judged",
                to="prescriptions.stay",
            ),
        ),
        migrations.AddIndex(
            model_name="judgedday",
            index=models.Index(fields=["club", "on"], name="practice_ju_club_id_d557f4_idx"),
        ),
        migrations.AddConstraint(
            model_name="judgedday",
            constraint=models.UniqueConstraint(
                fields=("stay", "recheck", "on"), name="a_day_is_judged_once"
            ),
        ),
        migrations.AddConstraint(
            model_name="judgedday",
            constraint=models.CheckConstraint(
                condition=models.Q(("observer__in", ["coach", "device", "helper", "self"])),
                name="judged_observer_known",
            ),
        ),
        migrations.AddConstraint(
            model_name="judgedday",
            constraint=models.CheckConstraint(
                condition=models.Q(("verdict__in", ["short", "pass", "low", "near"])),
                name="verdict_known",
            ),
        ),
        tie("practice_judgedday", "stay_id", "prescriptions_stay"),
        migrations.RunSQL(LAST_DAYS, migrations.RunSQL.noop),
        migrations.RunSQL(SEEN_DAYS, migrations.RunSQL.noop),
    ]
