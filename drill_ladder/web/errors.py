"""Error pages that say what happened, what was kept and what to do."""

import sys

from django.core.exceptions import SuspiciousOperation
from django.db import InterfaceError, OperationalError
from django.http import HttpRequest, HttpResponse, JsonResponse, UnreadablePostError
from django.shortcuts import render
from django.template.loader import render_to_string

from drill_ladder.apps.practice.stops import MOST, words_of_hurt
from drill_ladder.formats.reading import cut
from drill_ladder.ui.pages import wants_json


def _page(request: HttpRequest, status: int, title: str, text: str) -> HttpResponse:
    """An error is said, and beside it what became of a report of hurt that came with it."""
    told = getattr(request, "told", None)
    context = {
        "title": title,
        "text": text,
        "told": told,
        "untold": None if told else _untold(request),
        "back": _back(request),
    }
    return render(request, "error.html", context, status=status)


def _back(request: HttpRequest) -> str:
    """Where to go on: a card leads back to itself, never to a sign-in that a child has no use for;
    "" for a card that opens nothing.
    """
    parts = request.path.split("/")
    if parts[1] != "card" or len(parts) < 4:
        return "/"
    card = f"/card/{parts[2]}/"
    return "" if request.path == card else card


def _untold(request: HttpRequest) -> str | None:
    """The words of a report that was in the form and did not arrive."""
    try:
        sent = request.POST if request.method == "POST" else {}
    except (SuspiciousOperation, UnreadablePostError):
        return None
    return words_of_hurt(sent) or (cut(sent["what"], MOST) if sent.get("what") else None)


def not_found(request: HttpRequest, exception: Exception) -> HttpResponse:
    """404, also for what belongs to somebody else."""
    return _page(request, 404, "Not here", "This page does not exist, or it is not yours to see.")


def forbidden(request: HttpRequest, exception: Exception) -> HttpResponse:
    """403 with the reason."""
    reason = str(exception) or "Your role in the club does not allow this."
    return _page(request, 403, "Not allowed", reason)


def bad_request(request: HttpRequest, exception: Exception) -> HttpResponse:
    """400: what no page of ours sends."""
    text = (
        "What was sent cannot be read, or holds more fields than any page of ours. Nothing was "
        "stored."
    )
    return _page(request, 400, "That cannot be read", text)


def too_large(request: HttpRequest, most: int) -> HttpResponse:
    """413: refused before it is read."""
    text = (
        f"That is larger than {most // 1_000_000} MB, the most that is taken at once. Nothing was "
        "stored."
    )
    return render(
        request,
        "error.html",
        {"title": "Too large", "text": text, "told": None, "untold": None},
        status=413,
    )


def csrf_failed(request: HttpRequest, reason: str = "") -> HttpResponse:
    """A form sent from a page that was open too long, or from elsewhere."""
    text = (
        "This page was open for too long. Nothing was saved: go back, reload the page and send "
        "it again."
    )
    return _page(request, 403, "Please send it again", text)


def server_error(request: HttpRequest) -> HttpResponse:
    """500: our fault; 503 where it is the database that went away meanwhile."""
    if isinstance(sys.exc_info()[1], OperationalError | InterfaceError):
        return unavailable(request)
    text = (
        "Something broke on our side. What you saved before is safe; what you just sent may not "
        "be: try once more."
    )
    return _page(request, 500, "That should not happen", text)


def unavailable(request: HttpRequest) -> HttpResponse:
    """503, without a question to the database: neither who is signed in nor which club is known."""
    if wants_json(request):
        response: HttpResponse = JsonResponse(
            {"error": "The program cannot reach its data just now."}, status=503
        )
    else:
        response = HttpResponse(
            render_to_string("unavailable.html", {"untold": _untold(request)}), status=503
        )
    response.headers["Retry-After"] = "30"
    response.headers["Cache-Control"] = "no-store"
    return response
