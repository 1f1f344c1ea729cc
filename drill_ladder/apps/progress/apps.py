from django.apps import AppConfig


class ProgressConfig(AppConfig):
    """Read-only views: desk, players, charts."""

    name = "drill_ladder.apps.progress"
