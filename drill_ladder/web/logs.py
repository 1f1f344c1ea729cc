"""Logs without secrets: no token, no name, no note, whatever went wrong on whichever page.

What an error says may hold what somebody typed, so only its type and the places in the code are
written; an address is written as its pattern.
"""

import json
import logging
import re
import traceback
from datetime import UTC, datetime
from typing import Any

SECRET = re.compile(r"[0-9a-z]{1,13}-[0-9a-z]{1,6}-[0-9a-f]{40}")
PLACES = re.compile(r"/(card|calendar|feed|join|mail|password/new)/[^/\s]+")
QUERY = re.compile(r"\?\S+")


def without_secrets(text: str) -> str:
    """A text without what opens a card or a calendar, and without what was asked for."""
    return QUERY.sub("?…", SECRET.sub("<secret>", PLACES.sub(r"/\1/<secret>", text)))


class PrivateFormatter(logging.Formatter):
    """When, how bad, what and where; never with which values."""

    def __init__(self) -> None:
        super().__init__("%(asctime)s %(levelname)s %(name)s: %(message)s")

    def format(self, record: logging.LogRecord) -> str:
        """One record, from a copy of it: other handlers keep theirs."""
        copy = logging.makeLogRecord(record.__dict__)
        copy.msg, copy.args, copy.exc_text = _said(record), (), None
        return super().format(copy)

    def formatException(self, ei: Any) -> str:
        """The types of the errors, and where in the code each came from."""
        told: list[str] = []
        error = ei[1]
        while error is not None:
            told += [
                f"  {f.filename}:{f.lineno} in {f.name}"
                for f in traceback.extract_tb(error.__traceback__)
            ]
            told.append(type(error).__name__)
            error = error.__cause__ or error.__context__
        return "\n".join(told)


class JsonFormatter(PrivateFormatter):
    """One JSON object a line, for a collector; with nothing more in it."""

    def format(self, record: logging.LogRecord) -> str:
        """One record."""
        told = {
            "at": datetime.fromtimestamp(record.created, UTC).isoformat(),
            "level": record.levelname,
            "logger": record.name,
            "message": _said(record),
        }
        if record.exc_info:
            told["error"] = self.formatException(record.exc_info)
        return json.dumps(told)


def _said(record: logging.LogRecord) -> str:
    """What a record says. One about a request names the pattern of its address, not the address."""
    request = getattr(record, "request", None)
    match = getattr(request, "resolver_match", None)
    if request is None or not hasattr(request, "path"):
        return without_secrets(record.getMessage())
    route = match.route if match is not None else "no address of ours"
    return f"{getattr(record, 'status_code', '')} {request.method} {route}"
