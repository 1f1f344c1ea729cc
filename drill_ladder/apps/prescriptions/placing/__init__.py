"""Where on a ladder to begin."""

from drill_ladder.apps.prescriptions.placing.placement import last_times

__all__ = ["last_times"]
