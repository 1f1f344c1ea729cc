"""A drill run as a preview: the timer of a dose, and the caller's cues with their moments."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from django import forms

from drill_ladder.apps.library.models import Drill, Rung
from drill_ladder.core.coaching import calls, sequence
from drill_ladder.core.judging import Dose, Intent, Mode
from drill_ladder.formats.rung_words import rest_warnings
from drill_ladder.ui.fields import FormValues, Line, Number, Whole, listed

MODES = [
    ("", "no caller"),
    ("known", "known: told before"),
    ("serial", "in turn"),
    ("random", "random"),
]
USUAL_WORK_S, USUAL_S_PER_REP = 30, 5
MOST_CUES, MOST_SECONDS = 300, 4 * 3600


class RunForm(forms.Form):
    """A dose in seconds, and the caller."""

    sets = Whole(label="Sets", min_value=1, max_value=50)
    work_s = Number(label="Work, s", min_value=1, max_value=3600)
    rest_s = Number(label="Rest, s", min_value=0, max_value=3600)
    lanes = forms.BooleanField(label="Lane after lane", required=False)
    mode = forms.ChoiceField(label="Caller", choices=MODES, required=False)
    cues = Line(label="Calls", max_length=300, required=False, help_text="With commas between")
    every_s = Number(label="A call about every, s", min_value=0.5, max_value=60)
    leave = Whole(label="Leave-it calls, %", min_value=0, max_value=90)
    seed = Whole(widget=forms.HiddenInput, min_value=0, max_value=10**9, initial=1)

    def clean(self) -> FormValues:
        """Calls for the caller, each once, and a run that ends."""
        data = super().clean() or self.cleaned_data
        names = self.names()
        if data.get("mode") and not names:
            self.add_error("cues", "What is to be called?")
        if len(set(names)) < len(names):
            self.add_error("cues", "A call is named twice.")
        if not self.errors and (data["work_s"] + data["rest_s"]) * data["sets"] > MOST_SECONDS:
            raise forms.ValidationError("That would take more than four hours.")
        return data

    def run(self) -> "Run":
        """The dose as typed, with its calls."""
        values = {key: value for key, value in self.cleaned_data.items() if key != "cues"}
        return Run(**values, names=tuple(self.names()))

    def names(self) -> list[str]:
        """The calls as a list."""
        return listed(self.cleaned_data.get("cues"))


def first_run(drill: Drill, rung: Rung | None) -> dict[str, Any]:
    """The form as it opens: the dose of a rung that uses the drill, or a usual one."""
    dose = rung.dose if rung else Dose(sets=3)
    measure, markers = drill.measure, drill.plan.markers if drill.plan else ()
    asked = (dose.reps or 0) * (dose.s_per_rep or USUAL_S_PER_REP)
    work = measure.window or asked
    calls = drill.lanes or [marker.id for marker in markers[1:]]
    return {
        "sets": dose.sets,
        "work_s": round(work) or USUAL_WORK_S,
        "rest_s": round(dose.rest_s or USUAL_WORK_S),
        "lanes": bool(drill.lanes),
        "mode": "",
        "cues": ", ".join(calls[:12]),
        "every_s": 4,
        "leave": 0,
        "seed": 1,
    }


@dataclass(frozen=True, slots=True)
class TimedCall:
    """A call at its second of a part; leave: not to be gone for."""

    at: float
    cue: str
    leave: bool


@dataclass(frozen=True, slots=True)
class Phase:
    """A part of a run. kind: work or rest."""

    kind: str
    title: str
    seconds: float
    calls: tuple[TimedCall, ...] = ()


@dataclass(frozen=True, slots=True)
class Run:
    """A dose to be run, in seconds; lanes: lane after lane; a call about every_s seconds in a mode
    ("" for none), leave: percent of them not to be gone for.
    """

    sets: int
    work_s: float
    rest_s: float
    lanes: bool
    mode: str
    every_s: float
    leave: int
    seed: int
    names: tuple[str, ...] = ()


def phases(run: Run, lanes: Sequence[str]) -> list[Phase]:
    """What happens one after the other.

    Lanes follow each other inside a set; no rest after the last set.
    """
    places = list(lanes) if run.lanes and lanes else [""]
    timeline: list[Phase] = []
    for number in range(1, run.sets + 1):
        for lane in places:
            title = f"Set {number} of {run.sets}" + (f", {lane}" if lane else "")
            called = _calls(run, len(timeline)) if run.mode else ()
            timeline.append(Phase("work", title, run.work_s, called))
        if number < run.sets and run.rest_s:
            timeline.append(Phase("rest", "Rest", run.rest_s))
    return timeline


def _calls(run: Run, part: int) -> tuple[TimedCall, ...]:
    """The calls of one working part, each at its second; delays vary by a quarter either way."""
    every, seed = run.every_s, run.seed * 1000 + part
    order = sequence(run.names, min(MOST_CUES, int(run.work_s / every)), Mode(run.mode), seed=seed)
    drawn = calls(order, (0.75 * every, 1.25 * every), leave_share=run.leave / 100, seed=seed)
    called, at = [], 0.0
    for call in drawn:
        at += call.delay_s
        if at < run.work_s:
            called.append(TimedCall(round(at, 2), call.cue, call.leave))
    return tuple(called)


def rest_notes(rung: Rung | None, run: Run) -> list[str]:
    """Whether the rest fits what the rung is for."""
    intent = Intent(rung.intent if rung else "skill")
    return rest_warnings(intent, run.sets, run.rest_s)
