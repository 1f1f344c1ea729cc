"""The database refuses a row that mixes two clubs."""

from django.db import migrations

from drill_ladder.apps.people.club_ties import tie, tieable


class Migration(migrations.Migration):
    dependencies = [("library", "0001_initial"), ("people", "0002_one_club")]
    operations = [
        tieable("library_drill"),
        tieable("library_ladder"),
        tieable("library_routine"),
        tieable("library_rung"),
        tieable("library_skill"),
        tie("library_drill", "skill_id", "library_skill"),
        tie("library_ladder", "skill_id", "library_skill"),
        tie("library_routine", "insert_of_id", "library_ladder"),
        tie("library_routinepart", "ladder_id", "library_ladder"),
        tie("library_routinepart", "routine_id", "library_routine"),
        tie("library_rung", "drill_id", "library_drill"),
        tie("library_rung", "ladder_id", "library_ladder"),
        tie("library_strainlimit", "squad_id", "people_squad"),
        tie("library_treatment", "by_drill_id", "library_drill"),
        tie("library_treatment", "by_rung_id", "library_rung"),
        tie("library_treatment", "drill_id", "library_drill"),
    ]
