"""Fixtures for the tests that need a database; tests/core has none of them, and needs no Django."""

import inspect
import os
from unittest import mock

import pytest
from django.db import connection, transaction
from django.test import Client, TransactionTestCase
from django.utils import timezone
from whitenoise import WhiteNoise

from tests import make
from tests.emptying import Emptying
from tests.season import play_season


@pytest.fixture
def w(db):
    """A club with a coach, an assistant, a player and a ladder of three rungs."""
    return make.world()


@pytest.fixture
def other(db):
    """Another club."""
    return make.world("Other Side")


@pytest.fixture
def coach(w):
    """A browser without scripts, signed in as the club's coach."""
    client = Client()
    client.force_login(w.coach.user)
    return client


@pytest.fixture
def today():
    """The day at the club."""
    return timezone.localdate()


@pytest.fixture(scope="module")
def once(django_db_setup, django_db_blocker):
    """A place for what a module's tests all stand on and is dear to make: made once, and rolled
    back after the last of them. What a test itself changes is taken back as ever.
    """
    with django_db_blocker.unblock(), transaction.atomic():
        yield
        transaction.set_rollback(True)


@pytest.fixture
def season(w, today):
    """A hand-made season of the player, the last day yesterday."""
    return play_season(w, today)


# reckoning with weeks and weekdays: run on all kinds of days by CI (`./ladder test --days`)
BY_THE_WEEK = {
    *("test_weeks", "test_weeks_caution", "test_this_week", "test_paper", "test_paper_in"),
    *("test_one_dose", "test_run_through", "test_begins", "test_covering", "test_planning"),
}


def mark_days(items):
    """Mark what depends on which day it is: what asks for today, in the modules named above; in all
    of them with DAYS=all, which takes hours.
    """
    every = os.environ.get("DAYS") == "all"
    sources = {module: inspect.getsource(module) for module in {i.module for i in items}}
    for item in items:
        named = every or item.module.__name__.rpartition(".")[2] in BY_THE_WEEK
        asks = "localdate" in sources[item.module] or {"today", "season"} & set(item.fixturenames)
        if named and asks:
            item.add_marker(pytest.mark.days)


@pytest.fixture(scope="session", autouse=True)
def _static_files_once():
    """Every new client of Django's builds the whole chain of middleware, in which whitenoise looks
    at each static file anew: that was more than half of the time of tests that ask for pages.
    """
    kept = {}
    look = WhiteNoise.update_files_dictionary

    def once(self, root, prefix):
        if (root, prefix) not in kept:
            before = set(self.files)
            look(self, root, prefix)
            kept[root, prefix] = {url: self.files[url] for url in self.files.keys() - before}
        self.files.update(kept[root, prefix])

    with mock.patch.object(WhiteNoise, "update_files_dictionary", once):
        yield


@pytest.fixture(scope="session", autouse=True)
def _small_practice_club():
    """A practice club has nobody where a test does not ask for players: each lives through twelve
    weeks, and whoever walks through every address makes one.
    """
    with mock.patch("drill_ladder.demo.practice.STORIES", ()):
        yield


@pytest.fixture(scope="session", autouse=True)
def _emptied_between_tests(django_db_setup, django_db_blocker):
    """Tables are emptied between tests, now and then by TRUNCATE, which the trail refuses
    (tests/db/test_records switches that on again).
    """
    with django_db_blocker.unblock(), connection.cursor() as cursor:
        # nothing is made where no test of the run asks for a database
        cursor.execute("ALTER TABLE IF EXISTS history_event DISABLE TRIGGER history_no_truncate")
    with mock.patch.object(TransactionTestCase, "_fixture_teardown", Emptying()):
        yield
