from django.apps import AppConfig


class WeeksConfig(AppConfig):
    """A player's week: planned, published, told."""

    name = "drill_ladder.apps.weeks"

    def ready(self) -> None:
        """Make the long work known; check home work again whenever what made it possible
        changes.
        """
        from drill_ladder.apps.library.signals import needs_changed
        from drill_ladder.apps.people.signals import home_changed
        from drill_ladder.apps.prescriptions.signals import arrived
        from drill_ladder.apps.weeks import climbing, home_check, tasks  # noqa: F401

        home_changed.connect(home_check.check_players, dispatch_uid="home of a player")
        needs_changed.connect(home_check.check_drills, dispatch_uid="needs of drills")
        arrived.connect(climbing.move_on, dispatch_uid="weeks of who arrives on a rung")
        arrived.connect(home_check.check_arrival, dispatch_uid="arrival on a rung")
