from django.apps import AppConfig


class PrescriptionsConfig(AppConfig):
    """Who is on which ladder and where they stand."""

    name = "drill_ladder.apps.prescriptions"

    def ready(self) -> None:
        """Make the long work known."""
        from drill_ladder.apps.prescriptions import tasks  # noqa: F401
