"""What a home card shows: today's blocks and the terms of each."""

from dataclasses import dataclass, replace
from datetime import date, timedelta

from drill_ladder.apps.library.models import Caution
from drill_ladder.apps.library.models import Rung as StoredRung
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.models import Session, Skip
from drill_ladder.apps.practice.work import feeds_now, work_of_day
from drill_ladder.apps.prescriptions.home import home_way
from drill_ladder.apps.prescriptions.models import PlayerRoutine, Setting, Stay, by_routine
from drill_ladder.apps.weeks.models import Week
from drill_ladder.core.judging import Rung
from drill_ladder.core.planning import ToldBlock
from drill_ladder.formats.home_words import BARRED, why_not
from drill_ladder.formats.rung_words import target_words
from drill_ladder.formats.work_words import dose_of_day

LATELY, MOST_PAST = timedelta(days=14), 20


@dataclass(frozen=True, slots=True)
class CardBlock:
    """One ladder on a card. stored: the rung that is worked on, for a recheck the one below. done:
    days of work this week, before: so many of them on another rung; due: whether it is asked for
    today; planned: its days of a published week, empty without one; told: the block as it was
    published, or nothing; again: fresh work is done today, and it is asked once more, tired;
    routine: of which its stay is the first of so many parts; left_out: why it was left out today,
    in words; age: of the player, full years; feed: today's, "" where the rung has none of its own.
    """

    stay: Stay
    stored: StoredRung
    rung: Rung
    rungs: int
    done: int
    before: int
    due: bool
    done_today: bool
    again: bool = False
    planned: tuple[date, ...] = ()
    told: ToldBlock | None = None
    routine: PlayerRoutine | None = None
    parts: int = 0
    left_out: str = ""
    age: int | None = None
    feed: str = ""

    @property
    def title(self) -> str:
        """The rung, or the routine."""
        return str(self.routine.routine) if self.routine else self.stored.title

    @property
    def page(self) -> str:
        """The name of its page's address."""
        return "card:routine-run" if self.routine else "card:run"

    @property
    def long_page(self) -> str:
        """The name of the address where it is typed in."""
        return "card:routine" if self.routine else "card:block"

    @property
    def key(self) -> int:
        """What its page is asked for by."""
        return self.routine.pk if self.routine else self.stay.pk

    @property
    def dose(self) -> str:
        """The dose of the day in words."""
        return dose_of_day(self.rung, self.age, self.feed)

    @property
    def target(self) -> str:
        """The target in words."""
        return target_words(self.rung)

    @property
    def upcoming(self) -> date | None:
        """The next planned day that has not come yet."""
        return next((day for day in self.planned if self.told and day > self.told.on), None)

    @property
    def place(self) -> tuple[int, int, int]:
        """Its place in the day, the same on the card, for Start and for the way back: as the week
        was told, else by what is most urgent, then as it was prescribed.
        """
        prescription = self.stay.prescription
        return (self.told.order if self.told else 99, prescription.priority, prescription.pk)


def published_week(player: Player, today: date) -> Week | None:
    """The week that the player was told, if there is one."""
    week: Week | None = Week.objects.of(player, today).published().first()
    return week


def told_changes(week: Week | None) -> list[str]:
    """What changed in the week since it was first told, the latest first."""
    return [line for change in reversed(week.told if week else ()) for line in change.lines]


@dataclass(frozen=True, slots=True)
class AtHome:
    """What a card shows. week: as it was told, if it was; blocks: what is due today first; off:
    what was prescribed for home and may not be done there any more, each with the reason.
    """

    week: Week | None
    blocks: list[CardBlock]
    off: list[tuple[Stay, str]]


def home_blocks(player: Player, today: date) -> list[CardBlock]:
    """The player's home work, what is due today first."""
    return at_home(player, today).blocks


def at_home(player: Player, today: date) -> AtHome:
    """The player's home work. A published week says on which days; without one, the wanted sessions
    a week do.
    """
    rows = Stay.objects.of_player(player).current().begun(today).not_coached()
    stays = list(rows.prefetch_related("prescription__ladder__rungs"))
    monday = today - timedelta(days=today.weekday())
    done = Session.objects.of_player(player).since(monday)
    worked = set(done.values_list("stay__prescription", "stay", "on", "tired"))
    week = published_week(player, today)
    routines = _routines(player, stays)
    worked |= _of_first_parts(worked, routines)
    later = {stay.pk for _, parts in routines.values() for stay in parts[1:]}
    blocks = [
        _block(stay, worked, today, week)
        for stay in stays
        if stay.rung.drill.caution != Caution.COACHED_ONLY and stay.pk not in later
    ]
    left = left_out(player, today)
    shown = [_left(_with_routine(block, routines), left) for block in blocks if block is not None]
    shown = _for_the_day(shown, player, today)
    shown.sort(key=lambda b: (not b.due, b.place))
    off = [(stay, why) for stay in stays if (why := barred(stay)) and _is_news(stay)]
    return AtHome(week, shown, off)


def _for_the_day(blocks: list[CardBlock], player: Player, today: date) -> list[CardBlock]:
    """With what differs by age, and the feed of the day."""
    fed = [block.stay for block in blocks if block.rung.feeds]
    feeds = feeds_now(fed, today) if fed else {}
    age = player.age_on(today)
    return [
        replace(block, age=age, feed=block.rung.feeds[feeds[block.stay.pk].at])
        if block.stay.pk in feeds
        else replace(block, age=age)
        for block in blocks
    ]


Routines = dict[int, tuple[PlayerRoutine, list[Stay]]]  # by the first part's stay


def _routines(player: Player, stays: list[Stay]) -> Routines:
    """The player's routines with the stays of their parts."""
    parts = by_routine(stays)
    if not parts:
        return {}
    rows = PlayerRoutine.objects.going().filter(player=player, pk__in=list(parts))
    return {parts[row.pk][0].pk: (row, parts[row.pk]) for row in rows}


def _of_first_parts(worked: "Worked", routines: Routines) -> "Worked":
    """A routine is done where any of its parts was: its first part stands for all."""
    firsts = {stay.prescription_id: parts[0] for _, parts in routines.values() for stay in parts}
    return {
        (firsts[pk].prescription_id, firsts[pk].pk, on, False)
        for pk, _, on, _ in worked
        if pk in firsts
    }


def _with_routine(block: CardBlock, routines: Routines) -> CardBlock:
    routine, parts = routines.get(block.stay.pk, (None, []))
    return replace(block, routine=routine, parts=len(parts)) if routine else block


def left_out(player: Player, on: date) -> dict[int, str]:
    """Stay -> why it was left out on a day."""
    rows = Skip.objects.of_player(player).filter(on=on)
    return {row.stay_id: row.get_why_display() for row in rows}


def _left(block: CardBlock, left: dict[int, str]) -> CardBlock:
    """What was left out today is not begun again by itself."""
    why = left.get(block.stay.pk, "")
    return replace(block, left_out=why, due=False) if why and block.due else block


Worked = set[tuple[int, int, date, bool]]  # prescription, stay, day, whether it was done tired


def _days(stay: Stay, worked: Worked) -> dict[date, bool]:
    """The days of work on a ladder -> whether any of it was on the rung of now."""
    days: dict[date, bool] = {}
    for prescription, at, on, _ in worked:
        if prescription == stay.prescription_id:
            days[on] = days.get(on, False) or at == stay.pk
    return days


def _tired_is_left(stay: Stay, worked: Worked, today: date) -> bool:
    """Whether today's work was done fresh, and is wanted once more."""
    done = {tired for pk, _, on, tired in worked if (pk, on) == (stay.prescription_id, today)}
    fresh_only = stay.worked_on.drill.only_fresh
    return stay.prescription.tired_too and not fresh_only and done == {False}


def _block(stay: Stay, worked: Worked, today: date, week: Week | None) -> CardBlock | None:
    if stay.worked_on.drill.caution == Caution.COACHED_ONLY or barred(stay):
        return None
    days, again = _days(stay, worked), _tired_is_left(stay, worked, today)
    rungs = len(stay.prescription.ladder.rungs.all())
    done = len(days), list(days.values()).count(False)
    stored, rung = work_of_day(stay, today, week)
    if week is None or _came_later(stay, week):
        due = again or (today not in days and len(days) < stay.prescription.per_week)
        return CardBlock(stay, stored, rung, rungs, *done, due, today in days, again)
    own = [
        block
        for block in week.published
        if block.prescription == stay.prescription_id and not block.cancelled
    ]
    at_home = [block for block in own if block.place == "home"]
    if not at_home:
        return None
    again = again and any(block.tired and block.on == today for block in at_home)
    asked = sum(block.on <= today for block in own if not block.tired)
    offered = [block for block in at_home if block.on <= today and block.tired <= again]
    due = again or (today not in days and bool(offered) and len(days) < asked)
    planned = tuple(block.on for block in at_home if not block.tired)
    shown = offered[-1] if offered else at_home[0]
    return CardBlock(stay, stored, rung, rungs, *done, due, today in days, again, planned, shown)


def club_days(week: Week | None, today: date) -> list[date]:
    """The days, from today on, on which the player is expected at the club, as the week was
    told.
    """
    published = week.published if week else ()
    days = {b.on for b in published if b.place == "club" and not b.cancelled and b.on >= today}
    return sorted(days)


def done_lately(player: Player, today: date) -> list[Session]:
    """What the player did in the last two weeks, the latest first."""
    rows = Session.objects.of_player(player).since(today - LATELY)
    return list(rows[:MOST_PAST])


def barred(stay: Stay) -> str:
    """Why a block may not be done at this player's home; empty where it may.

    Caution is asked each time: a drill that needs an adult is not offered where none is on record,
    whatever is ticked.
    """
    if stay.prescription.not_at_home:
        return stay.prescription.not_at_home
    if stay.worked_on.drill.caution == Caution.HOME_ALONE:
        return ""  # nothing bars it but what was looked at when it changed
    home = home_way(stay)
    unsafe = home.version is None and ({"adult", BARRED} & set(home.lacking))
    return f"“{stay.worked_on.drill}”: {why_not(home)}" if unsafe else ""


def _is_news(stay: Stay) -> bool:
    """With both places, a rung for the club alone is nothing to tell, unless it was told for home
    before.
    """
    return bool(stay.prescription.not_at_home) or stay.prescription.place == Setting.HOME


def _came_later(stay: Stay, week: Week) -> bool:
    """Whether the told week says nothing of the ladder because it was prescribed since."""
    asked = {block.prescription for block in week.published}
    return stay.prescription_id not in asked and week.came_later(stay.prescription)
