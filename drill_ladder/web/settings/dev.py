"""The demo and a club's own machine: loopback only, database and secret from `./ladder`."""

import os

from drill_ladder.web.settings.base import *  # noqa: F403
from drill_ladder.web.settings.base import ROOT, pooled

DEBUG = False
ALLOWED_HOSTS = ["127.0.0.1", "localhost", *filter(None, [os.environ.get("LAN_ADDRESS")])]
SECRET_KEY = os.environ.get("SECRET_KEY") or (ROOT / ".data" / "secret_key").read_text().strip()
DATABASES = {"default": pooled(os.environ["DATABASE_URL"])}
