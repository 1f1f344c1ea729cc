"""Cards and sheets on paper, and what is typed in from them."""

from drill_ladder.apps.card.paper.pages import pdf
from drill_ladder.apps.card.paper.sheet import printed, sheet_of

__all__ = ["pdf", "printed", "sheet_of"]
