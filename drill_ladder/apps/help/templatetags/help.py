"""A word of the trade where a page explains it."""

from django import template

from drill_ladder.apps.help.trade_words import Word, trade_words

register = template.Library()


@register.inclusion_tag("help/_word.html")
def trade_word(name: str) -> dict[str, Word]:
    """Its picture and its meaning."""
    return {"word": next(word for word in trade_words() if word.name == name)}
