from django.apps import AppConfig


class HelpConfig(AppConfig):
    """Help."""

    name = "drill_ladder.apps.help"
