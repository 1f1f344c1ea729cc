"""Starting and stopping: a database in use is never stopped, and a start after kill -9 is clean at
the first try.
"""

import os
import shutil
import signal
import socket
import subprocess
import time
import urllib.request
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]
HOUSE = ROOT / ".data" / f"house-test-{os.environ.get('PYTEST_XDIST_WORKER', 'alone')}"


def free_port():
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        return s.getsockname()[1]


def run(*words, **env):
    return subprocess.run(
        words, cwd=ROOT, env=_env(**env), capture_output=True, text=True, timeout=120, check=False
    )


def _env(**more):
    inherited = {
        key: value
        for key, value in os.environ.items()
        if key not in ("DATABASE_URL", "DJANGO_SETTINGS_MODULE")
    }
    return (
        inherited | {"LADDER_DATA": str(HOUSE), "PG_HOME": str(HOUSE / "pg"), "PG_FAST": "1"} | more
    )


@pytest.fixture(scope="module")
def house():
    """A data folder of its own, with a database that nobody uses."""
    shutil.rmtree(HOUSE, ignore_errors=True)
    assert run("./ladder", "manage", "check").returncode == 0
    yield HOUSE
    run("scripts/pg", "destroy")
    shutil.rmtree(HOUSE, ignore_errors=True)


def is_running():
    return run("scripts/pg", "status").returncode == 0


def test_the_last_one_to_use_the_database_stops_it(house):
    assert not is_running()
    other = subprocess.Popen(
        ["flock", "-s", str(HOUSE / "pg.use"), "sleep", "60"], start_new_session=True
    )
    time.sleep(0.3)
    assert run("./ladder", "manage", "check").returncode == 0
    assert is_running()
    os.killpg(other.pid, signal.SIGKILL)  # whatever ends the other one, the system lets its hold go
    other.wait()
    assert run("./ladder", "manage", "check").returncode == 0
    assert not is_running()


def test_a_start_after_kill_9_is_clean_at_the_first_try(house):
    run("scripts/pg", "start")
    postmaster = int((HOUSE / "pg/data/postmaster.pid").read_text().split()[0])
    children = subprocess.run(
        ["pgrep", "-P", str(postmaster)], capture_output=True, text=True, check=False
    ).stdout.split()
    for pid in [postmaster, *map(int, children)]:
        os.kill(pid, signal.SIGKILL)
    first = run("./ladder", "manage", "check")
    assert first.returncode == 0, first.stderr
    assert not is_running()


def answers(address, deadline):
    """The page's status, once there is one: it is said a moment before anybody listens."""
    while True:
        try:
            with urllib.request.urlopen(address, timeout=20) as page:  # noqa: S310
                return page.status
        except OSError:
            if time.monotonic() > deadline:
                raise
            time.sleep(0.3)


def test_serve_says_how_it_is_reached(house):
    """--lan, here with loopback as the network: the hosts that are allowed, and what it means."""
    port = free_port()
    words = ["./ladder", "serve", "--port", str(port), "--lan"]
    log = HOUSE / "serve.log"
    with log.open("w") as out:
        env = _env(LAN_ADDRESS="127.0.0.1")
        served = subprocess.Popen(
            words, cwd=ROOT, env=env, stdout=out, stderr=out, start_new_session=True
        )
        try:
            deadline = time.monotonic() + 120
            while "Drill Ladder runs at" not in log.read_text() and time.monotonic() < deadline:
                time.sleep(0.2)
            assert answers(f"http://127.0.0.1:{port}/accounts/login/", deadline) == 200
        finally:
            served.terminate()
            served.wait(30)
    said = log.read_text()
    assert f"http://127.0.0.1:{port}/" in said
    assert "what is sent is not encrypted" in said
    assert not is_running()
