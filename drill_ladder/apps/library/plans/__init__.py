"""Floor plans: drawn, measured, set down."""

from drill_ladder.apps.library.plans.drawing import (
    OWN_UNITS,
    UNITS,
    drawn,
    fit_words,
    on_paper,
    ruler,
)
from drill_ladder.apps.library.plans.forms import SpaceForm, StrideForm
from drill_ladder.apps.library.plans.letters import letter_words

__all__ = [
    "OWN_UNITS",
    "UNITS",
    "SpaceForm",
    "StrideForm",
    "drawn",
    "fit_words",
    "letter_words",
    "on_paper",
    "ruler",
]
