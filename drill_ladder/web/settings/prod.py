"""Behind a proxy with HTTPS; everything secret comes from the environment (docs/deploy.md)."""

import os

from drill_ladder.web.settings.base import *  # noqa: F403
from drill_ladder.web.settings.base import pooled

DEBUG = False
ALLOWED_HOSTS = os.environ["ALLOWED_HOSTS"].split(",")
SECRET_KEY = os.environ["SECRET_KEY"]
DATABASES = {"default": pooled(os.environ["DATABASE_URL"])}
# how many proxies stand before it: the sign-in limit then counts the real client
ALLAUTH_TRUSTED_PROXY_COUNT = int(os.environ.get("TRUSTED_PROXIES", "1"))
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
SECURE_SSL_REDIRECT = True
SECURE_HSTS_SECONDS = 31536000
SESSION_COOKIE_SECURE = True
CSRF_COOKIE_SECURE = True
CSRF_TRUSTED_ORIGINS = [f"https://{host}" for host in ALLOWED_HOSTS]
