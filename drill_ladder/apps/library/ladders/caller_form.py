"""The part of a rung's form that is about its caller: what is called, how predictably, how fast."""

import re

from django import forms

from drill_ladder.core.coaching import COLOURS
from drill_ladder.core.judging import Caller, Cue, Mode, Way
from drill_ladder.formats.file_limits import LANE, MOST_CUES, NOTE
from drill_ladder.ui.fields import FormValues, Line, Number, listed

_BY = re.compile(r"(.+?)\s*\(([^()]+)\)\s*")
MODES = [("", "nobody calls"), ("known", "known: told before"), ("serial", "in turn")]
MODES += [("random", "random")]
WAYS = [("voice", "by voice"), ("word", "as a word"), ("arrow", "as an arrow")]


class CallerFields(forms.Form):
    """What a caller says; without a mode there is none."""

    call_mode = forms.ChoiceField(label="Caller", choices=MODES, required=False)
    calls = Line(
        label="Calls",
        max_length=2000,
        required=False,
        help_text="With commas between. With what: “A (right foot)”. In the hall: “a name”. A "
        "situation: “high ball = step back”",
    )
    call_every = Number(label="A call about every, s", min_value=0.5, max_value=60, required=False)
    call_spread = Number(label="Give or take, %", min_value=0, max_value=90, required=False)
    call_leave = Number(label="Calls to leave, %", min_value=0, max_value=90, required=False)
    call_late = Number(label="Called late, after, s", min_value=0, max_value=30, required=False)
    call_at = Line(label="or at the marker", max_length=LANE, required=False)
    call_speed = Number(
        label="which is reached at, m/s", min_value=0.1, max_value=30, required=False
    )
    call_way = forms.ChoiceField(label="How", choices=WAYS, required=False)
    call_clash = forms.BooleanField(label="Colour words on another colour", required=False)

    def check_caller(self, data: FormValues) -> None:
        """Calls where somebody calls, each once; at most one way of being late."""
        cues = cues_of(data["calls"])
        names = [cue.name.lower() for cue in cues]
        if data["call_mode"] and not cues:
            self.add_error("calls", "What is to be called?")
        if len(set(names)) < len(names):
            self.add_error("calls", "A call is named twice.")
        if len(cues) > MOST_CUES:
            self.add_error("calls", f"At most {MOST_CUES} different calls.")
        if any(len(cue.name) > LANE or max(len(cue.action), len(cue.by)) > NOTE for cue in cues):
            self.add_error("calls", f"A call has at most {LANE} letters, what is right {NOTE}.")
        if data["call_late"] and data["call_at"]:
            self.add_error("call_at", "Late by seconds or at a marker, one of the two.")
        if data["call_speed"] and not data["call_at"]:
            self.add_error("call_speed", "Which marker is reached? Write it before.")
        if data["call_clash"] and sum(name in COLOURS for name in names) < 2:
            self.add_error(
                "call_clash", f"For calls of two colours and more: {', '.join(COLOURS)}."
            )

    def caller(self) -> Caller | None:
        """The caller as typed."""
        data = self.cleaned_data
        if not data["call_mode"]:
            return None
        return Caller(
            cues=cues_of(data["calls"]),
            mode=Mode(data["call_mode"]),
            every_s=data["call_every"] or 4.0,
            spread=0.25 if data["call_spread"] is None else data["call_spread"] / 100,
            leave=(data["call_leave"] or 0) / 100,
            late_s=data["call_late"] or None,
            late_at=data["call_at"],
            late_speed=data["call_speed"] or None,
            way=Way(data["call_way"] or Way.VOICE),
            clash=data["call_clash"],
        )


def cues_of(text: str) -> tuple[Cue, ...]:
    """left, A (right foot), high ball = step back."""
    cues = (_cue(part) for part in listed(text))
    return tuple(cue for cue in cues if cue.name)


def _cue(text: str) -> Cue:
    called, _, action = text.partition("=")
    with_what = _BY.fullmatch(called)
    name, by = with_what.groups() if with_what else (called, "")
    return Cue(name.strip(), action.strip(), by.strip())


def _cue_text(cue: Cue) -> str:
    by = f" ({cue.by})" if cue.by else ""
    return f"{cue.name}{by} = {cue.action}" if cue.action else f"{cue.name}{by}"


def caller_values(caller: Caller | None) -> FormValues:
    """A caller as its fields open."""
    if caller is None:
        return {"call_mode": "", "call_way": Way.VOICE.value}
    calls = [_cue_text(cue) for cue in caller.cues]
    return {
        "call_mode": caller.mode.value,
        "calls": ", ".join(calls),
        "call_every": _tidy(caller.every_s),
        "call_spread": _tidy(caller.spread * 100),
        "call_leave": _tidy(caller.leave * 100) or None,
        "call_late": _tidy(caller.late_s) if caller.late_s else None,
        "call_at": caller.late_at,
        "call_speed": _tidy(caller.late_speed) if caller.late_speed else None,
        "call_way": caller.way.value,
        "call_clash": caller.clash,
    }


def _tidy(value: float) -> float | int:
    value = round(value, 4)
    return int(value) if value == int(value) else value
