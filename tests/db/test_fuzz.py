"""No input breaks it: every form, file, query and path, spoiled by a seeded chance, ends in a
sentence or a page.

500 cases here, 10,000 with `./ladder bench --fuzz`. A case that fails names its number: FUZZ_ONLY=n
runs it alone.
"""

import json
import os
import random
from io import BytesIO

import pytest
from django.apps import apps
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection, transaction
from django.test import Client
from django.utils import timezone
from openpyxl import Workbook
from psycopg import sql

from drill_ladder.apps.library.starter.ladders import starter_document
from drill_ladder.apps.people.models import Membership
from drill_ladder.apps.practice.models import Stop
from tests.db import test_access
from tests.db.test_access import POST_ONLY
from tests.hostile import (
    forms_of,
    spoiled,
    spoiled_book,
    spoiled_document,
    spoiled_file,
    spoiled_path,
    spoiled_query,
)
from tests.make import text

CASES, SEED = int(os.environ.get("FUZZ_CASES", "300")), int(os.environ.get("FUZZ_SEED", "20261126"))
ONLY = os.environ.get("FUZZ_ONLY")
# written whatever becomes of the form: a report of hurt, what was looked at, and who tried a link
ANYHOW = {
    "HurtReport",
    "Stop",
    "Event",
    "Message",
    "MailAddress",
    "Proposal",
    "Session_",
    "OldSecret",
}


def counts():
    """Rows of every table that a refused form must not have changed, asked in one go."""
    tables = {m.__name__: m._meta.db_table for m in apps.get_models() if m.__name__ not in ANYHOW}
    each = [sql.SQL("(SELECT count(*) FROM {})").format(sql.Identifier(t)) for t in tables.values()]
    with connection.cursor() as cursor:
        cursor.execute(sql.SQL("SELECT {}").format(sql.SQL(", ").join(each)))
        return dict(zip(tables, cursor.fetchone(), strict=True))


def roster():
    book = Workbook()
    for row in (
        ["name", "squad", "birth_month", "home_wall"],
        ["Bo Åker", "Under 12", "2014-05", "yes"],
    ):
        book.active.append(row)
    out = BytesIO()
    book.save(out)
    return out.getvalue()


paths = test_access.paths  # the fixture: every address with real arguments


class Fuzz:
    """Sends one spoiled thing after the other, as a coach and as whoever holds a link."""

    def __init__(self, w, addresses):
        self.coach, self.anybody = (
            Client(raise_request_exception=False),
            Client(raise_request_exception=False),
        )
        self.coach.force_login(w.coach.user)
        self.paths, self.link = sorted(addresses.items()), w.token
        self.pages = [path for name, path in self.paths if name not in POST_ONLY]
        self.forms = {}
        self.library, self.roster = starter_document(), roster()

    def client(self, path):
        return (
            self.anybody
            if "/card/" in path or "/calendar/" in path or "/feed/" in path
            else self.coach
        )

    def forms_on(self, path):
        """The forms of a page as it stands now."""
        answer = self.client(path).get(path)
        readable = answer.status_code == 200 and "html" in answer.headers["Content-Type"]
        return forms_of(path, text(answer)) if readable else []

    def one(self, chance):
        """(what was sent, the answer)."""
        kind, (_, path) = chance.randrange(10), chance.choice(self.paths)
        if kind == 0:
            sent = spoiled_path(chance, path)
            return sent, self.client(path).get(sent)
        if kind == 1:
            sent = spoiled_query(chance, path)
            return sent, self.client(path).get(sent)
        if kind == 2:
            return self.upload(chance)
        return self.form(chance)

    def form(self, chance):
        form = chance.choice([form for page in self.pages for form in self.forms[page]])
        sent = spoiled(chance, form.fields)
        headers = {"HX-Request": "true"} if chance.random() < 0.2 else {}
        return (form.action, sent), self.client(form.action).post(
            form.action, sent, headers=headers
        )

    def upload(self, chance):
        if chance.random() < 0.5:
            good = json.dumps(spoiled_document(chance, self.library)).encode()
            data = good if chance.random() < 0.8 else spoiled_file(chance, good)
            path, name = "/library/in/", "library.json"
        else:
            csv = b"name,squad,birth_month\r\nBo,Under 12,2014-05\r\n"
            data = (
                spoiled_file(chance, csv)
                if chance.random() < 0.4
                else spoiled_book(chance, self.roster)
            )
            path, name = "/roster/in/", "roster.xlsx"
        sure = {"sure": "yes"} if chance.random() < 0.5 else {}
        answer = self.coach.post(path, {"file": SimpleUploadedFile(name, data)} | sure)
        return (path, data[:300], sure), answer


@pytest.fixture
def fuzz(w, request):
    # an owner sees every form there is
    Membership.objects.filter(pk=w.coach.pk).update(role="owner")
    found = Fuzz(w, request.getfixturevalue("paths"))
    found.forms = {page: found.forms_on(page) for page in found.pages}
    # while the stop is open the cards show its form; after it has ended, those to log with
    Stop.objects.update(ended_on=timezone.localdate(), cleared_by="physio")
    found.forms = {page: found.forms[page] + found.forms_on(page) for page in found.pages}
    return found


def test_nothing_that_is_sent_breaks_anything(fuzz):
    broken, before = [], counts()
    for number in [int(ONLY)] if ONLY else range(CASES):
        chance = random.Random(f"{SEED} {number}")
        with transaction.atomic():
            sent, answer = fuzz.one(chance)
            if answer.status_code >= 500:
                broken.append(f"{number}: {answer.status_code} for {str(sent)[:400]}")
            elif answer.status_code >= 400:
                connection.check_constraints()
                after = counts()
                half = {name for name in before if before[name] != after[name]}
                if half:
                    broken.append(
                        f"{number}: {answer.status_code}, and yet {half} changed: {str(sent)[:400]}"
                    )
            transaction.set_rollback(True)
    assert not broken, "\n".join([f"seed {SEED}", *broken])
