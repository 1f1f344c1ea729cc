"""From judged days to the core's answer."""

from collections.abc import Sequence
from dataclasses import replace
from datetime import date

from drill_ladder.apps.practice.judged.days import counted_rows, extra_of, settings_of
from drill_ladder.apps.practice.learning import form_of, outlook_of
from drill_ladder.apps.practice.models import JudgedDay, Stop
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.judging import Decision, Ladder, Settings, Verdict, decide_days


def rung_key(pk: int) -> str:
    """A stored rung's id in the core."""
    return f"r{pk}"


def rung_pk(key: str) -> int:
    """The stored rung of an id in the core."""
    return int(key[1:])


def decide_stay(
    stay: Stay, on: date, stopped: bool | None = None, rows: Sequence[JudgedDay] | None = None
) -> Decision:
    """What the core says about a stay on a day. Only the ids of the ladder's other rungs matter to
    it.

    stopped, rows: whether a stop is open, and the judged days, where they are known already.
    """
    if stopped is None:
        stopped = Stop.objects.open().filter(player_id=stay.prescription.player_id).exists()
    steps = getattr(stay, "steps", None) or stay.prescription.ladder.rung_ids()
    return decide_on(ladder_of(stay, steps), stay, on, stopped, rows)


def ladder_of(stay: Stay, rung_ids: Sequence[int]) -> Ladder:
    """The ladder of a stay as the core needs it: the terms of the player's arrival on every rung,
    from the bottom.
    """
    rungs = tuple(replace(stay.terms.rung, id=rung_key(pk)) for pk in rung_ids)
    return Ladder(rungs, stay.terms.rule)


def decide_on(
    ladder: Ladder, stay: Stay, on: date, stopped: bool, rows: Sequence[JudgedDay] | None = None
) -> Decision:
    """What the core says where the ladder is at hand, without a question when the days are too."""
    rows = counted_rows(stay) if rows is None else rows
    days, extra = [row.value for row in rows], extra_of(rows)
    last, key = stay.prescription.last_on, rung_key(stay.rung_id)
    return decide_days(ladder, key, days, on, last, stopped, knowing(stay, rows), extra)


def knowing(stay: Stay, rows: Sequence[JudgedDay]) -> Settings:
    """The product's settings with what the club's record knows: by how much days differ, the
    player's form and, where a stall may be said, their outlook.
    """
    full = [row for row in rows if row.verdict != Verdict.SHORT]
    limit, outlook = stay.terms.rule.stall_after, None
    if limit is not None and len(full) >= limit:
        outlook = outlook_of(stay, full)
    return replace(
        settings_of(stay),
        day_spread=stay.club.day_spread,
        form=form_of(stay, full),
        outlook=outlook.chance if outlook is not None else None,
    )
