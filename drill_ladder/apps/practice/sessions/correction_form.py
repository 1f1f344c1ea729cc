"""A stored session in the form in which it was entered, to be put right."""

from typing import Any

from drill_ladder.apps.practice.judged import core_set
from drill_ladder.apps.practice.models import Session, SetRow
from drill_ladder.apps.practice.sessions.forms import SessionForm, kept_beside
from drill_ladder.apps.practice.work import ALL, Asked, Entry, entries_asked, fields_for
from drill_ladder.core.judging import Rung
from drill_ladder.formats.measures import score_words
from drill_ladder.ui.fields import Days


def correction_form(
    sent: Any, session: Session, rung: Rung, asked: Asked, days: Days, form_cut: bool
) -> SessionForm:
    """As it is stored; sent: what was typed instead. Nothing is asked about hurt again."""
    given: dict[str, Any] = {"rung": rung, "asked": asked, "days": days, "form_cut": form_cut}
    form = SessionForm(sent, initial=_session_values(session), **given)
    del form.fields["hurts"], form.fields["hurt_where"]
    rows = list(session.sets.all())
    for entry in form.entries:
        row = next((row for row in rows if row.lane == entry.lane), None)
        if row is not None:
            rows.remove(row)
            form.initial.update(_set_values(form, entry, row))
    return form


def _session_values(session: Session) -> dict[str, Any]:
    share = None if session.form is None else round(session.form * 100, 2)
    feeders = [row.feeder for row in session.sets.all() if row.feeder]
    return {
        "session_id": session.pk,
        "on": session.on,
        "effort": session.effort,
        "word": session.word,
        "tired": session.tired,
        "form_share": share,
        "feeder": feeders[0] if feeders else "",
    }


def _set_values(form: SessionForm, entry: Entry, row: SetRow) -> dict[str, Any]:
    values: dict[str, Any] = {f"{entry.prefix}-id": row.pk, f"{entry.prefix}-strokes": row.strokes}
    for name, _ in fields_for(form.rung):
        value = getattr(row, name)
        values[f"{entry.prefix}-{name}"] = (
            round(value * 100, 2) if name == "share" and value is not None else value
        )
    faults = row.faults or {}
    values[f"{entry.prefix}-faults"] = ";".join(f"{name}:{n}" for name, n in faults.items())
    return values | kept_beside(entry.prefix, row, form.rung) | _technique_values(form, entry, row)


def _technique_values(form: SessionForm, entry: Entry, row: SetRow) -> dict[str, Any]:
    alone = entries_asked(form.entries) is form.entries
    prefix, asked = (entry.prefix if alone else ALL.prefix), form.asked
    values: dict[str, Any] = {}
    if row.seen is not None:
        seen = [str(i) for i, words in enumerate(asked.checkpoints) if words in row.seen]
        values |= {f"{prefix}-seen": seen, f"{prefix}-looked": True}
    if row.faults is not None:
        values[f"{prefix}-counted"] = "yes"
        for i, fault in enumerate(asked.faults):
            values[f"{prefix}-fault-{i}"] = row.faults.get(fault)
    if asked.fed:
        values[f"{prefix}-voids"] = row.voids
    return values


def set_lines(session: Session) -> list[str]:
    """A stored session set by set, as it was counted."""
    measure = session.stay.terms.rung.measure
    lines = []
    for row in session.sets.all():
        score = f"{row.makes} of {row.attempts}" if row.makes is not None else ""
        if not score:
            score = score_words(measure, measure.score([core_set(row)]))
        faults = ", ".join(f"{name} {n}" for name, n in (row.faults or {}).items())
        lane = f"{row.lane} " if row.lane else ""
        easier = "easier" if row.eased else ""
        feed = f"feed: {row.feed}" if row.feed else ""
        rested = "" if row.rested_s is None else f"after {row.rested_s}\u00a0s of rest"
        beside = ", ".join(words for words in (faults, easier, feed, rested, _heard(row)) if words)
        lines.append(f"{lane}{score}" + (f" ({beside})" if beside else ""))
    return lines


def _heard(row: SetRow) -> str:
    """That a phone counted it, how many it heard where that is not what stands there, and how they
    came.
    """
    if row.heard is None:
        return ""
    stands = next((n for n in (row.count, row.best_run, row.makes) if n is not None), row.heard)
    said = "by ear" if stands == row.heard else f"by ear, {row.heard} heard"
    if row.heard_pace is None:
        return said
    return f"{said}, {row.heard_pace} a minute, {'steady' if row.heard_steady else 'not steady'}"
