from django.apps import AppConfig


class JobsConfig(AppConfig):
    """Long work, as rows that a page watches."""

    name = "drill_ladder.apps.jobs"
    default_auto_field = "django.db.models.BigAutoField"
