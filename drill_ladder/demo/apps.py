from importlib import import_module

from django.apps import AppConfig


class DemoConfig(AppConfig):
    """The invented club."""

    name = "drill_ladder.demo"

    def ready(self) -> None:
        """Its long work is known by name."""
        import_module("drill_ladder.demo.practice")
