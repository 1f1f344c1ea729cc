"""Judging: from sets to days, from days to a decision about a rung.

The door of this wing: whoever stands outside the core imports from here.
"""

from drill_ladder.core.judging.decision import PRODUCT, Decision, decide, decide_days, judge_day
from drill_ladder.core.judging.ladders import Intent, Ladder, Rung, Target
from drill_ladder.core.judging.measures import (
    Checklist,
    Count,
    Done,
    Dose,
    Makes,
    Measure,
    Points,
    ScoreBy,
    SetResult,
    Streak,
    Time,
    ToN,
    made_of,
)
from drill_ladder.core.judging.placement import (
    DEFAULT_ZONE,
    PRODUCT_ZONE,
    Probe,
    place,
    place_by_baseline,
)
from drill_ladder.core.judging.reasons import Advice, Kind, Lacking, Missing, Number, Reason
from drill_ladder.core.judging.retention import WEEKS, Check, next_check, offer_back
from drill_ladder.core.judging.rules import Evidence, InARow, Rule, School, Trust, Volume, Window
from drill_ladder.core.judging.said import Ahead, Said, SaidReason
from drill_ladder.core.judging.sessions import Day, Observer, Session, by_day
from drill_ladder.core.judging.terms import (
    DoseChange,
    Overrides,
    TargetChange,
    Terms,
    with_dose,
    with_target,
)
from drill_ladder.core.judging.verdicts import Course, Judged, Verdict, Yardstick, lacks, on_course

__all__ = [
    "DEFAULT_ZONE",
    "PRODUCT",
    "PRODUCT_ZONE",
    "WEEKS",
    "Advice",
    "Ahead",
    "Check",
    "Checklist",
    "Count",
    "Course",
    "Day",
    "Decision",
    "Done",
    "Dose",
    "DoseChange",
    "Evidence",
    "InARow",
    "Intent",
    "Judged",
    "Kind",
    "Lacking",
    "Ladder",
    "Makes",
    "Measure",
    "Missing",
    "Number",
    "Observer",
    "Overrides",
    "Points",
    "Probe",
    "Reason",
    "Rule",
    "Rung",
    "Said",
    "SaidReason",
    "School",
    "ScoreBy",
    "Session",
    "SetResult",
    "Streak",
    "Target",
    "TargetChange",
    "Terms",
    "Time",
    "ToN",
    "Trust",
    "Verdict",
    "Volume",
    "Window",
    "Yardstick",
    "by_day",
    "decide",
    "decide_days",
    "judge_day",
    "lacks",
    "made_of",
    "next_check",
    "offer_back",
    "on_course",
    "place",
    "place_by_baseline",
    "with_dose",
    "with_target",
]
