from django.apps import AppConfig


class CardConfig(AppConfig):
    """The player's side: blocks, link, calendar, paper."""

    name = "drill_ladder.apps.card"
