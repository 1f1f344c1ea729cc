from django.apps import AppConfig


class RecordsConfig(AppConfig):
    """Children's records: who did and saw what, put aside, given out, erased, kept no longer."""

    name = "drill_ladder.apps.records"

    def ready(self) -> None:
        """The workers know what is done at night."""
        from drill_ladder.apps.records import tasks  # noqa: F401
