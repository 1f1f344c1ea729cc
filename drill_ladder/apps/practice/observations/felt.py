"""Asking how at ease a player is, and keeping what they say (docs/methods.md, 23)."""

from collections.abc import Sequence
from datetime import date, timedelta

from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.models import Felt
from drill_ladder.apps.practice.signals import felt
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.coaching import is_uneasy

ASK_AGAIN = timedelta(days=7)  # at most so often, but where somebody was not at ease


def asks_how_at_ease(stay: Stay, on: date) -> bool:
    """Whether it is time to ask: a week after the last answer, and every time while the last one
    on this rung was not at ease.
    """
    return _is_due(stay, on, _said_of_late([stay], on))


def to_ask_about(stays: Sequence[Stay], on: date) -> Stay | None:
    """Of several rungs that are done together the one to ask about: one that was not at ease last
    time, else the newest; None where it is not time to ask.
    """
    said = _said_of_late(stays, on) if stays else []
    due = [stay for stay in stays if _is_due(stay, on, said)]
    told = {at for at, _, _ in said}
    return max(due, key=lambda stay: (stay.pk in told, stay.arrived, stay.pk), default=None)


def _said_of_late(stays: Sequence[Stay], on: date) -> list[tuple[int | None, date, int]]:
    """(Rung, day, level) of what a player said within a week, the latest first."""
    player = stays[0].prescription.player_id
    rows = Felt.objects.filter(player=player, on__gt=on - ASK_AGAIN)
    return list(rows.order_by("-on", "-id").values_list("stay", "on", "level"))


def _is_due(stay: Stay, on: date, said: Sequence[tuple[int | None, date, int]]) -> bool:
    if any(day == on and at == stay.pk for at, day, _ in said):
        return False
    last = next((level for at, _, level in said if at == stay.pk), None)
    return not said or (last is not None and is_uneasy(last))


def asks_again(last: date | None, level: int | None, on: date) -> bool:
    """Whether it is time to ask somebody in the hall: a week after what they said last, and on the
    next day where that was not at ease.
    """
    if last is None or level is None or last <= on - ASK_AGAIN:
        return True
    return last < on and is_uneasy(level)


def keep_said(player: Player, on: date, level: int) -> None:
    """What a player said of no rung in particular."""
    Felt.objects.update_or_create(
        club_id=player.club_id, player=player, stay=None, on=on, defaults={"level": level}
    )


def take_back_felt(player: int, on: date, stay: int | None) -> None:
    """It was not said after all."""
    Felt.objects.filter(player=player, on=on, stay=stay).delete()


def keep_felt(stay: Stay, on: date, level: int) -> None:
    """What a player said on a rung; the latest of a day counts."""
    Felt.objects.update_or_create(
        club_id=stay.club_id,
        player_id=stay.prescription.player_id,
        stay=stay,
        on=on,
        defaults={"level": level},
    )
    felt.send(sender=Felt, stay=stay, on=on)
