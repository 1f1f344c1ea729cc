"""How a piece of work runs, as attributes that the instruments read: one list for every page that
counts.
"""

from django import template
from django.utils.html import format_html_join
from django.utils.safestring import SafeString

from drill_ladder.apps.practice.work import Beside
from drill_ladder.formats.work_words import ToldWork

register = template.Library()


@register.simple_tag
def conduct(work: ToldWork, beside: Beside) -> SafeString:
    """The attributes of the element that a pad or an instrument stands on."""
    form_min = work.form_min if work.form_min and work.easier else None
    values = {
        "rest": f"{work.rest:.1f}",
        "turns": "|".join(work.turns),
        "rest-each": f"{work.rest_each:.1f}",
        "ease-faults": work.ease_faults or "",
        "form-min": "" if form_min is None else f"{form_min:.3f}",
        "rest-ready": "yes" if work.rest_ready else "no",
        "slow-first": f"{work.slow_first:.1f}",
        "finish-good": work.finish_good or "",
        "eased": "yes" if work.eased else "no",
        "tempo": beside.tempo,
        "asked": beside.asked,
        "pace": f"{beside.pace:.2f}",
        "feed": work.feed,
    }
    return format_html_join(" ", 'data-{}="{}"', values.items())
