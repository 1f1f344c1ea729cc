"""Coaches and assistants: invited, signed in, their tools' tokens."""

from drill_ladder.apps.people.team.forms import ClubForm, FoundForm, JoinForm, SquadForm, zones
from drill_ladder.apps.people.team.services import (
    drop_squad,
    invitation_by,
    join,
    save_club,
    save_squad,
    take_up,
)
from drill_ladder.apps.people.team.tokens import make_access, revoke_access, token_of

__all__ = [
    "ClubForm",
    "FoundForm",
    "JoinForm",
    "SquadForm",
    "drop_squad",
    "invitation_by",
    "join",
    "make_access",
    "revoke_access",
    "save_club",
    "save_squad",
    "take_up",
    "token_of",
    "zones",
]
