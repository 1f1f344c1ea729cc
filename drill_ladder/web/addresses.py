"""The table of all addresses: what serves each, and who may come in. `scripts/addresses` writes it
to docs.
"""

import sys
from collections.abc import Iterator
from functools import partial
from inspect import getsourcefile, unwrap
from pathlib import Path
from typing import Any

from django.urls import URLPattern, get_resolver

ROOT = Path(__file__).resolve().parents[2]
HEAD = """# Addresses

Which code serves which address, and who may come in: anybody, a member of a club, a coach, the
owner, or whoever has the secret link. Written by `scripts/addresses`; a test fails while it is not
current.

| address | name | code | who |
|---|---|---|---|
"""


def rows(
    patterns: Any = None, before: str = "", space: str = ""
) -> Iterator[tuple[str, str, str, str]]:
    """(address, name, file and function, who), in the order in which they are tried."""
    for pattern in get_resolver().url_patterns if patterns is None else patterns:
        address = f"{before}{pattern.pattern}".replace("^", "").replace("$", "")
        if isinstance(pattern, URLPattern):
            yield (
                f"/{address}",
                f"{space}{pattern.name}",
                _code(pattern.callback),
                _who(pattern.callback),
            )
        else:
            inner = f"{space}{pattern.namespace}:" if pattern.namespace else space
            yield from rows(pattern.url_patterns, address, inner)


def _code(view: Any) -> str:
    plain = getattr(view, "view_class", None) or unwrap(view)
    if isinstance(plain, partial):  # the root of the open door
        plain = plain.func
    file = Path(getsourcefile(plain) or "")
    place = (
        file.relative_to(ROOT)
        if file.is_relative_to(ROOT / "drill_ladder")
        else Path(plain.__module__)
    )
    return f"`{place}` {plain.__name__}"


def _who(view: Any) -> str:
    if getattr(view, "__module__", "").startswith(SIGNED_IN) and "authenticate" not in str(view):
        return "whoever is signed in"
    return {
        "account": "whoever is signed in",
        "member": "member",
        "coach": "coach",
        "owner": "owner",
        "link": "secret link",
        "moved": "an old secret link",
        "token": "a token",
    }.get(getattr(view, "access", "token" if _by_token(view) else ""), "anybody")


def _by_token(view: Any) -> bool:
    """Whether it is an address of the open door, which asks for a token."""
    return getattr(view, "__qualname__", "").startswith("PathView.")


def table() -> str:
    """The whole page."""
    return HEAD + "".join(f"| {' | '.join(row)} |\n" for row in rows())


if __name__ == "__main__":
    import django

    django.setup()
    sys.stdout.write(table())
