from django.apps import AppConfig


class UiConfig(AppConfig):
    """What every page is made of: frame, components, fields, tags, static files."""

    name = "drill_ladder.ui"
