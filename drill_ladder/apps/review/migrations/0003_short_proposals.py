"""A proposal keeps what it said; the days it rests on are judged days."""

import django.db.models.deletion
from django.db import migrations, models

from drill_ladder.apps.people.club_ties import tie


class Migration(migrations.Migration):
    dependencies = [
        ("library", "0007_rung_plan"),
        ("people", "0012_seen_on"),
        ("prescriptions", "0010_last_on"),
        ("review", "0002_one_club"),
    ]

    operations = [
        migrations.AddField(
            model_name="proposal",
            name="player",
            field=models.ForeignKey(
                db_index=False,
                null=True,
                on_delete=django.db.models.deletion.CASCADE,
                related_name="+",
                to="people.player",
            ),
        ),
        migrations.RunSQL(
            "UPDATE review_proposal SET said = said - 'verdicts', player_id = p.player_id "
            "FROM prescriptions_stay s JOIN prescriptions_prescription p "
            "ON p.id = s.prescription_id WHERE s.id = stay_id",
            migrations.RunSQL.noop,
        ),
        # nobody waits for an answer about a rung that was left
        migrations.RunSQL(
            "UPDATE review_proposal SET state = 'replaced' WHERE state = 'open' AND stay_id IN "
            '(SELECT id FROM prescriptions_stay WHERE "left" IS NOT NULL)',
            migrations.RunSQL.noop,
        ),
        migrations.RunSQL("SET CONSTRAINTS ALL IMMEDIATE", migrations.RunSQL.noop),
        migrations.AlterField(
            model_name="proposal",
            name="player",
            field=models.ForeignKey(
                db_index=False,
                on_delete=django.db.models.deletion.CASCADE,
                related_name="+",
                to="people.player",
            ),
        ),
        tie("review_proposal", "player_id", "people_player"),
        migrations.AddIndex(
            model_name="proposal",
            index=models.Index(
                condition=models.Q(("state", "open")), fields=["club"], name="open_proposals"
            ),
        ),
    ]
