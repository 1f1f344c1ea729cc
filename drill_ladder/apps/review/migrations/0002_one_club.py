"""The database refuses a row that mixes two clubs."""

from django.db import migrations

from drill_ladder.apps.people.club_ties import tie, tieable


class Migration(migrations.Migration):
    dependencies = [
        ("review", "0001_initial"),
        ("library", "0002_one_club"),
        ("people", "0002_one_club"),
        ("prescriptions", "0002_one_club"),
    ]
    operations = [
        tieable("review_proposal"),
        tie("review_decision", "proposal_id", "review_proposal"),
        tie("review_decision", "to_rung_id", "library_rung"),
        tie("review_proposal", "player_id", "people_player"),
        tie("review_proposal", "stay_id", "prescriptions_stay"),
        tie("review_proposal", "to_rung_id", "library_rung"),
    ]
