from django.apps import AppConfig
from django.db.models.signals import pre_migrate


class PeopleConfig(AppConfig):
    """Club, members and roles, squads, players, guardians, links."""

    name = "drill_ladder.apps.people"

    def ready(self) -> None:
        """Look whose database it is before it is changed."""
        from drill_ladder.apps.people.before import refuse_old

        pre_migrate.connect(refuse_old, sender=self)
