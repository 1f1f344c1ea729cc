from django.apps import AppConfig


class FloorConfig(AppConfig):
    """Where a group works: stations."""

    name = "drill_ladder.apps.floor"
