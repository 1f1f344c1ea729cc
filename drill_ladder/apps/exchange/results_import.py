"""Storing results from a table: every session that is new, all of them or none."""

from collections.abc import Iterator
from datetime import date
from typing import Any
from uuid import UUID, uuid4

from django.db import transaction

from drill_ladder.apps.exchange.results import Found, Preview, preview, set_inputs
from drill_ladder.apps.history.services import record
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership
from drill_ladder.apps.people.players import lock_club, refuse_unless_coach
from drill_ladder.apps.practice.models import Stop
from drill_ladder.apps.practice.sessions import SessionInput, judge_now, record_session
from drill_ladder.formats.tables import Table


@transaction.atomic
def import_results(*, member: Membership, table: Table, today: date) -> Preview:
    """Store every session that is new, oldest first, and judge what it concerns. One import at a
    time, compared anew when its turn comes. Raises Refused.
    """
    refuse_unless_coach(member)
    lock_club(member.club_id)
    looked = preview(member.club, table, today)
    if looked.problems:
        raise Refused(
            "The club has changed meanwhile, and the file does not fit any more. Nothing was "
            "stored."
        )
    stopped = dict(Stop.objects.open().of_club(member.club).values_list("player", "opened_on"))
    new = sorted((session for session in looked.sessions if not session.known), key=_day_of)
    stays = {}
    for one in new:
        stay = one.first.stay
        if stay is None:
            continue
        since = stopped.get(stay.prescription.player_id)
        before = since is not None and _day_of(one) < since
        try:
            record_session(
                stay=stay,
                entry=_entry(one),
                today=today,
                actor=member.user,
                judged=False,
                with_hurt=before,
            )
        except Refused as error:
            raise Refused(f"Row {one.first.number}: {error}") from error
        stays[stay.pk] = stay
    for stay in stays.values():
        judge_now(stay, today)
    counts = {what: looked.count(what) for what in ("new", "same")}
    record(
        club_id=member.club_id,
        actor=member.user,
        verb="imported results",
        subject=member.club,
        **counts,
    )
    return looked


def _day_of(one: Found) -> date:
    day: date = one.first.values["on"]
    return day


def _ids() -> Iterator[UUID]:
    while True:
        yield uuid4()


def _entry(one: Found) -> SessionInput:
    return SessionInput(
        id=uuid4(),
        on=_day_of(one),
        observer=one.first.values["observer"],
        sets=set_inputs(one, _ids()),
        form=_said(one, "form"),
        effort=_said(one, "effort"),
        word=_said(one, "note") or "",
        way=_said(one, "way") or "",
        tired=bool(_said(one, "tired")),
        adult_present=True,  # it was done; whether it may be done there is asked before, not after
    )


def _said(one: Found, name: str) -> Any:
    """What the first row says that says anything."""
    return next((line.values[name] for line in one.lines if name in line.values), None)
