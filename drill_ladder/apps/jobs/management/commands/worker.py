"""A worker: long work and the night's work, beside the web server. As many as wanted, on as many
machines; each needs the database's address and nothing else.
"""

import logging
from argparse import ArgumentParser

from django.conf import settings
from django.core.management.base import BaseCommand
from procrastinate.contrib.django import app as queue
from procrastinate.contrib.django.django_connector import DjangoConnector


class Command(BaseCommand):
    """Runs until it is told to stop, and then finishes what it has in hand."""

    help = "Do long work and the night's work."

    def add_arguments(self, parser: ArgumentParser) -> None:
        """How long to wait for it at the end."""
        parser.add_argument("--grace", type=int, default=20, help="seconds to finish in")

    def handle(self, *, grace: int, **options: object) -> None:
        """Run."""
        logging.getLogger("procrastinate").setLevel(logging.WARNING)
        connector = queue.connector
        assert isinstance(connector, DjangoConnector)  # noqa: S101  (the queue of this project)
        with queue.replace_connector(connector.get_worker_connector()) as working:
            working.run_worker(
                queues=["jobs"],
                concurrency=2,
                shutdown_graceful_timeout=grace,
                update_heartbeat_interval=settings.WORKER_LOST_S / 4,
                stalled_worker_timeout=settings.WORKER_LOST_S,
            )
