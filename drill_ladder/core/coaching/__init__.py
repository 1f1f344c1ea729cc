"""Coaching: faults and cues, which lanes come next, what to be glad of.

The door of this wing: whoever stands outside the core imports from here.
"""

from drill_ladder.core.coaching.coverage import (
    Axis,
    Cell,
    CellState,
    PutFirst,
    Steps,
    draft_ladder,
    first_in_next_plan,
    grid,
)
from drill_ladder.core.coaching.cues import COLOURS, calls, sequence, shown_on
from drill_ladder.core.coaching.faults import (
    RECENT,
    Misses,
    Ranked,
    Treatment,
    before_and_after,
    cue_for_set,
    ranked,
    worth_treating,
)
from drill_ladder.core.coaching.feed_steps import UP_AFTER, Came, FedDay, KeptFeed, kept_feed
from drill_ladder.core.coaching.feeds import Feeder, Feeding, Policy, feeds_of
from drill_ladder.core.coaching.good_things import (
    TWICE,
    comfort,
    is_uneasy,
    personal_bests,
    uneasy_again,
)
from drill_ladder.core.coaching.reads import FEWEST_CUES, Answers, Choices, Reads, reads_of
from drill_ladder.core.coaching.tempo import FEWEST as FEWEST_AT_TEMPO
from drill_ladder.core.coaching.tempo import TempoSet, tempo_of
from drill_ladder.core.coaching.turns import MOST_EXTRA, turns_of

__all__ = [
    "COLOURS",
    "FEWEST_AT_TEMPO",
    "FEWEST_CUES",
    "MOST_EXTRA",
    "RECENT",
    "TWICE",
    "UP_AFTER",
    "Answers",
    "Axis",
    "Came",
    "Cell",
    "CellState",
    "Choices",
    "FedDay",
    "Feeder",
    "Feeding",
    "KeptFeed",
    "Misses",
    "Policy",
    "PutFirst",
    "Ranked",
    "Reads",
    "Steps",
    "TempoSet",
    "Treatment",
    "before_and_after",
    "calls",
    "comfort",
    "cue_for_set",
    "draft_ladder",
    "feeds_of",
    "first_in_next_plan",
    "grid",
    "is_uneasy",
    "kept_feed",
    "personal_bests",
    "ranked",
    "reads_of",
    "sequence",
    "shown_on",
    "tempo_of",
    "turns_of",
    "uneasy_again",
    "worth_treating",
]
