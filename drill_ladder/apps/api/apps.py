"""The app."""

from django.apps import AppConfig


class ApiConfig(AppConfig):
    """The open door for a club's own tools, and for timing gates."""

    name = "drill_ladder.apps.api"
    label = "api"
