"""The line to open halls, served as in production: uvicorn, at a port of its own."""

import socket
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from time import monotonic, sleep

import uvicorn

from drill_ladder.web.live import LINE, application


@contextmanager
def served() -> Iterator[str]:
    """Its address, while it is served."""
    LINE.listens = False
    bound = socket.socket()
    bound.bind(("127.0.0.1", 0))
    config = uvicorn.Config(application, log_level="error", timeout_graceful_shutdown=1)
    server = uvicorn.Server(config)
    thread = threading.Thread(target=server.run, kwargs={"sockets": [bound]}, daemon=True)
    thread.start()
    _until(lambda: server.started and LINE.listens)
    try:
        yield f"http://127.0.0.1:{bound.getsockname()[1]}/floor/live/"
    finally:
        server.should_exit = True
        thread.join(10)
        LINE.ears.clear()
        bound.close()


def _until(holds, most=10):
    ends = monotonic() + most
    while not holds():
        assert monotonic() < ends
        sleep(0.02)
