"""Paper typed back in: a grid with the rows of the sheet, saved at once, each session marked as
from paper.
"""

from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, timedelta
from typing import Any
from uuid import UUID, uuid5

from django import forms
from django.http import QueryDict

from drill_ladder.apps.card.paper.on_paper import week_on_paper
from drill_ladder.apps.card.paper.sheet import worked_at_club
from drill_ladder.apps.library.models import Caution
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Club, Membership, Player, Squad
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.practice.sessions import (
    SessionForm,
    SessionInput,
    record_session,
    set_lines,
)
from drill_ladder.apps.practice.stops import hear_button, open_stop_of, words_of_hurt
from drill_ladder.apps.practice.work import Asked
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.judging import Observer, Rung
from drill_ladder.formats.reading import decimal
from drill_ladder.formats.rung_words import dose_words
from drill_ladder.ui.fields import Cut, Days

PAPER = UUID("5f0a7bf2-8f60-4f0e-9d0e-4a8d2f6c1b77")  # a sheet that is typed twice is stored once
MOST_GRID = 60  # blocks of one page


@dataclass(slots=True)
class GridBlock:
    """A block of the sheet on one of its days. on: None where the sheet has an empty line for the
    day; stored: what is there already for that day, in words.
    """

    stay: Stay
    rung: Rung
    on: date | None
    form: SessionForm
    stored: str = ""

    @property
    def dose(self) -> str:
        """In words."""
        return dose_words(self.rung)

    @property
    def adult(self) -> bool:
        """Whether somebody has to say that an adult was there."""
        return self.stay.worked_on.drill.caution == Caution.HOME_WITH_ADULT


class HurtForm(forms.Form):
    """What a sheet tells about a hurt: yes or no, and then its words."""

    hurts = forms.ChoiceField(
        label="Did anything hurt?",
        choices=[("", "The sheet does not say"), ("no", "No"), ("yes", "Yes")],
        required=False,
    )
    hurt = Cut(label="Its words", most=300, required=False)

    def clean(self) -> dict[str, Any]:
        """A lone number slipped out of its column: it is asked back, and goes to no family."""
        data = super().clean() or self.cleaned_data
        words = data.get("hurt", "").strip()
        if decimal(words, -1e9, 1e9) is not None and data.get("hurts") != "yes":
            self.add_error(
                "hurt", f"“{words}” is a number. Did something hurt? Say yes, or take it out."
            )
        return data

    @property
    def told(self) -> str | None:
        """The report, or None: words under it are one even where nobody said yes."""
        if not self.is_valid():
            return None
        data = self.cleaned_data
        return words_of_hurt({"hurts": data["hurts"], "hurt_where": data["hurt"]})


@dataclass(slots=True)
class GridPlayer:
    """A player's part of the page, with a place for what hurt."""

    player: Player
    blocks: list[GridBlock]
    hurt: HurtForm


@dataclass(slots=True)
class Grid:
    """The whole page. at_club: a day's sheet, which a coach filled in."""

    people: list[GridPlayer]
    at_club: bool

    @property
    def blocks(self) -> Iterator[GridBlock]:
        """All of them, in the order of the sheet."""
        for person in self.people:
            yield from person.blocks

    def is_valid(self) -> bool:
        """Whether everything typed can be stored."""
        hurts = all([person.hurt.is_valid() for person in self.people])
        return all([block.form.is_valid() for block in self.blocks]) and hurts

    @property
    def numbers(self) -> int:
        """How many results were typed."""
        return sum(len(block.form.sets) for block in self.blocks if block.form.is_valid())

    def refuse(self, reasons: Mapping[str, str]) -> None:
        """Show beside each block why it was not stored. reasons: by the block's prefix."""
        for block in self.blocks:
            if why := reasons.get(str(block.form.prefix)):
                block.form.is_valid()
                block.form.add_error(None, why)


def card_grid(players: Sequence[Player], monday: date, today: date, sent: QueryDict | None) -> Grid:
    """The home cards of a week, of one player or of many."""
    last = min(monday + timedelta(days=6), today)
    people = []
    for player in players:
        rows = [
            (one.stay, one.rung, on)
            for one in week_on_paper(player, monday)
            for on in one.days or [None] * one.times
            if on is None or on <= today
        ]
        people.append(_player(player, rows, (monday, last), sent))
    return Grid([person for person in people if person.blocks], at_club=False)


def club_grid(club: Club, on: date, squad: Squad | None, sent: QueryDict | None) -> Grid:
    """A day's sheet of the club."""
    rows: dict[Player, list[tuple[Stay, Rung, date | None]]] = {}
    for block, stay, rung in worked_at_club(club, on, squad):
        rows.setdefault(block.week.player, []).append((stay, rung, on))
    people = [_player(player, own, (on, on), sent) for player, own in rows.items()]
    return Grid(people[:MOST_GRID], at_club=True)


def _player(
    player: Player,
    rows: Iterable[tuple[Stay, Rung, date | None]],
    days: tuple[date, date],
    sent: QueryDict | None,
) -> GridPlayer:
    rows = list(rows)[:MOST_GRID]
    known = _stored({stay.pk for stay, _, _ in rows}, days)
    seen: dict[tuple[int, date | None], int] = {}
    blocks = []
    for stay, rung, on in rows:
        number = seen[stay.pk, on] = seen.get((stay.pk, on), 0) + 1
        key = f"s{stay.pk}-{on or 'line'}-{number}"
        form = _form(stay, rung, on, days, key, sent)
        stored = "; ".join(known.get((stay.pk, on), [])) if on else ""
        blocks.append(GridBlock(stay, rung, on, form, stored))
    hurt = HurtForm(sent, prefix=f"p{player.pk}")
    return GridPlayer(player, blocks, hurt)


def _stored(
    stays: set[int], days: tuple[date, date]
) -> Mapping[tuple[int, date | None], list[str]]:
    """Stay and day -> what is stored for it already."""
    stored: dict[tuple[int, date | None], list[str]] = {}
    rows = Session.objects.filter(stay__in=stays, on__range=days).whole()
    for row in rows:
        stored.setdefault((row.stay_id, row.on), []).append(", ".join(set_lines(row)))
    return stored


def _form(
    stay: Stay,
    rung: Rung,
    on: date | None,
    days: tuple[date, date],
    key: str,
    sent: QueryDict | None,
) -> SessionForm:
    first = max(days[0], stay.arrived)
    form = SessionForm(
        sent,
        prefix=key,
        rung=rung,
        plan=stay.worked_on.floor_plan.metres if stay.worked_on.floor_plan else None,
        asked=Asked.of(stay.worked_on.drill, rung, stay.prescription.player.is_left_handed),
        days=Days(min(first, days[1]), days[1]),
        may_be_empty=True,
    )
    for name in {"hurts", "hurt_where", "seen_by", "word", "tired"} & set(form.fields):
        del form.fields[name]
    form.fields["adult"].label = "An adult was there"
    form.fields["effort"].widget = forms.NumberInput(attrs={"min": 0, "max": 10, "size": 2})
    seldom = {"min": 1, "max": 5, "size": 2, "placeholder": "not said"}  # Enter passes it
    form.fields["at_ease"].widget = forms.NumberInput(attrs=seldom)
    if on is not None:
        del form.fields["on"]
    else:
        form.fields["on"].initial = None
        form.fields["on"].required = False
    return form


@dataclass(slots=True)
class Stored:
    """What became of a sheet: sessions that are new, those that were there already, and why others
    are not stored, by their block's prefix.
    """

    new: int = 0
    there: int = 0
    refused: dict[str, str] = field(default_factory=dict)


def store_grid(
    grid: Grid, member: Membership, today: date, resting: Collection[int] = ()
) -> Stored:
    """Everything that was typed, row by row: what one of them is refused for holds up no other.
    resting: whoever told on this sheet that something hurts, so that the work on it was before.
    """
    stored = Stored()
    for block in grid.blocks:
        if block.stored or not block.form.is_valid() or not block.form.sets:
            continue
        player = block.stay.prescription.player
        try:
            entry = _entry(block, grid, member)
            _, is_new = record_session(
                stay=block.stay,
                entry=entry,
                today=today,
                actor=member.user,
                with_hurt=player.pk in resting or _before_it_hurt(player, entry.on),
            )
        except Refused as error:
            stored.refused[str(block.form.prefix)] = str(error)
        else:
            stored.new, stored.there = stored.new + is_new, stored.there + (not is_new)
    return stored


def _before_it_hurt(player: Player, on: date) -> bool:
    """Whether a day on paper was over before the player's stop was opened."""
    stop = open_stop_of(player)
    return stop is not None and on < stop.opened_on


def _entry(block: GridBlock, grid: Grid, member: Membership) -> SessionInput:
    data = block.form.cleaned_data
    on = block.on or data.get("on")
    if on is None:
        raise Refused("On which day was this? It is not stored yet.")
    data |= {"on": on, "tired": False, "word": ""}
    seen = Observer.SELF
    if grid.at_club:
        seen = Observer.COACH if member.decides else Observer.HELPER
    entry = block.form.session_input(seen)
    return replace(entry, id=uuid5(PAPER, f"{block.stay.pk} {on}"), on=on, paper=True)


def hear_sheet(grid: Grid, member: Membership) -> list[Player]:
    """What hurt, in the words of the sheet, stored before anything else; the players who rest."""
    resting = []
    for person in grid.people:
        words = person.hurt.told
        if words is not None:
            hear_button({"what": words}, person.player, member.user)
            resting.append(person.player)
    return resting
