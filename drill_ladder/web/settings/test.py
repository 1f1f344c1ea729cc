"""Tests: a database of their own, quick passwords, the same strictness as production."""

import os

from drill_ladder.web.settings.base import *  # noqa: F403
from drill_ladder.web.settings.base import ROOT, TEMPLATES, database

DEBUG = False
ALLOWED_HOSTS = ["127.0.0.1", "localhost", "testserver"]
SECRET_KEY = "only-for-tests"
# what is asked is bound by the server, as in production: it has to know every type
DATABASES = {
    "default": {
        **database(os.environ["DATABASE_URL"]),
        "CONN_MAX_AGE": 0,
        "OPTIONS": {"server_side_binding": True},
    }
}
STATIC_ROOT = ROOT / ".data" / "static-test"  # a demo that runs beside the tests keeps its files
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]


class MissingVariable(str):
    """A template variable that does not exist fails the test that renders it."""

    def __contains__(self, item: object) -> bool:
        return item == "%s"

    def __mod__(self, other: object) -> str:
        raise AssertionError(f"template variable {other!s} does not exist")


TEMPLATES[0]["OPTIONS"]["string_if_invalid"] = MissingVariable("%s")  # type: ignore[index]

JOBS_INLINE = True
