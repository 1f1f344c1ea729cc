"""`./ladder ear`: what the phone hears of recordings that were made up, so that the truth is known.

Hits of three kinds in a quiet room, a hall with echo, among voices and in wind, at 20, 10 and 5 dB
over the noise and 0.8 to 4 a second, are played through the hearing. Prints how many were heard,
how many were heard that never were, and how far the moments are off; of the whole set the table is
written into docs/methods.md. Fails where a promise is not kept. With --write FOLDER the recordings
are kept: a WAV file each, and moments.json with their true moments.

Usage: ear.py [RECORDINGS] [--seed N] [--write FOLDER]
"""

import argparse
import json
import sys
from collections.abc import Iterable, Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import asdict, dataclass
from functools import partial
from pathlib import Path
from statistics import mean

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))

from drill_ladder.core.hall import gap_of, matched, moments
from drill_ladder.core.hall.sounds import (
    LOUDNESS,
    PACES,
    PLACES,
    RATE,
    Scene,
    record,
    scenes,
    wav_of,
)

WHOLE, SEED, WITHIN_S = 200, 31, 0.05
# dB over the noise -> (share of hits heard at least, heard that never were at most)
PROMISED = {20: (0.98, 0.01), 10: (0.95, 0.03), 5: (0.85, 0.08)}
METHODS = ROOT / "docs" / "methods.md"
BEGIN, END = "<!-- ear: begin -->", "<!-- ear: end -->"


@dataclass(frozen=True, slots=True)
class Tried:
    """One recording: hits that were, of these heard, heard that never were; off: mean error of the
    moments in ms; learnt: whether the three to learn from were understood.
    """

    scene: Scene
    hits: int
    heard: int
    false: int
    off: float
    learnt: bool
    too_loud: bool


def tried(scene: Scene, folder: Path | None = None) -> Tried:
    """Made up, kept where a folder is given, and heard."""
    made = record(scene)
    if folder is not None:
        (folder / f"{name_of(scene)}.wav").write_bytes(wav_of(made.samples))
    found = moments(made.samples, RATE, gap_of(scene.pace))
    right = matched(made.hits, found.hits, WITHIN_S)
    errors = [min(abs(hit - at) for hit in found.hits) for at in made.hits] if found.hits else []
    near = [error for error in errors if error <= WITHIN_S]
    return Tried(
        scene,
        len(made.hits),
        right,
        len(found.hits) - right,
        1000 * mean(near) if near else 0.0,
        matched(made.learnt, found.learnt, WITHIN_S) == len(made.learnt),
        found.too_loud,
    )


def name_of(scene: Scene) -> str:
    """A file's name without its ending."""
    return f"{scene.kind}-{scene.place}-{scene.loudness:g}dB-{scene.pace:g}-{scene.seed}"


def line(label: str, some: list[Tried]) -> str:
    """One line of the table."""
    hits = sum(one.hits for one in some)
    heard, false = sum(one.heard for one in some) / hits, sum(one.false for one in some) / hits
    off, learnt = mean(one.off for one in some), sum(one.learnt for one in some)
    loud = sum(one.too_loud for one in some)
    return (
        f"| {label} | {len(some)} | {hits} | {100 * heard:.1f} | {100 * false:.1f} | {off:.0f} "
        f"| {learnt} | {loud} |"
    )


def table(all_of: list[Tried]) -> str:
    """Markdown: by loudness, then by place, kind and pace."""
    head = [
        "| at | recordings | hits | heard, % | heard that never were, % | off by, ms "
        "| learnt from the three | too loud said |",
        "|---|---:|---:|---:|---:|---:|---:|---:|",
    ]
    parts = [(f"{db} dB over the noise", lambda s, v=db: s.loudness == v) for db in LOUDNESS]
    parts += [
        (f"{db} dB, {place}", lambda s, v=(db, place): (s.loudness, s.place) == v)
        for db in LOUDNESS
        for place in PLACES
    ]
    parts += [(f"{pace:g} a second", lambda s, v=pace: s.pace == v) for pace in PACES]
    groups = [(label, [one for one in all_of if holds(one.scene)]) for label, holds in parts]
    return "\n".join([*head, *(line(label, some) for label, some in groups if some)])


def broken(all_of: Iterable[Tried]) -> Iterator[str]:
    """The promises that are not kept."""
    rest = list(all_of)
    for loudness, (least, most) in PROMISED.items():
        some = [one for one in rest if one.scene.loudness == loudness]
        hits = sum(one.hits for one in some)
        if hits and sum(one.heard for one in some) < least * hits:
            yield f"At {loudness} dB fewer than {least:.0%} are heard."
        if hits and sum(one.false for one in some) > most * hits:
            yield f"At {loudness} dB more than {most:.0%} are heard that never were."


def main() -> int:
    """Print it; write it, where it is the whole set; 1 where a promise is not kept."""
    about = (__doc__ or "").partition("\n")[0]
    reader = argparse.ArgumentParser(prog="./ladder ear", description=about)
    reader.add_argument("recordings", nargs="?", type=int, default=WHOLE)
    reader.add_argument("--seed", type=int, default=SEED)
    reader.add_argument("--write", type=Path, metavar="FOLDER")
    told = reader.parse_args()
    if told.write is not None:
        told.write.mkdir(parents=True, exist_ok=True)
    asked = list(scenes(told.recordings, told.seed))
    all_of: list[Tried] = []
    with ProcessPoolExecutor() as workers:
        for one in workers.map(partial(tried, folder=told.write), asked, chunksize=4):
            all_of.append(one)
            if len(all_of) % 20 == 0 or len(all_of) == len(asked):
                print(f"{len(all_of)} of {len(asked)} heard", file=sys.stderr, flush=True)
    if told.write is not None:
        moments_of = {name_of(scene): asdict(scene) | true_moments(scene) for scene in asked}
        (told.write / "moments.json").write_text(json.dumps(moments_of, indent=1))
    print(table(all_of))
    if (told.recordings, told.seed) == (WHOLE, SEED):
        text = METHODS.read_text()
        before, after = text.split(BEGIN)[0], text.split(END)[1]
        METHODS.write_text(f"{before}{BEGIN}\n{table(all_of)}\n{END}{after}")
    lines = list(broken(all_of))
    print(*lines, sep="\n", end="\n" if lines else "")
    return int(bool(lines))


def true_moments(scene: Scene) -> dict[str, tuple[float, ...]]:
    """When its hits truly are, seconds."""
    made = record(scene)
    return {"learnt": made.learnt, "hits": made.hits}


if __name__ == "__main__":
    sys.exit(main())
