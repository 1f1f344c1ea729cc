"""The database refuses a row that mixes two clubs."""

from django.db import migrations

from drill_ladder.apps.people.club_ties import tie, tieable


class Migration(migrations.Migration):
    dependencies = [
        ("floor", "0001_initial"),
        ("library", "0002_one_club"),
        ("people", "0002_one_club"),
        ("prescriptions", "0002_one_club"),
    ]
    operations = [
        tieable("floor_battery"),
        tieable("floor_protocol"),
        tie("floor_battery", "squad_id", "people_squad"),
        tie("floor_challenge", "protocol_id", "floor_protocol"),
        tie("floor_challenge", "squad_id", "people_squad"),
        tie("floor_floortap", "player_id", "people_player"),
        tie("floor_floortap", "stay_id", "prescriptions_stay"),
        tie("floor_gatecall", "battery_id", "floor_battery"),
        tie("floor_gatecall", "device_id", "people_accesstoken"),
        tie("floor_gatecall", "player_id", "people_player"),
        tie("floor_gatecall", "protocol_id", "floor_protocol"),
        tie("floor_gatemessage", "device_id", "people_accesstoken"),
        tie("floor_protocol", "before_id", "floor_protocol"),
        tie("floor_protocol", "drill_id", "library_drill"),
        tie("floor_trial", "battery_id", "floor_battery"),
        tie("floor_trial", "player_id", "people_player"),
        tie("floor_trial", "protocol_id", "floor_protocol"),
    ]
