"""The database refuses a row that mixes two clubs."""

from django.db import migrations

from drill_ladder.apps.people.club_ties import tie, tieable


class Migration(migrations.Migration):
    dependencies = [("people", "0001_initial")]
    operations = [
        tieable("people_accesstoken"),
        tieable("people_membership"),
        tieable("people_player"),
        tieable("people_squad"),
        tie("people_agreement", "player_id", "people_player"),
        tie("people_guardian", "player_id", "people_player"),
        tie("people_oldsecret", "member_id", "people_membership"),
        tie("people_oldsecret", "player_id", "people_player"),
        tie("people_player", "squad_id", "people_squad"),
        tie("people_playerday", "player_id", "people_player"),
        tie("people_playernote", "player_id", "people_player"),
        tie("people_secretlink", "player_id", "people_player"),
        tie("people_squadduty", "member_id", "people_membership"),
        tie("people_squadduty", "squad_id", "people_squad"),
    ]
