"""The player's own day: what there is to do, the run through it, what came of it, their climb."""

from drill_ladder.apps.card.today.blocks import barred, published_week

__all__ = ["barred", "published_week"]
