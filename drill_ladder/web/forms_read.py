"""A form can never be too large, or of the wrong kind, to hold a report of hurt.

Django refuses a form of too many fields or bytes as a whole, reads none that comes as JSON, and
none in an alphabet that it does not know. Where a view says that its form may hold a report
(`holds_report`), what is too much is left aside, and the few fields that matter are read however
far behind they stand and however they were sent.
"""

import re
from collections.abc import Callable, Iterator
from typing import Any
from urllib.parse import unquote_plus

from django.core.exceptions import (
    BadRequest,
    RequestDataTooBig,
    SuspiciousOperation,
    TooManyFieldsSent,
)
from django.http import HttpRequest, HttpResponse, QueryDict
from django.http.multipartparser import MultiPartParserError
from django.utils.datastructures import MultiValueDict

from drill_ladder.formats.reading import json_value, whole
from drill_ladder.web.errors import too_large

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
