from django.apps import AppConfig


class PracticeConfig(AppConfig):
    """Sessions, sets, stops, judging."""

    name = "drill_ladder.apps.practice"
