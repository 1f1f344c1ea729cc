from django.apps import AppConfig


class PeopleConfig(AppConfig):
    """Club, members and roles, squads, players, guardians, links."""

    name = "drill_ladder.apps.people"
