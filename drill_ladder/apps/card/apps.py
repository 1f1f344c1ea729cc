from django.apps import AppConfig


class CardConfig(AppConfig):
    """The player's side: blocks, link, calendar, paper."""

    name = "drill_ladder.apps.card"

    def ready(self) -> None:
        """Make the long work known."""
        from drill_ladder.apps.card import tasks  # noqa: F401
