"""Wrong secrets are counted by where they come from; right ones never are."""

from allauth.account.adapter import get_adapter
from allauth.core.ratelimit import respond_429
from django.core.cache import cache
from django.http import Http404, HttpRequest, HttpResponse

GUESSES, MINUTE = 30, 60  # wrong secrets a minute from one place


def too_many_wrong(request: HttpRequest) -> bool:
    """Count one more wrong secret from this place; whether there are too many of them now."""
    place = f"wrong-links:{get_adapter().get_client_ip(request)}"
    tried = int(cache.get(place, 0)) + 1
    cache.set(place, tried, MINUTE)
    return tried > GUESSES


def wrong_secret(request: HttpRequest) -> HttpResponse:
    """The answer to one: 404, or, for whoever tries many, 429."""
    if too_many_wrong(request):
        response: HttpResponse = respond_429(request)
        return response
    raise Http404
