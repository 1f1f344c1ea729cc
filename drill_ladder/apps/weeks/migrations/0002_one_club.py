"""The database refuses a row that mixes two clubs."""

from django.db import migrations

from drill_ladder.apps.people.club_ties import tie, tieable


class Migration(migrations.Migration):
    dependencies = [
        ("weeks", "0001_initial"),
        ("people", "0002_one_club"),
        ("prescriptions", "0002_one_club"),
    ]
    operations = [
        tieable("weeks_week"),
        tie("weeks_plannedblock", "prescription_id", "prescriptions_prescription"),
        tie("weeks_plannedblock", "stay_id", "prescriptions_stay"),
        tie("weeks_plannedblock", "week_id", "weeks_week"),
        tie("weeks_week", "player_id", "people_player"),
    ]
