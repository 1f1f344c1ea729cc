from django.apps import AppConfig


class PrescriptionsConfig(AppConfig):
    """Who is on which ladder and where they stand."""

    name = "drill_ladder.apps.prescriptions"
