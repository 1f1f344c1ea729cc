"""The database refuses a row that mixes two clubs."""

from django.db import migrations

from drill_ladder.apps.people.club_ties import tie, tieable


class Migration(migrations.Migration):
    dependencies = [
        ("practice", "0001_initial"),
        ("people", "0002_one_club"),
        ("prescriptions", "0002_one_club"),
    ]
    operations = [
        tieable("practice_session"),
        tieable("practice_stop"),
        tie("practice_hurtreport", "stop_id", "practice_stop"),
        tie("practice_judgedday", "stay_id", "prescriptions_stay"),
        tie("practice_session", "stay_id", "prescriptions_stay"),
        tie("practice_setrow", "session_id", "practice_session"),
        tie("practice_skip", "stay_id", "prescriptions_stay"),
        tie("practice_stop", "player_id", "people_player"),
    ]
