"""The card as an app: its manifest, and the worker that keeps it for when there is no network."""

from django.contrib.staticfiles.storage import staticfiles_storage
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.urls import reverse
from django.views.decorators.http import require_safe

from drill_ladder.apps.card.opened.links import by_link
from drill_ladder.apps.people.models import Player
from drill_ladder.ui.worker import LOOK, worker_of

# everything that a card is made of
SHELL = (
    *("css/app.css", "js/card.js", "js/ear.js", "js/alpine.js", "js/theme.js"),
    *LOOK,
)


ICONS = (
    ("icon.svg", "image/svg+xml", "any", "any"),
    ("icon-192.png", "image/png", "192x192", "any"),
    ("icon-512.png", "image/png", "512x512", "any"),
    ("icon-maskable-512.png", "image/png", "512x512", "maskable"),
)


def _icon(name: str, kind: str, sizes: str, purpose: str) -> dict[str, str]:
    source = staticfiles_storage.url(f"icons/{name}")
    return {"src": source, "type": kind, "sizes": sizes, "purpose": purpose}


@require_safe
def worker(request: HttpRequest) -> HttpResponse:
    """The worker, with the list of what it keeps: the built files by their hashed names."""
    return worker_of(SHELL)


@by_link()
def manifest(request: HttpRequest, player: Player, token: str) -> HttpResponse:
    """How a device installs this card, under the club's name."""
    card = reverse("card:card", args=[token])
    return JsonResponse(
        {
            "id": card,
            "name": f"{player.club}: drills of {player}",
            "short_name": str(player.club),
            "start_url": card,
            "scope": card,
            "display": "standalone",
            "background_color": "#f4eee1",
            "theme_color": "#f4eee1",
            "icons": [_icon(*icon) for icon in ICONS],
        },
        content_type="application/manifest+json",
    )
