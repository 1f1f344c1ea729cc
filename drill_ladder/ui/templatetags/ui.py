"""The parts of every screen: panels, fields, signs and drawings. The only mark_safe is for our own
drawings.
"""

from base64 import b64encode
from collections.abc import Sequence
from datetime import date, timedelta
from typing import Any
from uuid import uuid4

from django import template
from django.conf import settings
from django.core.paginator import Page
from django.forms import BoundField, CheckboxInput
from django.middleware.csrf import get_token
from django.templatetags.static import static
from django.urls import reverse
from django.utils import timezone
from django.utils.html import format_html
from django.utils.safestring import SafeString, mark_safe

from drill_ladder.charts.ladder import CARD, LARGE, ROW, glyph
from drill_ladder.charts.tally import boxes
from drill_ladder.charts.tally import tally as tally_svg
from drill_ladder.ui.glossary import WORDS

register = template.Library()
MILLISECOND = timedelta(milliseconds=1)

# kind -> (class, icon, word): a sign never stands without its word
SIGNS = {
    "climb": ("climb", "arrow-up-from-line", "Climb"),
    "skip": ("climb", "chevrons-up", "Skip one rung"),
    "finish": ("climb", "flag", "Finish"),
    "check": ("hold", "eye", "Watch one"),
    "hold": ("hold", "equal", "Hold"),
    "wait": ("hold", "clock", "Wait"),
    "ease": ("ease", "trending-down", "Ease"),
    "step_down": ("ease", "arrow-down-to-line", "Step down"),
    "recheck": ("ease", "rotate-ccw", "Recheck"),
    "stalled": ("ease", "triangle-alert", "Stuck"),
    "rest": ("stop", "octagon-x", "Stop"),
}


@register.simple_tag
def icon(name: str) -> SafeString:
    """A drawn sign from the sprite; the word beside it says what it means."""
    return format_html(
        '<svg class="icon" aria-hidden="true"><use href="{}#{}"></use></svg>',
        static("icons/sprite.svg"),
        name,
    )


@register.simple_tag
def clock() -> SafeString:
    """When the server made this page, for a device whose own clock may be wrong; and how far the
    program's day is from the machine's, where that is set (web/settings/day.py).
    """
    served = format_html('data-served="{}"', timezone.now().isoformat(timespec="seconds"))
    if not settings.CLOCK_SHIFT:
        return served
    shift = f"{settings.CLOCK_SHIFT / MILLISECOND:.0f}"
    return format_html('{} data-clock-shift="{}"', served, shift)


@register.simple_tag
def form_id() -> SafeString:
    """The id of a form that is to be done once, however often it is sent."""
    return format_html('<input type="hidden" name="form_id" value="{}">', uuid4())


@register.inclusion_tag("components/sign.html")
def sign(kind: str, big: bool = False) -> dict[str, Any]:
    """A decision as sign and word."""
    class_, name, word = SIGNS[kind]
    return {"class": class_, "icon": name, "word": word, "big": big}


@register.simple_block_tag
def panel(
    content: str, title: str = "", note: str = "", kind: str = "", id: str = ""
) -> SafeString:
    """A sheet of paper with a heading."""
    head = format_html("<header><h2>{}</h2>{}</header>", title, _note(note)) if title else ""
    given = format_html(' id="{}"', id) if id else ""
    return format_html('<section class="panel {}"{}>{}{}</section>', kind, given, head, content)


@register.simple_block_tag
def error_box(content: str, kind: str = "", extra: str = "") -> SafeString:
    """What is wrong and what was kept, beside the thing it is about; kind note for a caution, which
    is read in its turn and not called out.
    """
    class_ = " ".join(("error-box", kind, extra)).strip()
    called = mark_safe(' role="alert"') if kind != "note" else ""
    return format_html('<div class="{}"{}>{}</div>', class_, called, content)


@register.simple_block_tag
def scrolled(content: str, label: str) -> SafeString:
    """A table wider than a phone: it scrolls by itself, by keys too, and says what it is."""
    return format_html(
        '<div class="scrolled" tabindex="0" role="region" aria-label="{}">{}</div>', label, content
    )


@register.inclusion_tag("components/pager.html", takes_context=True)
def pager(context: dict[str, Any], page: Page) -> dict[str, Any]:
    """The way through a long list; nothing where it has one page. What else the address asks for
    stays.
    """
    asked = context["request"].GET.copy()
    links = {}
    for word, there in (("before", page.has_previous()), ("after", page.has_next())):
        if there:
            asked["page"] = page.number + (1 if word == "after" else -1)
            links[word] = f"?{asked.urlencode()}"
    return {"page": page, **links}


def _note(note: str) -> SafeString | str:
    return format_html('<span class="note">{}</span>', note) if note else ""


@register.inclusion_tag("components/field.html")
def field(bound: BoundField) -> dict[str, Any]:
    """A form field with its label, hint and what is wrong with it."""
    return {"field": bound, "check": isinstance(bound.field.widget, CheckboxInput)}


@register.inclusion_tag("components/nothing_yet.html")
def nothing_yet(title: str, text: str = "", link: str = "", action: str = "") -> dict[str, Any]:
    """An empty place says what to do next."""
    return {"title": title, "text": text, "link": link, "action": action}


@register.inclusion_tag("components/word.html")
def word(name: str, shown: str = "") -> dict[str, str]:
    """A word of the trade that explains itself when it is touched."""
    return {"shown": shown or name, "told": WORDS[name]}


@register.inclusion_tag("components/words.html")
def words_explained() -> dict[str, Any]:
    """All of them, for the foot of a page."""
    return {"words": WORDS}


@register.simple_tag
def drawing(svg: str) -> SafeString:
    """One of our own drawings (drill_ladder.charts escapes every text)."""
    return mark_safe(svg)  # noqa: S308


@register.simple_tag
def ladder_glyph(
    rungs: int,
    at: int | None,
    size: str = "row",
    finished: bool = False,
    stopped: bool = False,
    risen: int = 0,
) -> SafeString:
    """The ladder glyph in a row, on a card or large; risen: rungs that the marker has come up."""
    sizes = {"card": CARD, "large": LARGE}
    return drawing(glyph(rungs, at, sizes.get(size, ROW), finished, stopped, risen))


@register.simple_tag
def tally(marks: Sequence[str], what: str = "") -> SafeString:
    """Tally strokes."""
    return drawing(tally_svg(marks, what))


@register.filter
def day(on: date | str | None) -> str:
    """Mon 3 Mar."""
    if on is None or on == "":
        return "never"
    value = date.fromisoformat(on) if isinstance(on, str) else on
    return f"{value:%a} {value.day} {value:%b}"


@register.filter
def ago(on: date | None, today: date) -> str:
    """Days in words."""
    if on is None:
        return "never"
    days = (today - on).days
    return {0: "today", 1: "yesterday"}.get(days, f"{days} days ago")


@register.simple_tag
def ticks(count: int, scale: float) -> SafeString:
    """Boxes to tick on paper. As a picture: a page has hundreds that are alike, and each is then
    laid out once.
    """
    picture = b64encode(boxes(count, scale).encode()).decode()
    return format_html('<img alt="" class="boxes" src="data:image/svg+xml;base64,{}">', picture)


@register.simple_tag
def mark(kind: str) -> SafeString:
    """One tally mark, for the key."""
    return drawing(tally_svg([kind]))


@register.filter
def reps_range(players: Sequence[Any]) -> str:
    """60, or 54 to 60."""
    reps = sorted({player.reps for player in players})
    return str(reps[0]) if len(reps) == 1 else f"{reps[0]} to {reps[-1]}"


@register.filter
def hundred(share: float) -> str:
    """0.25 as 25.0, for drawings."""
    return f"{share * 100:.1f}"


@register.filter
def minus(value: float, less: float) -> float:
    """A difference."""
    return value - less


@register.filter
def percent(rate: float | None) -> str:
    """0.083 as 8 %."""
    return "–" if rate is None else f"{rate * 100:.0f}\u00a0%"


@register.filter
def minutes(seconds: float) -> str:
    """95 as 1:35 min."""
    whole = round(seconds)
    return f"{whole // 60}:{whole % 60:02}\u00a0min"


@register.filter
def lines(value: Any) -> list[str]:
    """A list, or text with one entry a line, as a list."""
    return value if isinstance(value, list) else str(value or "").splitlines()


@register.filter
def at(entries: Sequence[Any], i: int) -> Any:
    """An entry of a list."""
    return entries[i]


@register.filter
def get(mapping: dict[Any, Any], key: Any) -> Any:
    """An entry of a mapping, or None."""
    return mapping.get(key)


@register.simple_block_tag(takes_context=True)
def act(
    context: dict[str, Any],
    content: str,
    address: str,
    pk: int,
    what: str,
    target: str,
    class_: str = "",
) -> SafeString:
    """A form that changes the week that is shown, and puts its answer in its place (target)."""
    return format_html(
        '<form method="post" class="{}" action="{}" hx-post="{}" hx-target="{}">'
        '<input type="hidden" name="csrfmiddlewaretoken" value="{}"><input type="hidden" '
        'name="of" value="{}">'
        "{}</form>",
        class_,
        *[reverse(address, args=[pk, what])] * 2,
        target,
        get_token(context["request"]),
        f"{context['monday']:%Y-%m-%d}",
        content,
    )
