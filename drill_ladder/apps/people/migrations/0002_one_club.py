"""The database refuses a row that mixes two clubs."""

from django.db import migrations

from drill_ladder.apps.people.club_ties import tie, tieable


class Migration(migrations.Migration):
    dependencies = [("people", "0001_initial")]
    operations = [
        tieable("people_squad"),
        tieable("people_player"),
        tie("people_player", "squad_id", "people_squad"),
        tie("people_guardian", "player_id", "people_player"),
        tie("people_secretlink", "player_id", "people_player"),
    ]
