"""Tests: a database of their own, quick passwords, the same strictness as production."""

import os

from drill_ladder.web.settings.base import *  # noqa: F403
from drill_ladder.web.settings.base import ROOT, TEMPLATES, pooled

DEBUG = False
ALLOWED_HOSTS = ["127.0.0.1", "localhost", "testserver"]
SECRET_KEY = "only-for-tests"
# as in production: questions are bound, prepared and planned by the server in the same way
os.environ.setdefault("DATABASE_CONNECTIONS", "40")  # races are run by many threads
DATABASES = {"default": pooled(os.environ["DATABASE_URL"])}
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
