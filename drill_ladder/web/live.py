"""The line to open halls: whoever has one open is told at once that something was tapped or that
somebody was hurt, and asks for it then; nobody has to ask again and again.

A process of its own beside the web server, as thousands of lines are open and nearly always still:
one connection to the database listens for all of them (docs/decisions/018). What it tells is a
number and no more: the highest of the new taps, or 0 for anything else. Without it halls look for
themselves, now and then.
"""

import asyncio
from collections import defaultdict
from collections.abc import Awaitable, Callable, Iterator
from contextlib import contextmanager
from http.cookies import CookieError, SimpleCookie
from importlib import import_module
from typing import Any
from urllib.parse import urlsplit

import django

django.setup()

from asgiref.sync import sync_to_async  # noqa: E402
from django.conf import settings  # noqa: E402
from django.contrib.auth import get_user  # noqa: E402
from django.db import connections  # noqa: E402
from django.http import HttpRequest  # noqa: E402
from django.http.request import validate_host  # noqa: E402
from psycopg import AsyncConnection, Error  # noqa: E402
from psycopg.conninfo import make_conninfo  # noqa: E402

from drill_ladder.apps.people.access import CHOSEN_CLUB, choose_club, membership_of  # noqa: E402

CHANNEL = "hall"
STILL_S = 20  # between two signs of life, so that nothing on the way takes the line for dead
AGAIN_S = 600  # then it is opened anew, and whoever is signed out meanwhile stays out
RETRY_S = 2  # until the database is asked again
MOST = 200  # lines of one club
ANYTHING = 0  # something that has no number

Message = dict[str, Any]
Receive = Callable[[], Awaitable[Message]]
Send = Callable[[Message], Awaitable[None]]


class Line:
    """Who listens, club by club, and the one connection that hears for all of them."""

    def __init__(self) -> None:
        self.ears: dict[int, set[asyncio.Queue[int]]] = defaultdict(set)
        self.task: asyncio.Task[None] | None = None
        self.listens = False

    @contextmanager
    def ear(self, club: int) -> Iterator[asyncio.Queue[int]]:
        """What is told to a club from now on."""
        own: asyncio.Queue[int] = asyncio.Queue()
        self.ears[club].add(own)
        try:
            yield own
        finally:
            self.ears[club].discard(own)
            if not self.ears[club]:
                del self.ears[club]

    def tell(self, payload: str) -> None:
        """What the database said: club:number."""
        club, _, number = payload.partition(":")
        for ear in self.ears.get(int(club), ()):
            ear.put_nowait(int(number))

    def tell_all(self) -> None:
        """Something may have been missed."""
        for ears in self.ears.values():
            for ear in ears:
                ear.put_nowait(ANYTHING)

    async def hear(self) -> None:
        """Listen until the process ends; while the database is away, ask again and again."""
        while True:
            try:
                async with await AsyncConnection.connect(_conninfo(), autocommit=True) as heard:
                    await heard.execute(f"LISTEN {CHANNEL}")
                    self.listens = True
                    self.tell_all()
                    async for note in heard.notifies():
                        self.tell(note.payload)
            except (Error, OSError):
                self.listens = False
                await asyncio.sleep(RETRY_S)


def _conninfo() -> str:
    of = settings.DATABASES["default"]
    names = {"dbname": "NAME", "host": "HOST", "port": "PORT", "user": "USER"}
    known = {key: str(of[name]) for key, name in {**names, "password": "PASSWORD"}.items()}
    return make_conninfo("", **{key: value for key, value in known.items() if value})


LINE = Line()


async def application(scope: Message, receive: Receive, send: Send) -> None:
    """What uvicorn serves: GET /floor/live/ of whoever is signed in."""
    if scope["type"] == "lifespan":
        await _live(receive, send)
        return
    if scope["type"] != "http":
        return
    headers = {key.decode("latin-1"): value.decode("latin-1") for key, value in scope["headers"]}
    host = headers.get("host", "")
    if scope["path"] != "/floor/live/" or scope["method"] != "GET":
        await _refuse(send, 404)
        return
    if not validate_host(urlsplit(f"//{host}").hostname or "", settings.ALLOWED_HOSTS):
        await _refuse(send, 400)
        return
    club = await sync_to_async(_club_of)(headers.get("cookie", ""))
    if club is None:
        await _refuse(send, 401)
    elif len(LINE.ears.get(club, ())) >= MOST:
        await _refuse(send, 503)
    else:
        await _tell(club, _shared(headers.get("origin", ""), host), receive, send)


async def _live(receive: Receive, send: Send) -> None:
    while True:
        asked = (await receive())["type"]
        if asked == "lifespan.startup":
            LINE.task = asyncio.ensure_future(LINE.hear())
        elif LINE.task is not None:
            LINE.task.cancel()
        await send({"type": f"{asked}.complete"})
        if asked == "lifespan.shutdown":
            return


def _club_of(cookies: str) -> int | None:
    """The club whose hall somebody may see; None of whoever is not signed in, or no member."""
    try:
        jar = SimpleCookie(cookies)
    except CookieError:
        return None
    cookie = jar.get(settings.SESSION_COOKIE_NAME)
    if cookie is None:
        return None
    request = HttpRequest()
    request.session = import_module(settings.SESSION_ENGINE).SessionStore(cookie.value)
    try:
        user = get_user(request)
        if not user.is_authenticated:
            return None
        member = membership_of(choose_club(user, request.session.get(CHOSEN_CLUB)))
        return None if member is None else int(member.club_id)
    finally:
        connections.close_all()  # a line that is open for minutes holds none


def _shared(origin: str, host: str) -> list[tuple[bytes, bytes]]:
    """Where this process answers at a port of its own, only a page of the same host may read it."""
    of = urlsplit(origin)
    if not origin or of.hostname != urlsplit(f"//{host}").hostname:
        return []
    return [
        (b"access-control-allow-origin", origin.encode("latin-1")),
        (b"access-control-allow-credentials", b"true"),
        (b"vary", b"Origin"),
    ]


async def _refuse(send: Send, status: int) -> None:
    await send({"type": "http.response.start", "status": status, "headers": []})
    await send({"type": "http.response.body", "body": b""})


async def _tell(club: int, shared: list[tuple[bytes, bytes]], receive: Receive, send: Send) -> None:
    headers = [
        (b"content-type", b"text/event-stream; charset=utf-8"),
        (b"cache-control", b"no-store"),
        (b"x-accel-buffering", b"no"),  # a proxy hands on each line as it comes
        *shared,
    ]
    with LINE.ear(club) as ear:
        await send({"type": "http.response.start", "status": 200, "headers": headers})
        await _write(send, f"retry: {1000 * RETRY_S}\n\n")
        gone = asyncio.ensure_future(_gone(receive))
        try:
            await _until(gone, ear, send)
        finally:
            gone.cancel()
    if not gone.done() or gone.cancelled():
        await send({"type": "http.response.body", "body": b""})


async def _until(gone: "asyncio.Future[None]", ear: asyncio.Queue[int], send: Send) -> None:
    clock = asyncio.get_running_loop()
    waits: tuple[asyncio.Future[Any], ...]
    ends, heard = clock.time() + AGAIN_S, asyncio.ensure_future(ear.get())
    try:
        while not gone.done() and clock.time() < ends:
            waits = (gone, heard)
            await asyncio.wait(waits, timeout=STILL_S, return_when=asyncio.FIRST_COMPLETED)
            if heard.done() and not gone.done():
                await _write(send, f"data: {_latest(heard.result(), ear)}\n\n")
                heard = asyncio.ensure_future(ear.get())
            elif not gone.done():
                await _write(send, ": still here\n\n")
    finally:
        heard.cancel()


def _latest(number: int, ear: asyncio.Queue[int]) -> int:
    """Of all that came meanwhile: the highest, or ANYTHING where one has no number."""
    numbers = [number]
    while not ear.empty():
        numbers.append(ear.get_nowait())
    return ANYTHING if ANYTHING in numbers else max(numbers)


async def _write(send: Send, words: str) -> None:
    await send({"type": "http.response.body", "body": words.encode(), "more_body": True})


async def _gone(receive: Receive) -> None:
    while (await receive())["type"] != "http.disconnect":
        pass
