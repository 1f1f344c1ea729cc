"""Fill, ask alone and beside others, compare; see the package.

Usage: python -m scripts.bounds [--write]
"""

import os
import sys
from pathlib import Path

import django

sys.path.insert(0, str(Path(__file__).resolve().parents[2]))
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "drill_ladder.web.settings.dev")
django.setup()

from django.core.management import call_command
from django.test import override_settings
from django.utils import timezone

from scripts.bench_large import own_database
from scripts.bounds.asking import Asked, everything
from scripts.bounds.faults import seeded
from scripts.bounds.pages import Scene
from scripts.bounds.reading import sizes
from scripts.bounds.rule import broken
from scripts.bounds.table import put_into_docs
from scripts.fill import fill
from scripts.fill.copying import copies

NAME = "bounds"
PLAYERS, DAYS, BESIDE = 16, 364, 2  # clubs


def main(write: bool) -> int:
    """1 where a page or a method reads what it should not, or a seeded fault was not found."""
    today = timezone.localdate()
    with own_database(NAME, demo=False), override_settings(ALLOWED_HOSTS=["*"]):
        call_command("collectstatic", interactive=False, verbosity=0)
        _say("a club is filled")
        coach = fill("Alone", PLAYERS, DAYS, today)
        at = Scene(coach, today)
        _say("asked alone")
        alone = everything(at)
        _say("two others are put beside it")
        copies(coach.club, 1, BESIDE)
        large = sizes(coach.club_id)
        _say("asked beside them")
        beside = everything(at)
        wrong = broken(at, alone, beside, large)
        _say("ten faults are put in, one by one")
        unseen = seeded(at, alone, beside, large)
        if write:
            put_into_docs(at, alone, beside, large)
    for line in [*wrong, *(f"not found: a seeded fault, {name}" for name in unseen)]:
        print(line)
    _say(_summary(beside, wrong, unseen))
    return int(bool(wrong or unseen))


def _summary(beside: Asked, wrong: list[str], unseen: list[str]) -> str:
    found = f"{len(beside.pages)} pages and {len(beside.methods)} methods asked"
    return f"{found}; {len(wrong)} read too much; of ten seeded faults {10 - len(unseen)} found"


def _say(line: str) -> None:
    print(f"  bounds: {line}", file=sys.stderr, flush=True)


if __name__ == "__main__":
    sys.exit(main("--write" in sys.argv[1:]))
