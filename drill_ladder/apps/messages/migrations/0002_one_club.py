"""The database refuses a row that mixes two clubs."""

from django.db import migrations

from drill_ladder.apps.people.club_ties import tie


class Migration(migrations.Migration):
    dependencies = [("outbox", "0001_initial"), ("people", "0002_one_club")]
    operations = [
        tie("outbox_localmail", "player_id", "people_player"),
        tie("outbox_message", "player_id", "people_player"),
    ]
