from django.apps import AppConfig


class HistoryConfig(AppConfig):
    """Who did what."""

    name = "drill_ladder.apps.history"
