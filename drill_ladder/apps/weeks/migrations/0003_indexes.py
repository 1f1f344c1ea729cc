import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("people", "0012_seen_on"),
        ("prescriptions", "0010_last_on"),
        ("weeks", "0002_unplaced"),
    ]

    operations = [
        migrations.AlterField(
            model_name="plannedblock",
            name="club",
            field=models.ForeignKey(
                db_index=False,
                on_delete=django.db.models.deletion.CASCADE,
                related_name="+",
                to="people.club",
            ),
        ),
        migrations.AlterField(
            model_name="week",
            name="club",
            field=models.ForeignKey(
                db_index=False,
                on_delete=django.db.models.deletion.CASCADE,
                related_name="weeks",
                to="people.club",
            ),
        ),
        migrations.AlterField(
            model_name="week",
            name="player",
            field=models.ForeignKey(
                db_index=False,
                on_delete=django.db.models.deletion.CASCADE,
                related_name="weeks",
                to="people.player",
            ),
        ),
        migrations.AddIndex(
            model_name="plannedblock",
            index=models.Index(fields=["club", "on"], name="weeks_plann_club_id_47d6e0_idx"),
        ),
        migrations.AddIndex(
            model_name="week",
            index=models.Index(fields=["club", "monday"], name="weeks_week_club_id_770138_idx"),
        ),
    ]
