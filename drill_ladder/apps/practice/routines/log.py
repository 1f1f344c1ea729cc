"""A routine as one page: every part with its own counts, asked about once at the end, stored part
by part onto each part's ladder.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field, replace
from datetime import date
from math import ceil
from typing import Any
from uuid import uuid4

from django import forms
from django.db import transaction
from django.http import HttpRequest, QueryDict

from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import User
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.practice.observations import to_ask_about
from drill_ladder.apps.practice.sessions import (
    SessionForm,
    SessionInput,
    record_session,
    shown_work,
)
from drill_ladder.apps.practice.work import Asked, rung_of_day, work_of, worn_field
from drill_ladder.apps.prescriptions.dose import fixed
from drill_ladder.apps.prescriptions.models import PlayerRoutine, Stay
from drill_ladder.apps.prescriptions.routines import PartInHand, parts_in_hand, timed, told_cuts
from drill_ladder.core.judging import Rung
from drill_ladder.core.planning import Routine
from drill_ladder.core.work import Place, Work
from drill_ladder.ui.fields import Days, Whole
from drill_ladder.ui.pages import Context

FIRST_SEAT = "a"
AT_END = ("effort", "at_ease", "hurts", "hurt_where", "word", "seen_by", "adult")


class DayForm(forms.Form):
    """What is asked once, at the end of a routine."""

    session_id = forms.UUIDField(widget=forms.HiddenInput, required=False)
    # which rung the player was asked about, by its stay
    about = Whole(widget=forms.HiddenInput, required=False)

    def __init__(
        self,
        *args: Any,
        days: Days,
        worn: Sequence[str] = (),
        about: Stay | None = None,
        **kwargs: Any,
    ) -> None:
        initial = kwargs.setdefault("initial", {})
        initial.setdefault("session_id", uuid4())
        initial["about"] = about.pk if about else None
        super().__init__(*args, **kwargs)
        for name in AT_END:
            self.fields[name] = SessionForm.base_fields[name]
        self.fields["on"] = days.field()
        if worn:
            self.fields["worn"] = worn_field(tuple(worn))
        self.days, self.asks_about = days, about


@dataclass(slots=True)
class PartPage:
    """A part on the page. key: the prefix of its fields; check: whether it is the insert, which is
    done tired by definition; together: whether it is judged in the same repetitions as the part
    before it, and beside: the ladders of those that are judged with it.
    """

    key: str
    stay: Stay
    rung: Rung
    form: SessionForm
    check: bool
    work: Work
    together: bool = False
    beside: tuple[str, ...] = ()

    @property
    def shown(self) -> Context:
        """What its pad, its instrument and its words need."""
        return shown_work(self.work, self.form, f"{self.key}-")

    @property
    def ids(self) -> str:
        """What stands before the names of what belongs to this part on a page of many."""
        return f"{self.key}-"

    @property
    def pad_id(self) -> str:
        """Where the page keeps what the pad is told."""
        return f"{self.key}-pad-entries"

    @property
    def faults_id(self) -> str:
        """Where it keeps the faults."""
        return f"{self.key}-pad-faults"

    @property
    def instrument_id(self) -> str:
        """Where it keeps what the instrument is told."""
        return f"{self.key}-instrument"


@dataclass(slots=True)
class RoutinePage:
    """The whole page. told: what was cut and left out."""

    given: PlayerRoutine
    parts: list[PartPage]
    day: DayForm
    plan: Routine
    told: list[str] = field(default_factory=list)

    @property
    def minutes(self) -> int:
        """Whole minutes of all of it."""
        return ceil(self.plan.seconds / 60 - 1e-9)

    def is_valid(self) -> bool:
        """Whether everything typed can be stored, and something was counted."""
        good = all([self.day.is_valid(), *(part.form.is_valid() for part in self.parts)])
        if good and not any(part.form.sets for part in self.parts):
            self.day.add_error(None, "Nothing is counted yet: count or type at least one part.")
            return False
        return good

    @property
    def errors(self) -> list[str]:
        """Everything that is wrong, part by part."""
        if not self.day.is_bound:
            return []
        wrong = [str(line) for lines in self.day.errors.values() for line in lines]
        for part in self.parts:
            for lines in part.form.errors.values():
                wrong += [f"{part.stay.prescription.ladder}: {line}" for line in lines]
        return wrong


@dataclass(frozen=True, slots=True)
class Asking:
    """How a page is asked for. sent: what was posted, or nothing; minutes: of the block; player:
    whether it is the player's own card; seat: before the prefixes, where two players share a page.
    """

    sent: QueryDict | None
    on: date
    minutes: float | None
    player: bool
    form_cut: bool = False
    seat: str = ""


def asking(request: HttpRequest, on: date, minutes: float | None, player: bool) -> Asking:
    """From a request."""
    sent = request.POST if request.method == "POST" else None
    return Asking(sent, on, minutes, player, request.form_cut)  # type: ignore[attr-defined]


def stays_of(given: PlayerRoutine) -> list[Stay]:
    """Where the player stands on the routine's ladders."""
    rows = Stay.objects.current().with_all().filter(prescription__player_routine=given)
    return list(rows.prefetch_related("prescription__player__days"))


def routine_page(given: PlayerRoutine, asked: Asking) -> RoutinePage:
    """The page of a routine; a part for which the minutes do not suffice is told and not shown."""
    hand = parts_in_hand(given, stays_of(given))
    plan = timed(given, hand, asked.minutes)
    sets = {part.id: part.sets for part in plan.parts}
    checks = {insert.after for insert in plan.inserts}
    pages: list[PartPage] = []
    for part in hand:
        if part.id in sets:
            pages.append(_part(part, _dosed(part, sets[part.id], asked.on), asked))
        if part.id in checks:
            pages += _check(given, hand, part, asked)
    _name_beside(pages)
    first = min((page.stay.arrived for page in pages), default=asked.on)
    days = Days(min(first, asked.on), asked.on, by_name=False)
    # the first player's own names are those that every page has for a report of hurt
    prefix = asked.seat if asked.seat not in ("", FIRST_SEAT) else None
    worn = dict.fromkeys(words for page in pages for words in page.stay.worked_on.drill.worn)
    about = to_ask_about([page.stay for page in pages], asked.on) if asked.player else None
    day = DayForm(asked.sent, days=days, prefix=prefix, worn=list(worn), about=about)
    return RoutinePage(given, pages, day, plan, told_cuts(plan, hand))


def _name_beside(pages: Sequence[PartPage]) -> None:
    """Those that are judged in the same repetitions know each other. The first of them that is
    shown goes with none before it.
    """
    group: list[PartPage] = []
    for page in pages:
        page.together = page.together and bool(group)
        group = [*group, page] if page.together else [page]
        for one in group:
            others = (str(other.stay.prescription.ladder) for other in group if other is not one)
            one.beside = tuple(others)


def _dosed(part: PartInHand, sets: int, on: date) -> Rung:
    """The rung with the dose of the day; fewer sets where the minutes do not suffice."""
    rung = rung_of_day(part.stay, on) if part.rung.is_open else part.rung
    return fixed(rung, sets, rung.dose.reps)


def _check(
    given: PlayerRoutine, hand: Sequence[PartInHand], after: PartInHand, asked: Asking
) -> list[PartPage]:
    """The insert after a part: a few attempts on one of the routine's own ladders."""
    ladder, reps = given.routine.insert_of_id, given.routine.insert_reps
    of = next((part for part in hand if part.stay.prescription.ladder_id == ladder), None)
    # it is done tired: nothing for contact or all-out effort
    if of is None or of.stay.worked_on.drill.only_fresh:
        return []
    rung = fixed(of.rung, 1, reps if of.rung.dose.reps is not None else None)
    return [_page(f"c{after.id}", of.stay, rung, True, asked)]


def _part(part: PartInHand, rung: Rung, asked: Asking) -> PartPage:
    page = _page(f"p{part.id}", part.stay, rung, False, asked)
    page.together = part.together
    return page


def _page(key: str, stay: Stay, rung: Rung, check: bool, asked: Asking) -> PartPage:
    player = stay.prescription.player
    key, left_handed = f"{asked.seat}{key}", player.is_left_handed
    form = SessionForm(
        asked.sent,
        prefix=key,
        rung=rung,
        form_cut=asked.form_cut,
        asked=Asked.of(stay.worked_on.drill, rung, left_handed),
        days=Days(min(stay.arrived, asked.on), asked.on, by_name=asked.player),
        may_be_empty=True,
    )
    # asked once, for all parts together
    for name in {"hurts", "hurt_where", "worn"} & set(form.fields):
        del form.fields[name]
    place = Place.HOME if asked.player else Place.CLUB
    return PartPage(key, stay, rung, form, check, work_of(stay, asked.on, place, rung=rung))


@transaction.atomic
def store_routine(
    pages: Iterable[RoutinePage],
    on: date,
    observer: str,
    actor: User | None,
    hurt: bool,
    device: str = "",
) -> list[Session]:
    """Every part that was counted, each onto its own ladder; all of them or, where one cannot be,
    none. Raises Refused, which names the part.
    """
    stored: list[Session] = []
    for page in pages:
        today = page.given.player.club.today()
        word = page.day.cleaned_data["word"].strip()
        for part in page.parts:
            if not part.form.sets:
                continue
            entry = replace(_entry(part, page.day, on, observer, word), device=device)
            try:
                session, _ = record_session(
                    stay=part.stay, entry=entry, today=today, actor=actor, with_hurt=hurt
                )
            except Refused as error:
                raise Refused(f"{part.stay.prescription.ladder}: {error}") from error
            stored.append(session)
            word = ""  # it is said once
    return stored


def _entry(part: PartPage, day: DayForm, on: date, observer: str, word: str) -> SessionInput:
    data = day.cleaned_data
    asked = data["about"] == part.stay.pk and not part.check
    entry = part.form.session_input(observer)
    return replace(
        entry,
        on=max(on, part.stay.arrived),
        effort=data["effort"],
        word=word,
        adult_present=data["adult"],
        worn=[one for one in data.get("worn", []) if one in part.stay.worked_on.drill.worn],
        tired=part.check,
        at_ease=data["at_ease"] if asked else None,
    )
