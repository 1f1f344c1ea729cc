from django.apps import AppConfig


class DemoConfig(AppConfig):
    """The invented club."""

    name = "drill_ladder.demo"
