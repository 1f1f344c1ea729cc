"""What a week's page says often."""

from typing import Any

from django import template
from django.middleware.csrf import get_token
from django.urls import reverse
from django.utils.html import format_html
from django.utils.safestring import SafeString

register = template.Library()


@register.simple_block_tag(takes_context=True)
def act(
    context: dict[str, Any], content: str, kind: str, pk: int, what: str, class_: str = ""
) -> SafeString:
    """A form that changes the week that is shown, and puts its answer in its place. kind: week or
    block.
    """
    return format_html(
        '<form method="post" class="{}" action="{}" hx-post="{}" hx-target="#week">'
        '<input type="hidden" name="csrfmiddlewaretoken" value="{}"><input type="hidden" '
        'name="of" value="{}">'
        "{}</form>",
        class_,
        *[reverse(f"weeks:{kind}-act", args=[pk, what])] * 2,
        get_token(context["request"]),
        f"{context['monday']:%Y-%m-%d}",
        content,
    )
