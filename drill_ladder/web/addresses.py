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


# what allauth serves to whoever is signed in
SIGNED_IN = (
    "account_change",
    "account_reauthenticate",
    "usersessions_",
    *(
        f"mfa_{what}"
        for what in ("activate", "deactivate", "index", "reauth", "view", "gen", "down")
    ),
)
# who -> may an assistant, a coach, an owner, whoever has the link, anybody
MAY = {
    "anybody": "yes yes yes yes yes",
    "whoever is signed in": "yes yes yes - -",
    "member": "yes* yes yes - -",
    "coach": "- yes yes - -",
    "owner": "- - yes - -",
    "secret link": "- - - yes -",
    "an old secret link": "- - - yes -",
    "a token": "- - - - -",
}
ACCESS = """# Who may see and do what

Made from the code by `scripts/addresses`; a test fails while it is not current, and another one
asks for every address as every role, as a member of another club and by a closed link.
* An assistant sees the players of their own squads alone. A player has no account: their card, its
calendar, reports and the mail page open by a secret link, each for one player (or one address), and
show nobody else. A token of the open door opens what its scopes name.

| what | address | assistant | coach | owner | by link | anybody |
|---|---|---|---|---|---|---|
"""


def access(patterns: Any = None) -> str:
    """The page about roles."""
    lines = [
        f"| {what} | {address} | {' | '.join(MAY[who].split())} |\n"
        for address, _, _, who, what in rows(patterns)
    ]
    return ACCESS + "".join(lines)


def _what(view: Any) -> str:
    """The first sentence of what the code says of itself."""
    plain = getattr(view, "view_class", None) or unwrap(view)
    told = " ".join((getattr(plain, "__doc__", "") or "").split("\n\n")[0].split())
    ours = getattr(plain, "__module__", "").startswith("drill_ladder")
    return told.replace("|", "/") if ours and told else "signing in and the own account"


def rows(
    patterns: Any = None, before: str = "", space: str = ""
) -> Iterator[tuple[str, str, str, str, str]]:
    """(address, name, file and function, who, what), in the order in which they are tried."""
    for pattern in get_resolver().url_patterns if patterns is None else patterns:
        address = f"{before}{pattern.pattern}".replace("^", "").replace("$", "")
        if isinstance(pattern, URLPattern):
            yield (
                f"/{address}",
                f"{space}{pattern.name}",
                _code(pattern.callback),
                _who(pattern.callback, f"{pattern.name}"),
                _what(pattern.callback),
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


def _who(view: Any, name: str) -> str:
    if name.startswith(SIGNED_IN):
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
    return HEAD + "".join(f"| {' | '.join(row[:4])} |\n" for row in rows())


if __name__ == "__main__":
    import django

    django.setup()
    sys.stdout.write(access() if "--access" in sys.argv else table())
