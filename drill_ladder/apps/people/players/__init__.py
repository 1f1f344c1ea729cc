"""Players: their data, their week, their links and PINs."""

from drill_ladder.apps.people.access import (
    refuse_resting,
    refuse_unless_coach,
    refuse_unless_owner,
    why_resting,
)
from drill_ladder.apps.people.players.days_form import WEEKDAYS
from drill_ladder.apps.people.players.forms import PlayerForm
from drill_ladder.apps.people.players.links import (
    REMEMBERED,
    card_tokens,
    member_by,
    moved_to,
    open_link,
    open_links,
    player_by,
    player_once_by,
    try_pin,
    unlocked,
    unlocking,
    wait_s,
)
from drill_ladder.apps.people.players.services import (
    by_name,
    by_names,
    check_row,
    lock_club,
    refuse_overtaken,
    save_player,
    update_all,
)

__all__ = [
    "REMEMBERED",
    "WEEKDAYS",
    "PlayerForm",
    "by_name",
    "by_names",
    "card_tokens",
    "check_row",
    "lock_club",
    "member_by",
    "moved_to",
    "open_link",
    "open_links",
    "player_by",
    "player_once_by",
    "refuse_overtaken",
    "refuse_resting",
    "refuse_unless_coach",
    "refuse_unless_owner",
    "save_player",
    "try_pin",
    "unlocked",
    "unlocking",
    "update_all",
    "wait_s",
    "why_resting",
]
