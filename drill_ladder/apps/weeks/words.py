"""What a week says: what it breaks, why something found no place and what would help, what changed
for the player.
"""

from collections.abc import Sequence
from typing import Any

from drill_ladder.apps.prescriptions.minutes import Wanted
from drill_ladder.core.planning import Help, ToldBlock
from drill_ladder.formats.home_words import way_out, why_not
from drill_ladder.formats.sentences import plain

BREAKS = {
    "place": "not asked for at this place",
    "helpers": "nobody is there to feed",
    "adult": "no adult is there",
    "twice": "twice on one day",
    "speed": "a second block of speed work on one day",
    "spacing": "no rest day before it",
    "often": "more often than wanted",
    "equipment": "something is missing",
    "begins": "before it begins",
}
NOT_ASKED = "not asked for any more"
BEST_FOUND = "The best plan found in 2 seconds; there may be one that fits more."
WHY = {
    "minutes": "the minutes do not suffice",
    "place": "too few days at the right place",
    "helpers": "nobody to feed on enough days",
    "adult": "no adult there on enough days",
    "equipment": "something is missing",
    "spacing": "the days lie too close for a rest day between",
    "speed": "one block of speed work a day is enough",
    "days": "there are not enough days",
    "begins": "it begins later in the week",
    "strain": "the club’s limit is reached",
}


def why_unplaced(code: str, wanted: Wanted) -> str:
    """Why a wish was not met; where no version is possible at home, what the home lacks."""
    nowhere = code == "place" and wanted.home is not None and wanted.home.version is None
    return why_not(wanted.home) if nowhere and wanted.home else WHY[code]


def help_words(help_: Help, wanted: Wanted) -> str:
    """What would help a wish that found no place."""
    day = f"{help_.on:%A}" if help_.on else ""
    if help_.code == "minutes" and day:
        return f"{plain(round(help_.minutes))} more minutes on {day} would do."
    if help_.code == "place" and wanted.home and wanted.home.version is None:
        return way_out(wanted.home)
    other = "club" if "club" in wanted.wish.places else "home"
    ways = {
        "place": f"{day} at the {other} would do." if day else "Another place would help.",
        "helpers": f"Somebody to feed on {day} would do, or a solo version of the drill.",
        "adult": f"An adult on {day} would do.",
        "spacing": "Fewer sessions a week, or days further apart.",
        "speed": "Another day with minutes, or one speed ladder fewer.",
        "days": "Another day with minutes, or fewer sessions a week.",
        "minutes": "Another day with minutes.",
        "strain": "Nothing this week: the limit is your governing body’s.",
        "begins": "From next week on it has all days.",
    }
    return ways.get(help_.code, "")


# fields of a told block whose change a player is told -> the word for it
NEWS = {
    "minutes": "minutes",
    "dose": "dose",
    "target": "target",
    "place": "place",
    "way": "way to do it",
}


def changes(before: Sequence[ToldBlock], now: Sequence[ToldBlock]) -> list[str]:
    """What a player is told about a week that changed after they were told about it."""
    old = {block.key: block for block in before if not block.cancelled}
    new = {block.key: block for block in now}
    lines = [_changed(old[key], block) for key, block in new.items() if key in old]
    lines += [
        f"New: {block.ladder} on {block.on:%A}" for key, block in new.items() if key not in old
    ]
    lines += [
        f"No more: {block.ladder} on {block.on:%A}" for key, block in old.items() if key not in new
    ]
    return [line for line in lines if line]


def _changed(before: ToldBlock, now: ToldBlock) -> str:
    if before.on != now.on:
        return f"Moved: {now.ladder} from {before.on:%A} to {now.on:%A}"
    if before.title != now.title:
        return f"{now.ladder} on {now.on:%A}: now “{now.title}”"
    different = [word for name, word in NEWS.items() if _of(before, name) != _of(now, name)]
    return f"{now.ladder} on {now.on:%A}: another {' and '.join(different)}" if different else ""


def _of(block: ToldBlock, name: str) -> Any:
    return getattr(block, name)
