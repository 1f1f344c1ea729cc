"""Weeks on paper: a home card with boxes to tick. One page, good without colour."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, timedelta
from io import BytesIO
from itertools import islice
from typing import Any

import segno
from django.conf import settings
from django.template.loader import render_to_string

from drill_ladder.apps.card.paper.on_paper import MOST_BLOCKS, OnPaper, week_on_paper
from drill_ladder.apps.library.plans import on_paper
from drill_ladder.apps.people.models import Club, Player
from drill_ladder.apps.practice.models import Stop
from drill_ladder.apps.practice.work import work_of
from drill_ladder.apps.weeks.models import Week
from drill_ladder.apps.weeks.querysets import WeekQuerySet
from drill_ladder.core.work import Place, Work
from drill_ladder.formats.reading import cut
from drill_ladder.formats.work_words import ToldWork, told_work
from drill_ladder.ui.pages import Context

MOST_BOXES, MOST_LOOKED_FOR = 20, 4
# what a page holds: rows to tick in all, letters of a text; from so many rows on it begins
# with small print
MOST_ROWS, LONGEST, MANY_ROWS = 64, 400, 40
# how small, and the scale of the boxes
SIZES = {"": 1.0, "dense": 0.75, "denser": 0.55, "densest": 0.42}
CARD_SIZES = {"drawn": 1.0, **SIZES}  # with the floor plans, where there is room
# laying out a full page takes a second and a half each time: with more rows it is tried with small
# print at once
FULL_SIZES = {60: {"denser": 0.55, "densest": 0.42}, MOST_ROWS * MOST_BLOCKS: {"densest": 0.42}}
STATIC = settings.ROOT / "drill_ladder" / "ui" / "static"


def qr(text: str) -> str:
    """A QR code as SVG."""
    out = BytesIO()
    segno.make(text, error="m").save(
        out, kind="svg", scale=3, border=2, xmldecl=False, svgns=True, nl=False
    )
    return out.getvalue().decode()


@dataclass(frozen=True, slots=True)
class TickRow:
    """A row to tick: its name, and how many boxes (0: one for a number)."""

    name: str
    boxes: int


@dataclass(frozen=True, slots=True)
class PaperBlock:
    """A block of a home card on paper. how: what a page has room for; times: the days on which it
    is done, or empty boxes.
    """

    work: ToldWork
    plan: str
    plan_note: str
    here_note: str
    set_to: str
    how: str
    look_for: tuple[str, ...]
    cue: str
    rows: list[TickRow]
    times: list[str]


def tallies(work: Work, most: int = MOST_ROWS) -> list[TickRow]:
    """What is ticked: a row for each set and lane, with as many boxes as attempts, or one box for a
    number.

    At most so many rows; where there are more, the last one says so.
    """
    rung = work.rung
    reps = rung.reps_per_set if rung.counts_makes else None
    boxes = min(reps, MOST_BOXES) if reps else 0
    sets, lanes = rung.dose.sets, work.lanes or ("",)
    rows = islice(((n, lane) for n in range(1, sets + 1) for lane in lanes), most)
    ticks = [TickRow(_named(number, lane, sets), boxes) for number, lane in rows]
    if sets * len(lanes) > most:
        ticks[-1] = TickRow(f"and {sets * len(lanes) - most + 1} more", 0)
    return ticks


def _named(number: int, lane: str, sets: int) -> str:
    parts = [lane] if lane else []
    return ", ".join([*parts, f"set {number}"] if sets > 1 else parts)


def home_card(player: Player, monday: date, link: str) -> bytes:
    """The player's home work of a week, with the way to the card itself."""
    sunday, shown = monday + timedelta(days=6), week_on_paper(player, monday)
    share = max(1, MOST_ROWS // max(1, sum(row.times for row in shown)))
    blocks = [_card_block(row, monday, share) for row in shown]
    rests = player.pk in resting_of(player.club)
    context = {"player": player, "monday": monday, "sunday": sunday, "link": link, "rests": rests}
    context["blocks"] = [] if rests else blocks
    rows = sum(len(block.rows) * len(block.times) for block in blocks)
    sizes = (
        CARD_SIZES
        if rows <= MANY_ROWS
        else next(s for most, s in FULL_SIZES.items() if rows <= most)
    )
    return pdf("card/print_card.html", context | {"qr": qr(link)}, sizes)


def plan_note(told: ToldWork) -> str:
    """How the drawing differs from the drill's own."""
    parts = ["Mirrored for a left-hander."] if told.mirrored else []
    if told.percent:
        parts.append(f"Set up at {told.percent}\u00a0% of its size.")
    return " ".join(parts)


def here_note(told: ToldWork) -> str:
    """How it is done for now, where that is another way than the full drill's."""
    parts = [f"Easier for now: {told.easier}."] if told.eased else []
    if told.way:
        lacks = f" (lacks {', '.join(told.lacks)})" if told.lacks else ""
        parts.append(f"At home: {told.way}{lacks}.")
    return " ".join(parts)


def sizes_note(told: ToldWork) -> str:
    """To what tools are set for this body, and what does not fit it."""
    settings = [f"Set {'; '.join(told.set_to)}."] if told.set_to else []
    return " ".join([*settings, *told.kit])


def _card_block(one: OnPaper, on: date, most: int) -> PaperBlock:
    work = work_of(one.stay, on, Place.HOME, rung=one.rung)
    words = told_work(work)
    return PaperBlock(
        work=words,
        plan=on_paper(work.how.plan) if work.how.plan else "",
        plan_note=plan_note(words),
        here_note=here_note(words),
        set_to=sizes_note(words),
        how=cut(words.text, LONGEST),
        look_for=words.checkpoints[:MOST_LOOKED_FOR],
        cue=words.cue or next(iter(words.cues), ""),
        rows=tallies(work, most),
        times=[f"{day:%a}" for day in one.days] or [""] * one.times,
    )


def pdf(template: str, context: Context, sizes: Mapping[str, float] = SIZES) -> bytes:
    """A template as PDF on one page, as large as fits."""
    return bytes(document(template, context, sizes).write_pdf())


def document(template: str, context: Context, sizes: Mapping[str, float] = SIZES) -> Any:
    """The laid out pages: one, unless even the smallest print needs more. Fonts come from this
    folder; nothing is fetched.
    """
    # three seconds to import, needed for printing only
    from weasyprint import CSS, HTML
    from weasyprint.text.fonts import FontConfiguration
    from weasyprint.urls import URLFetcher

    fonts, fetcher = FontConfiguration(), URLFetcher(allowed_protocols={"file", "data"})
    style = CSS(filename=str(STATIC / "css/print.css"), font_config=fonts, url_fetcher=fetcher)
    for size, scale in sizes.items():
        text = render_to_string(template, context | {"size": size, "scale": scale})
        page = HTML(string=text, base_url=str(STATIC), url_fetcher=fetcher)
        pdf = page.render(stylesheets=[style], font_config=fonts, pdf_variant="pdf/ua-1")
        if len(pdf.pages) == 1:
            break
    return pdf


def resting_of(club: Club) -> set[int]:
    """The players with an open stop."""
    return set(Stop.objects.open().of_club(club).values_list("player", flat=True))


def weeks_to_tell(player: Player) -> WeekQuerySet:
    """The weeks that a player was told, for the calendar."""
    return Week.objects.filter(player=player).published()
