"""Pages about people are private: no shared cache may keep them."""

from collections.abc import Callable

from django.contrib.auth.middleware import AuthenticationMiddleware
from django.db import InterfaceError, OperationalError, connection
from django.http import HttpRequest, HttpResponse, HttpResponseBase
from django.middleware.gzip import GZipMiddleware
from django.utils.cache import patch_vary_headers
from django.utils.functional import SimpleLazyObject

from drill_ladder.apps.people.access import CHOSEN_CLUB, choose_club
from drill_ladder.formats.reading import unkept
from drill_ladder.web.errors import not_found, unavailable


class Compressed(GZipMiddleware):
    """Pages and calendars go compressed, with padding against guessing secrets by length (the
    framework's); pictures and paper are compressed already.
    """

    def process_response(
        self, request: HttpRequest, response: HttpResponseBase
    ) -> HttpResponseBase:
        kind = response.headers.get("Content-Type", "")
        if not kind.startswith(("text/", "application/json")):
            return response
        return super().process_response(request, response)


# a page may ask for the microphone, to count by ear; what it may never ask for
ASKS_FOR = "microphone=(self), camera=(), geolocation=(), display-capture=(), usb=()"


class PrivatePages:
    """Mark every page as private, and as different for htmx and plain requests."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        response = self.get_response(request)
        response.headers.setdefault("Cache-Control", "private, no-store")
        response.headers.setdefault("Permissions-Policy", ASKS_FOR)
        patch_vary_headers(response, ["HX-Request"])
        return response


class PlainPaths:
    """An address with NUL, line breaks or control signs leads nowhere, and asks nothing of a
    database.
    """

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if unkept(request.path):
            return not_found(request, ValueError("no address"))
        return self.get_response(request)


class SignedIn(AuthenticationMiddleware):
    """Whoever is signed in, in the club that they chose in this browser."""

    def process_request(self, request: HttpRequest) -> None:
        """As the framework's, and then the club."""
        super().process_request(request)
        known = request.user
        request.user = SimpleLazyObject(  # type: ignore[assignment]
            lambda: choose_club(known, request.session.get(CHOSEN_CLUB))
        )


class Available:
    """While the database is away every address says so; once it is back, none fails.

    Asking for a cursor checks the connection that is kept (once a request, as any question would)
    or makes one.
    """

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        try:
            with connection.cursor():
                pass
        except (OperationalError, InterfaceError):
            return unavailable(request)
        return self.get_response(request)
