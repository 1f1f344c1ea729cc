"""Fixtures for the tests that need a database."""

import pytest

from tests import make


@pytest.fixture
def w(db):
    """A club with a coach, an assistant, a player and a ladder of three rungs."""
    return make.world()


@pytest.fixture
def other(db):
    """Another club."""
    return make.world("Other Side")
