from django.apps import AppConfig


class PracticeConfig(AppConfig):
    """Sessions, sets, stops, the home card."""

    name = "drill_ladder.apps.practice"
