"""What fault rounds are played with: processes that are started again, clients that try again."""

import os
import random
import signal
import subprocess
import threading
import time
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from typing import Any

import requests

ROOT = Path(__file__).resolve().parents[1]
PORT = int(os.environ.get("FAULT_PORT", "8177"))
BASE = f"http://127.0.0.1:{PORT}"
PATIENCE_S = 60  # the service has to be back by itself
LOG = open(os.environ.get("FAULT_LOG", os.devnull), "ab")  # noqa: SIM115 (as long as we run)


class Kept:
    """A process that is started again whenever it ends, as systemd does (Restart=always)."""

    def __init__(self, *words: str) -> None:
        self.words, self.over = words, False
        self.starts = 0
        self.start()
        threading.Thread(target=self.watch, daemon=True).start()

    def start(self) -> None:
        """In a session of its own, so that all of it can be killed."""
        self.starts += 1
        self.process = subprocess.Popen(
            self.words, cwd=ROOT, start_new_session=True, stdout=LOG, stderr=LOG
        )

    def watch(self) -> None:
        """Until the end."""
        while not self.over:
            if self.process.poll() is not None and not self.over:
                self.start()
            time.sleep(0.2)

    def kill(self) -> None:
        """All of it, at once, without a word before."""
        with suppress(ProcessLookupError):
            os.killpg(self.process.pid, signal.SIGKILL)

    def kill_one(self, chance: random.Random) -> None:
        """One of its children."""
        listed = Path(f"/proc/{self.process.pid}/task/{self.process.pid}/children")
        with suppress(OSError, IndexError):
            os.kill(int(chance.choice(listed.read_text().split())), signal.SIGKILL)

    def end(self) -> None:
        """For good."""
        self.over = True
        self.kill()
        self.process.wait()


def until_answered(
    ask: Callable[[], requests.Response], good: tuple[int, ...]
) -> requests.Response:
    """Try again until it is answered as it should be. Raises TimeoutError."""
    end = time.monotonic() + PATIENCE_S
    last: Any = None
    while time.monotonic() < end:
        try:
            last = ask()
        except requests.RequestException as error:
            last = error
        else:
            if last.status_code in good:
                return last
        time.sleep(0.15)
    told = f"{last.status_code} {last.text[:300]}" if isinstance(last, requests.Response) else last
    raise TimeoutError(f"not answered in {PATIENCE_S} s: {told}")


class Client:
    """A browser that keeps its cookies and tries again."""

    def __init__(self, first: str) -> None:
        self.web = requests.Session()
        until_answered(lambda: self.web.get(f"{BASE}{first}", timeout=10), (200,))

    def post(self, path: str, data: dict[str, Any], good: tuple[int, ...], **more: Any) -> Any:
        """A form, sent until it is taken."""

        def ask() -> requests.Response:
            token = self.web.cookies.get("csrftoken", "")
            return self.web.post(
                f"{BASE}{path}",
                data | {"csrfmiddlewaretoken": token},
                timeout=10,
                allow_redirects=False,
                **more,
            )

        return until_answered(ask, good)

    def taps(self, taps: list[dict[str, Any]]) -> Any:
        """What a tablet sends."""

        def ask() -> requests.Response:
            token = self.web.cookies.get("csrftoken", "")
            body = {"device": "tablet", "after": 0, "taps": taps}
            head = {"X-CSRFToken": token}
            return self.web.post(f"{BASE}/floor/taps/", json=body, headers=head, timeout=10)

        return until_answered(ask, (200,)).json()
