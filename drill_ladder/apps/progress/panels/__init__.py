"""Is it working? Questions over any stretch of time, as panels."""

from drill_ladder.apps.progress.panels.all_players import (
    completion,
    done_of_planned,
    row_lines,
    weeks_over,
)
from drill_ladder.apps.progress.panels.learnt import learnt_panel
from drill_ladder.apps.progress.panels.one_player import signed
from drill_ladder.apps.progress.panels.panel import Panel, file_of
from drill_ladder.apps.progress.panels.sides import lanes_of

__all__ = [
    "Panel",
    "completion",
    "done_of_planned",
    "file_of",
    "lanes_of",
    "learnt_panel",
    "row_lines",
    "signed",
    "weeks_over",
]
