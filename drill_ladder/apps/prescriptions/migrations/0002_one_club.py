"""The database refuses a row that mixes two clubs."""

from django.db import migrations

from drill_ladder.apps.people.club_ties import tie, tieable


class Migration(migrations.Migration):
    dependencies = [
        ("prescriptions", "0001_initial"),
        ("library", "0002_one_club"),
        ("people", "0002_one_club"),
    ]
    operations = [
        tieable("prescriptions_playerroutine"),
        tieable("prescriptions_prescription"),
        tieable("prescriptions_stay"),
        tie("prescriptions_focus", "player_id", "people_player"),
        tie("prescriptions_focus", "skill_id", "library_skill"),
        tie("prescriptions_placement", "chosen_id", "library_rung"),
        tie("prescriptions_placement", "guess_id", "library_rung"),
        tie("prescriptions_placement", "ladder_id", "library_ladder"),
        tie("prescriptions_placement", "player_id", "people_player"),
        tie("prescriptions_playerroutine", "player_id", "people_player"),
        tie("prescriptions_playerroutine", "routine_id", "library_routine"),
        tie("prescriptions_prescription", "ladder_id", "library_ladder"),
        tie("prescriptions_prescription", "player_id", "people_player"),
        tie("prescriptions_prescription", "player_routine_id", "prescriptions_playerroutine"),
        tie("prescriptions_stay", "prescription_id", "prescriptions_prescription"),
        tie("prescriptions_stay", "rung_id", "library_rung"),
    ]
