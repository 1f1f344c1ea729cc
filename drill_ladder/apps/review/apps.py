from django.apps import AppConfig


class ReviewConfig(AppConfig):
    """Proposals, decisions, overrides."""

    name = "drill_ladder.apps.review"

    def ready(self) -> None:
        """Judge anew whenever a session is recorded; the first write of a day brings the night's
        work.
        """
        from drill_ladder.apps.people.signals import written
        from drill_ladder.apps.practice.signals import changing, felt, session_recorded
        from drill_ladder.apps.prescriptions.signals import left
        from drill_ladder.apps.review.night import after_a_write
        from drill_ladder.apps.review.services import close_open, decided_since, judge_anew
        from drill_ladder.apps.review.uneasy import ease_where_uneasy

        left.connect(close_open, dispatch_uid="nothing waits any more")
        changing.connect(decided_since, dispatch_uid="decided since")
        session_recorded.connect(judge_anew, dispatch_uid="review")
        felt.connect(ease_where_uneasy, dispatch_uid="not at ease")
        written.connect(after_a_write, dispatch_uid="the night's work")
