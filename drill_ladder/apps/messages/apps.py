from django.apps import AppConfig


class MessagesConfig(AppConfig):
    """What goes out by mail. Its label is not `messages`: the framework has one."""

    name = "drill_ladder.apps.messages"
    label = "outbox"

    def ready(self) -> None:
        """Listen to what is worth a mail."""
        from drill_ladder.apps.card.signals import report_published, reports_published
        from drill_ladder.apps.messages import occasions, tasks  # noqa: F401
        from drill_ladder.apps.people.signals import invited
        from drill_ladder.apps.practice.signals import hurt_told, stop_ended
        from drill_ladder.apps.weeks.signals import weeks_told

        invited.connect(occasions.on_invited, dispatch_uid="mail: invited")
        hurt_told.connect(occasions.on_hurt, dispatch_uid="mail: hurt")
        stop_ended.connect(occasions.on_cleared, dispatch_uid="mail: cleared")
        weeks_told.connect(occasions.on_weeks, dispatch_uid="mail: week")
        report_published.connect(occasions.on_report, dispatch_uid="mail: report")
        reports_published.connect(occasions.on_reports, dispatch_uid="mail: reports")
