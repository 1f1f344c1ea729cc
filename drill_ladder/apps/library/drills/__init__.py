"""Drills: written, searched, drawn, run for a try."""

from drill_ladder.apps.library.drills.services import refuse_misfits
from drill_ladder.apps.library.drills.told import ToldDrill, one_side, told_drill

__all__ = ["ToldDrill", "one_side", "refuse_misfits", "told_drill"]
