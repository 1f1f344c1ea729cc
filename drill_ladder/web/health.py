"""Is it alive, is it ready, how is it: for whoever runs it, and for the proxy before it."""

import os
from collections.abc import Iterator
from functools import cache
from hmac import compare_digest

from django.conf import settings
from django.db import Error, connection
from django.db.migrations.loader import MigrationLoader
from django.db.migrations.recorder import MigrationRecorder
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.utils import timezone
from prometheus_client import CollectorRegistry, Gauge, generate_latest, multiprocess
from prometheus_client.exposition import CONTENT_TYPE_LATEST

from drill_ladder.apps.records.backups import backups, folder
from drill_ladder.formats.words import many

# name -> (what it says, its question): one row of (labels…, number)
ASKED: dict[str, tuple[str, list[str], str]] = {
    "ladder_jobs": (
        "Work in the queue",
        ["status"],
        "SELECT status::text, count(*) FROM procrastinate_jobs GROUP BY 1",
    ),
    "ladder_mails": (
        "Mail in the outbox",
        ["fate"],
        "SELECT fate, count(*) FROM outbox_message GROUP BY 1",
    ),
    "ladder_clubs": ("Clubs", [], "SELECT count(*) FROM people_club"),
    "ladder_sessions_day": (
        "Sessions stored in the last day",
        [],
        "SELECT count(*) FROM practice_session WHERE recorded_at > now() - interval '1 day'",
    ),
    "ladder_database_bytes": (
        "Size of the database",
        [],
        "SELECT pg_database_size(current_database())",
    ),
}


def ready(request: HttpRequest) -> HttpResponse:
    """Requests can be served: the database answers and is of this version. 503 else."""
    try:
        done = MigrationRecorder(connection).migration_qs.filter(name__in=[n for _, n in _last()])
        left = _last() - set(done.values_list("app", "name"))
    except Error:
        return JsonResponse({"ready": False, "why": "no database"}, status=503)
    if left:
        why = f"migrations to do in {many(len(left), 'app')}"
        return JsonResponse({"ready": False, "why": why}, status=503)
    return JsonResponse({"ready": True})


@cache
def _last() -> frozenset[tuple[str, str]]:
    """The last migrations of this version's apps. They are files, the same as long as the process
    lives: to read all of them for every question would cost more than a page.
    """
    return frozenset(MigrationLoader(None).graph.leaf_nodes())


def metrics(request: HttpRequest) -> HttpResponse:
    """Figures for Prometheus, with METRICS_TOKEN as bearer; 401 without."""
    given = request.headers.get("Authorization", "").removeprefix("Bearer ")
    wanted = settings.METRICS_TOKEN
    if not wanted or not compare_digest(given.encode(), wanted.encode()):
        return HttpResponse("A token is needed.\n", status=401, content_type="text/plain")
    text = b"".join(_texts())
    return HttpResponse(text, content_type=CONTENT_TYPE_LATEST)


metrics.access = "token"  # type: ignore[attr-defined]


def _texts() -> Iterator[bytes]:
    registry = CollectorRegistry()
    with connection.cursor() as cursor:
        for name, (words, labels, asked) in ASKED.items():
            gauge = Gauge(name, words, labels, registry=registry)
            cursor.execute(asked)
            for *given, number in cursor.fetchall():
                (gauge.labels(*given) if given else gauge).set(number)
    place = folder()
    if place is not None:
        gauge = Gauge("ladder_backup_age_seconds", "Age of the last good backup", registry=registry)
        rows = backups(place)
        now = timezone.localtime().replace(tzinfo=None)
        gauge.set((now - rows[0][0]).total_seconds() if rows else float("inf"))
    yield generate_latest(registry)
    if "PROMETHEUS_MULTIPROC_DIR" in os.environ:  # several processes count together
        together = CollectorRegistry()
        multiprocess.MultiProcessCollector(together)
        yield generate_latest(together)
    else:
        yield generate_latest()
