"""One address, one context: the whole page, or the fragment that htmx asked for."""

from collections.abc import Sequence
from typing import Any

from django.conf import settings
from django.core.paginator import Page, Paginator
from django.db.models import QuerySet
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django_htmx.middleware import HtmxDetails

from drill_ladder.formats.tables import write_csv, write_xlsx

CSV = "text/csv; charset=utf-8"
SVG = "image/svg+xml; charset=utf-8"
TABLES = ("csv", "xlsx")
XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"

# what a template is given
Context = dict[str, object]


def page_of(request: HttpRequest, rows: QuerySet | Sequence[Any], size: int) -> Page:
    """The page of a long list that ?page= asks for; the nearest one there is for a wrong number."""
    return Paginator(rows, size).get_page(request.GET.get("page"))


def htmx_of(request: HttpRequest) -> HtmxDetails:
    """What htmx says of the request; false when it did not ask."""
    details: HtmxDetails = request.htmx  # type: ignore[attr-defined]
    return details


def page_or_fragment(
    request: HttpRequest, page: str, fragment: str, context: Context, status: int = 200
) -> HttpResponse:
    """Boosted and history-restoring requests want the page."""
    htmx = htmx_of(request)
    wants_fragment = htmx and not htmx.boosted and not htmx.history_restore_request
    return render(request, fragment if wants_fragment else page, context, status=status)


def attachment(data: bytes | str, content_type: str, name: str) -> HttpResponse:
    """A file to keep."""
    response = HttpResponse(data, content_type=content_type)
    response.headers["Content-Disposition"] = f'attachment; filename="{name}"'
    return response


def table_file(header: list[str], rows: list[list[Any]], kind: str, name: str) -> HttpResponse:
    """A table as csv or xlsx."""
    if kind == "xlsx":
        return attachment(write_xlsx(header, rows), XLSX, f"{name}.xlsx")
    # the mark at the front tells spreadsheets that it is UTF-8
    text = "\ufeff" + write_csv(header, rows)
    return attachment(text, CSV, f"{name}.csv")


def public_address(request: HttpRequest, path: str) -> str:
    """An address for paper, QR codes and messages: by the public address of the settings, else as
    it was asked for.
    """
    public = settings.PUBLIC_ADDRESS.rstrip("/")
    return f"{public}{path}" if public else request.build_absolute_uri(path)


def wants_json(request: HttpRequest) -> bool:
    """Whether a script asks, which reads data instead of a page."""
    return "application/json" in request.headers.get("Accept", "")
