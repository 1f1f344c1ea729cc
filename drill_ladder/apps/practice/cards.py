"""What a home card shows: today's blocks and the terms of each."""

from dataclasses import dataclass
from datetime import date, timedelta

from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.ladders import Rung
from drill_ladder.formats.documents import rung_from
from drill_ladder.formats.words import dose_words, target_words


@dataclass(frozen=True, slots=True)
class Block:
    """One ladder on a card. done: days of work this week; due: whether it is asked for today."""

    stay: Stay
    rung: Rung
    rungs: int
    done: int
    due: bool
    done_today: bool

    @property
    def dose(self) -> str:
        """The dose in words."""
        return dose_words(self.rung)

    @property
    def target(self) -> str:
        """The target in words."""
        return target_words(self.rung)


def home_blocks(player: Player, today: date) -> list[Block]:
    """The player's home work, what is due today first."""
    stays = Stay.objects.of_player(player).current().for_home().prefetch_related("prescription__ladder__rungs")
    monday = today - timedelta(days=today.weekday())
    worked = set(Session.objects.of_player(player).since(monday).values_list("stay__prescription", "on"))
    blocks = [_block(stay, {on for pk, on in worked if pk == stay.prescription_id}, today) for stay in stays]
    return sorted(blocks, key=lambda b: (not b.due, b.stay.prescription.ladder.title))


def _block(stay: Stay, days: set[date], today: date) -> Block:
    due = today not in days and len(days) < stay.prescription.per_week
    rungs = len(stay.prescription.ladder.rungs.all())
    return Block(stay, rung_from(stay.terms["rung"]), rungs, len(days), due, today in days)
