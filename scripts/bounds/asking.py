"""A club is asked for every page, and by every method of its questions."""

from dataclasses import dataclass

from django.db import transaction
from django.test import Client

from scripts.bounds.methods import asked, methods
from scripts.bounds.pages import Page, Scene, pages
from scripts.bounds.reading import Read, as_large, read

OPEN = ("/card/", "/feed/", "/calendar/")


@dataclass(frozen=True)
class Asked:
    """What was read, by the page's name and by the method's."""

    pages: dict[str, Read]
    methods: dict[str, Read]


def everything(at: Scene) -> Asked:
    """Every page once before it counts, as a server has been running for a while."""
    as_large()
    coach = signed_in(at)
    shown = {page.name: shown_once(whoever(coach, page), page) for page in pages(at)}
    return Asked(shown, {f"{m.__name__}.{name}": _of_method(at, m, name) for m, name in methods()})


def signed_in(at: Scene) -> Client:
    """The coach's browser."""
    client = Client()
    client.force_login(at.coach.user)
    return client


def whoever(coach: Client, page: Page) -> Client:
    """The coach, or somebody with the link and no account."""
    return Client() if page.address.startswith(OPEN) else coach


def shown_once(client: Client, page: Page) -> Read:
    """What is read for a page. Raises RuntimeError where it is none."""
    client.get(page.address)
    with read() as found:
        answer = client.get(page.address)
        if answer.streaming:
            for _ in answer.streaming_content:
                pass
    if answer.status_code != 200:
        raise RuntimeError(f"{page.address} answers {answer.status_code}")
    return found


def _of_method(at: Scene, model: type, name: str) -> Read:
    """Whatever it holds or changes is put back."""
    with transaction.atomic():
        found = asked(at, model, name)
        transaction.set_rollback(True)
    return found
