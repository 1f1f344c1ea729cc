from django.apps import AppConfig


class ProgressConfig(AppConfig):
    """Read-only views: desk, players, charts."""

    name = "drill_ladder.apps.progress"

    def ready(self) -> None:
        """Make the long work known."""
        from drill_ladder.apps.progress import tasks  # noqa: F401
