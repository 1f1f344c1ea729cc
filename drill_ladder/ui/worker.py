"""The worker that keeps pages for when there is no network."""

import json
from collections.abc import Iterable
from pathlib import Path

from django.conf import settings
from django.contrib.staticfiles import finders
from django.contrib.staticfiles.storage import staticfiles_storage
from django.http import HttpResponse

FONTS = ("atkinson-hyperlegible-next-latin", "atkinson-hyperlegible-next-latin-ext", "bitter-latin")
# what every page looks like
LOOK = (
    *("icons/sprite.svg", "icons/icon.svg"),
    *(f"fonts/{name}-wght-normal.woff2" for name in FONTS),
)


def worker_of(names: Iterable[str]) -> HttpResponse:
    """The worker, with the list of what it keeps: the built files by their hashed names."""
    # a hashed name says what is in it: it needs no revision of its own
    shell = [{"url": staticfiles_storage.url(name), "revision": None} for name in names]
    source = Path(str(finders.find("js/sw.js"))).read_text(encoding="utf-8")
    shift = settings.CLOCK_SHIFT.total_seconds() * 1000
    clock = f"self.CLOCK_SHIFT = {shift:.0f};\n" if shift else ""
    text = f"{clock}self.SHELL = {json.dumps(shell)};\n{source}"
    return HttpResponse(text, content_type="text/javascript; charset=utf-8")
