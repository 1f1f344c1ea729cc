"""What a secret link opens on a child's own device: the page, its PIN, the little app."""

from drill_ladder.apps.card.opened.links import (
    by_link,
    clock_question,
    device_of,
    heard,
    refused,
    stored,
)

__all__ = ["by_link", "clock_question", "device_of", "heard", "refused", "stored"]
