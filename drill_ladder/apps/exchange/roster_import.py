"""Storing a roster: every row that is new or changed, in a handful of statements, all of them or
none.
"""

from datetime import date

from django.db import transaction

from drill_ladder.apps.exchange.roster import GUARDIAN, Preview, Row, preview
from drill_ladder.apps.history.services import AT_ONCE, record, record_all
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import (
    Club,
    Guardian,
    Membership,
    Opens,
    Player,
    SecretLink,
    Squad,
)
from drill_ladder.apps.people.players import (
    by_names,
    check_row,
    lock_club,
    refuse_unless_coach,
    update_all,
)
from drill_ladder.apps.people.signals import home_changed
from drill_ladder.formats.tables import Table

PLAIN = (
    "home_space",
    "home_surface",
    "home_tools",
    "home_wall",
    "home_feeder",
    "home_adult",
    "home_light",
)
RENAMED = {
    "birth_month": "birth_month",
    "side": "dominant_side",
    "home_width_m": "home_width",
    "home_depth_m": "home_depth",
}
LENGTHS = {"stride_cm": "stride_m", "shoe_cm": "shoe_m"}


@transaction.atomic
def import_roster(*, member: Membership, table: Table, today: date) -> Preview:
    """Store every row that is new or changed: all of them or, when one cannot be, none; what was
    done.

    One import at a time, compared anew when its turn comes: what another one stored meanwhile is
    then the same. Raises Refused.
    """
    refuse_unless_coach(member)
    lock_club(member.club_id)
    looked = preview(member.club, table, today)
    if looked.problems:
        raise Refused(
            "The club has changed meanwhile, and the file does not fit any more. Nothing was "
            "stored."
        )
    rows = [row for row in looked.rows if row.what != "same"]
    squads = by_names(Squad, member.club, (row.values.get("squad") or "" for row in rows))
    pairs = [(row, _filled(row, member.club, squads, today)) for row in rows]
    _store(member, [p for _, p in pairs if p.pk is None], [p for _, p in pairs if p.pk is not None])
    _store_guardians(pairs)
    moved = [
        player for row, player in pairs if any(column.startswith("home_") for column in row.changes)
    ]
    home_changed.send(sender=Player, players=moved, actor=member.user)
    counts = {what: looked.count(what) for what in ("new", "changed", "same")}
    record(
        club_id=member.club_id,
        actor=member.user,
        verb="imported a roster",
        subject=member.club,
        **counts,
    )
    return looked


def _filled(row: Row, club: Club, squads: dict[str, Squad], today: date) -> Player:
    """The row's player with the row's values. Raises Refused for what the form would refuse."""
    player, values = (
        row.player or Player(club=club, name=row.values["name"], joined_on=today),
        row.values,
    )
    for key in PLAIN:
        if key in values:
            setattr(player, key, values[key])
    for column, name in RENAMED.items():
        if column in values:
            setattr(player, name, values[column])
    for column, name in LENGTHS.items():
        if column in values:
            setattr(player, name, values[column] / 100)
    if values.get("squad"):
        player.squad = squads[values["squad"].strip().casefold()]
    check_row(player, f"Row {row.number}")
    return player


def _store(member: Membership, new: list[Player], changed: list[Player]) -> None:
    Player.objects.bulk_create(new, AT_ONCE)
    links = [
        SecretLink(club_id=player.club_id, player=player, opens=opens)
        for player in new
        for opens in Opens
    ]
    SecretLink.objects.bulk_create(links, AT_ONCE)
    for player in changed:
        player.revision += 1
    update_all(changed, [*PLAIN, *RENAMED.values(), *LENGTHS.values(), "squad", "revision"])
    for verb, players in (("added a player", new), ("changed a player", changed)):
        record_all(club_id=member.club_id, actor=member.user, verb=verb, subjects=players)


def _store_guardians(pairs: list[tuple[Row, Player]]) -> None:
    """The first guardian of each, changed or made; what the file leaves blank stays."""
    new: list[Guardian] = []
    changed: list[Guardian] = []
    for row, player in pairs:
        parts = {
            part: row.values[column] for column, part in GUARDIAN.items() if column in row.values
        }
        if not parts:
            continue
        known = next(iter(player.guardians.all()), None) if row.player else None
        guardian = known or Guardian(club_id=player.club_id, player=player)
        for part, value in parts.items():
            setattr(guardian, part, value)
        check_row(guardian, f"Row {row.number}")
        (changed if guardian.pk else new).append(guardian)
    Guardian.objects.bulk_create(new, AT_ONCE)
    update_all(changed, list(GUARDIAN.values()))
