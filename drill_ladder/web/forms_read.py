"""A form can never be too large to hold a report of hurt.

Django refuses a form of too many fields or bytes as a whole. Where a view says that its form may
hold a report (`holds_report`), what is too much is left aside, and the few fields that matter are
read however far behind they stand.
"""

from collections.abc import Callable, Iterator
from typing import Any
from urllib.parse import unquote_plus

from django.core.exceptions import RequestDataTooBig, TooManyFieldsSent
from django.http import HttpRequest, HttpResponse, QueryDict
from django.utils.datastructures import MultiValueDict

from drill_ladder.formats.reading import whole
from drill_ladder.web.errors import too_large

KEPT = frozenset(
    {b"csrfmiddlewaretoken", b"session_id", b"hurts", b"hurt_where", b"what", b"player"}
)
CHUNK, LONGEST = 65_536, 65_536  # bytes read at once, and of one field
MOST_BYTES = 6_000_000  # of an upload: the largest file, and the same again as text in a form


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
            try:
                request.POST  # noqa: B018  reading it is what raises
            except (TooManyFieldsSent, RequestDataTooBig):
                _keep_what_matters(request)
        elif _length(request) > MOST_BYTES:
            return too_large(request, MOST_BYTES)
        return None


def _keep_what_matters(request: HttpRequest) -> None:
    kept = QueryDict(mutable=True)
    for name, value in _fields(_chunks(request)):
        kept[name] = value
    kept._mutable = False
    request._post, request._files = kept, MultiValueDict()  # type: ignore[attr-defined]
    request.form_cut = True  # type: ignore[attr-defined]


def _chunks(request: HttpRequest) -> Iterator[bytes]:
    """The body, from memory where it was read already, else as it comes."""
    if hasattr(request, "_body"):
        yield from (request._body[i : i + CHUNK] for i in range(0, len(request._body), CHUNK))
        return
    left = _length(request)
    while left > 0 and (chunk := request.read(min(CHUNK, left))):
        left -= len(chunk)
        yield chunk


def _length(request: HttpRequest) -> int:
    """The bytes that are announced; no more of them are read."""
    return whole(request.META.get("CONTENT_LENGTH", ""), 0, 2**62) or 0


def _fields(chunks: Iterator[bytes]) -> Iterator[tuple[str, str]]:
    """The fields that matter of a form that comes in pieces; one that is endless is cut."""
    rest = b""
    for chunk in chunks:
        *whole, rest = (rest + chunk).split(b"&")
        for part in whole:
            yield from _field(part)
        rest = rest[:LONGEST]
    yield from _field(rest)


def _field(part: bytes) -> Iterator[tuple[str, str]]:
    name, _, value = part.partition(b"=")
    if name in KEPT:
        yield name.decode(), unquote_plus(value.decode("ascii", "replace"), errors="replace")
