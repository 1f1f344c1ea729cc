from django.apps import AppConfig


class ReviewConfig(AppConfig):
    """Proposals, decisions, overrides."""

    name = "drill_ladder.apps.review"

    def ready(self) -> None:
        """Judge anew whenever a session is recorded."""
        from drill_ladder.apps.practice.signals import session_recorded
        from drill_ladder.apps.review.services import on_session_recorded

        session_recorded.connect(on_session_recorded, dispatch_uid="review")
