"""A form that is sent twice, by a double tap or a page sent again, is done once and answered like
the first time.
"""

from collections.abc import Callable
from datetime import timedelta
from functools import wraps
from typing import Any

from django.db import IntegrityError, transaction
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.utils import timezone
from django_htmx.http import HttpResponseClientRedirect

from drill_ladder.apps.history.models import SentForm
from drill_ladder.formats.reading import uuid

View = Callable[..., HttpResponse]
KEPT = timedelta(days=7)


def once(view: View) -> View:
    """A view whose page carries {% form_id %}. It stores and redirects in one transaction, or
    stores nothing.

    A second sending waits for the first one. What was refused may be sent again, mended, by the
    same id.
    """

    @wraps(view)
    def guarded(request: HttpRequest, *args: Any, **kwargs: Any) -> HttpResponse:
        form_id = uuid(request.POST.get("form_id", "")) if request.method == "POST" else None
        if form_id is None:
            return view(request, *args, **kwargs)
        user: Any = request.user
        with transaction.atomic():
            try:
                with transaction.atomic():
                    sent = SentForm.objects.create(pk=form_id, user_id=user.pk)
            except IntegrityError:
                first = SentForm.objects.filter(pk=form_id, user_id=user.pk).first()
                return _again(request, first.answer) if first else view(request, *args, **kwargs)
            response = view(request, *args, **kwargs)
            answer = response.headers.get("Location") or response.headers.get("HX-Redirect")
            if answer is None:
                transaction.set_rollback(True)
                return response
            sent.answer = answer[:500]
            sent.save(update_fields=["answer"])
            SentForm.objects.filter(at__lt=timezone.now() - KEPT).delete()
        return response

    return guarded


def _again(request: HttpRequest, answer: str) -> HttpResponse:
    htmx: Any = getattr(request, "htmx", False)
    return HttpResponseClientRedirect(answer) if htmx else redirect(answer)
