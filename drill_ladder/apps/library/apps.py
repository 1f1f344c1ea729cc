from django.apps import AppConfig


class LibraryConfig(AppConfig):
    """Skills, drills, ladders, rungs."""

    name = "drill_ladder.apps.library"
