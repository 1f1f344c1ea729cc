"""What every request goes through: how long it took, who asks, what a form may hold. Pages about
people are private: no shared cache may keep them.
"""

import re
from collections.abc import Callable, Iterator
from time import perf_counter
from typing import Any
from urllib.parse import unquote_plus

from django.contrib.auth.middleware import AuthenticationMiddleware
from django.core.exceptions import (
    BadRequest,
    RequestDataTooBig,
    SuspiciousOperation,
    TooManyFieldsSent,
)
from django.db import InterfaceError, OperationalError, connection
from django.http import HttpRequest, HttpResponse, HttpResponseBase, QueryDict
from django.http.multipartparser import MultiPartParserError
from django.middleware.gzip import GZipMiddleware
from django.utils.cache import patch_vary_headers
from django.utils.datastructures import MultiValueDict
from django.utils.functional import SimpleLazyObject
from prometheus_client import Histogram

from drill_ladder.apps.people.access import CHOSEN_CLUB, choose_club
from drill_ladder.formats.reading import json_value, unkept, whole
from drill_ladder.web.errors import not_found, too_large, unavailable

ALIVE = "/health/"
BUCKETS = (0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10)
SECONDS = Histogram(
    "ladder_request_seconds",
    "How long requests took",
    ["address", "method", "status"],
    buckets=BUCKETS,
)


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


KEPT = frozenset(
    {
        *("csrfmiddlewaretoken", "session_id", "hurts", "hurt_where", "what", "player"),
        *("report", "told_at", "device_now"),
    }
)
CHUNK, LONGEST = 65_536, 65_536  # bytes read at once, and of one field
MOST_BYTES = 6_000_000  # of an upload: the largest file, and the same again as text in a form
TOO_MUCH = (TooManyFieldsSent, RequestDataTooBig, SuspiciousOperation)
UNREADABLE = (*TOO_MUCH, BadRequest, MultiPartParserError, UnicodeError, LookupError)
JSON, PARTS, LINES = "application/json", "multipart/form-data", "text/plain"


class LargeForms:
    """Reads a form before anybody else does. `request.form_cut` says that only a part of it was
    kept.
    """

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        request.form_cut = False  # type: ignore[attr-defined]
        return self.get_response(request)

    def process_view(
        self, request: HttpRequest, view: Callable[..., Any], *_: Any
    ) -> HttpResponse | None:
        """Before the form's token is looked at, as that reads the form too."""
        if request.method != "POST":
            return None
        if getattr(view, "holds_report", False):
            _read_report(request)
        elif _length(request) > MOST_BYTES:
            return too_large(request, MOST_BYTES)
        return None


def _read_report(request: HttpRequest) -> None:
    charset = (request.content_params or {}).get("charset", "utf-8").lower()
    other = charset not in ("utf-8", "utf8", "us-ascii", "ascii")
    if request.content_type in (PARTS, JSON, LINES) or other:
        # these are read twice where the first reading fails, which a stream does not allow
        request._body = b"".join(_chunks(request, MOST_BYTES))  # type: ignore[attr-defined]
    if other:
        request._body = _as_utf8(request._body, charset)  # type: ignore[attr-defined]
        return _keep_what_matters(request, cut=False)
    if request.content_type in (JSON, LINES):
        return _keep_what_matters(request, cut=False)
    try:
        request.POST  # noqa: B018  reading it is what raises
    except UNREADABLE:
        _keep_what_matters(request, cut=True)


def _keep_what_matters(request: HttpRequest, cut: bool) -> None:
    readers = {JSON: _of_json, PARTS: _of_parts, LINES: _of_lines}
    kept = QueryDict(mutable=True)
    for name, value in readers.get(request.content_type or "", _of_form)(request):
        if name in KEPT:
            kept[name] = value
    kept._mutable = False
    request._post, request._files = kept, MultiValueDict()  # type: ignore[attr-defined]
    request.form_cut = cut  # type: ignore[attr-defined]


def _chunks(request: HttpRequest, most: int = 2**62) -> Iterator[bytes]:
    """The body, from memory where it was read already, else as it comes."""
    if hasattr(request, "_body"):
        yield from (request._body[i : i + CHUNK] for i in range(0, len(request._body), CHUNK))
        return
    left = min(_length(request), most)
    while left > 0 and (chunk := request.read(min(CHUNK, left))):
        left -= len(chunk)
        yield chunk


def _length(request: HttpRequest) -> int:
    """The bytes that are announced; no more of them are read."""
    return whole(request.META.get("CONTENT_LENGTH", ""), 0, 2**62) or 0


def _as_utf8(body: bytes, charset: str) -> bytes:
    """From the alphabet that it says it is in; where that is none, as it is."""
    try:
        return body.decode(charset).encode()
    except (LookupError, UnicodeError):
        return body


def _text(value: bytes) -> str:
    """In whatever alphabet it is: one that is not UTF-8 keeps at least what is plain in it."""
    try:
        return value.decode()
    except UnicodeDecodeError:
        return value.decode("latin-1").replace("\x00", "")


Fields = Iterator[tuple[str, str]]


def _of_form(request: HttpRequest) -> Fields:
    """The fields of a form that comes in pieces; one that is endless is cut."""
    rest = b""
    for chunk in _chunks(request):
        *complete, rest = (rest + chunk).split(b"&")
        for part in complete:
            yield _field(part)
        rest = rest[:LONGEST]
    yield _field(rest)


def _field(part: bytes) -> tuple[str, str]:
    name, _, value = part.partition(b"=")
    return _text(name), unquote_plus(_text(value), errors="replace")


_PART_NAME = re.compile(rb'\bname="?([A-Za-z_]{1,40})"?')


def _of_parts(request: HttpRequest) -> Fields:
    """The parts of a form as they stand between its boundaries."""
    body = b"".join(_chunks(request))
    line = body.partition(b"\r\n")[0]
    for part in body.split(line) if line.startswith(b"--") else []:
        head, _, value = part.partition(b"\r\n\r\n")
        name = _PART_NAME.search(head)
        if name:
            yield _text(name[1]), _text(value[:LONGEST].removesuffix(b"\r\n"))


def _of_json(request: HttpRequest) -> Fields:
    """The texts and numbers of a JSON object."""
    document = json_value(_text(b"".join(_chunks(request))), MOST_BYTES)
    for name, value in document.items() if isinstance(document, dict) else []:
        if isinstance(value, bool):
            yield name, "yes" if value else "no"
        elif isinstance(value, str | int | float):
            yield name, str(value)


def _of_lines(request: HttpRequest) -> Fields:
    """Lines of name=value."""
    for line in b"".join(_chunks(request)).splitlines():
        name, _, value = line.partition(b"=")
        yield _text(name), _text(value[:LONGEST])


class Counted:
    """Every request's time, by the pattern of its address, never by the address."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if request.path == ALIVE:  # asks nobody, not even the database
            return health(request)
        begun = perf_counter()
        response = self.get_response(request)
        match = request.resolver_match
        route = match.route if match is not None else "none"
        status = f"{response.status_code // 100}xx"
        SECONDS.labels(route, request.method, status).observe(perf_counter() - begun)
        return response


def health(request: HttpRequest) -> HttpResponse:
    """The process answers. (The middleware does, before anything is asked.)"""
    return HttpResponse("alive\n", content_type="text/plain")
