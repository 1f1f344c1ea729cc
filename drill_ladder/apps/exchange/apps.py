from django.apps import AppConfig


class ExchangeConfig(AppConfig):
    """Tables in and out."""

    name = "drill_ladder.apps.exchange"
