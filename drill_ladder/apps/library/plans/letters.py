"""What the letters of a floor plan stand for, in the words that the lanes have."""

from collections.abc import Sequence

from drill_ladder.core.plans import FloorPlan


def letter_words(plan: FloorPlan | None, lanes: Sequence[str]) -> str:
    """Circles are markers. Begin at A. L is left, R is right."""
    if plan is None or not plan.markers:
        return ""
    start = plan.legs[0].start if plan.legs else plan.markers[0].id
    parts = ["Circles: markers.", f"Begin at {start}."]
    if plan.zones:
        parts.append("Coloured: where the ball goes.")
    named = {marker.id for marker in plan.markers} | {zone.id for zone in plan.zones}
    by_letters = {_letters(lane): lane for lane in lanes}
    meant = [
        f"{id} is {by_letters[id.upper()]}" for id in sorted(named) if _is_short(id, by_letters)
    ]
    return " ".join(parts + ([f"{', '.join(meant)}."] if meant else []))


def _is_short(id_: str, by_letters: dict[str, str]) -> bool:
    lane = by_letters.get(id_.upper())
    return lane is not None and lane.casefold() != id_.casefold()


def _letters(lane: str) -> str:
    """The first letters of a lane: L for left, AR for ahead right."""
    return "".join(word[0] for word in lane.split()).upper()
