"""Behind a proxy with HTTPS; everything secret comes from the environment (docs/deploy.md)."""

import os

from django.core.exceptions import ImproperlyConfigured

from drill_ladder.web.settings.base import *  # noqa: F403
from drill_ladder.web.settings.base import pooled

DEBUG = False
ALLOWED_HOSTS = [name.strip() for name in os.environ["ALLOWED_HOSTS"].split(",") if name.strip()]
if not ALLOWED_HOSTS or any("*" in name for name in ALLOWED_HOSTS):
    raise ImproperlyConfigured("ALLOWED_HOSTS names the hosts one by one: * would answer to any.")
SECRET_KEY = os.environ["SECRET_KEY"]
# keys from before: links and second steps made with them still open, new ones take the first
SECRET_KEY_FALLBACKS = os.environ.get("SECRET_KEYS_BEFORE", "").split()
DATABASES = {"default": pooled(os.environ["DATABASE_URL"])}
# how many proxies stand before it: the sign-in limit then counts the real client
ALLAUTH_TRUSTED_PROXY_COUNT = int(os.environ.get("TRUSTED_PROXIES", "1"))
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
SECURE_SSL_REDIRECT = True
SECURE_REDIRECT_EXEMPT = [r"^health/$", r"^ready/$", r"^metrics/$"]
SECURE_HSTS_SECONDS = 31536000
SECURE_HSTS_INCLUDE_SUBDOMAINS = os.environ.get("HSTS_SUBDOMAINS", "yes") == "yes"
SECURE_HSTS_PRELOAD = SECURE_HSTS_INCLUDE_SUBDOMAINS
SESSION_COOKIE_SECURE = True
CSRF_COOKIE_SECURE = True
CSRF_TRUSTED_ORIGINS = [f"https://{host}" for host in ALLOWED_HOSTS]
