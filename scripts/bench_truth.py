"""`./ladder bench --truth`: each promise of a screen beside what simulated players of known truth
have seen of it; the table is written into docs/methods.md. Fails where one is not kept.

Usage: bench_truth.py [RUNS] [SEED]
"""

import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))

from tests.promised import Found
from tests.promises import all_of

RUNS, SEED = 800, 27
METHODS = ROOT / "docs" / "methods.md"
BEGIN, END = "<!-- truth: begin -->", "<!-- truth: end -->"


def table(found: list[Found], runs: int, seed: int) -> str:
    """Markdown."""
    head = [
        f"Made by `./ladder bench --truth` ({runs} runs, seed {seed}); it fails where a line is "
        "not kept, by more than three standard errors of so many cases.",
        "",
        "| promise | where it is said | promised | found | cases |",
        "|---|---|---|---:|---:|",
    ]
    rows = [
        f"| {one.promise} | {one.where} | {one.way} {one.promised:.2f} | {one.found:.3f} "
        f"| {one.of} |"
        for one in found
    ]
    return "\n".join([*head, *rows])


def main() -> int:
    """Print it, write it, and say whether all are kept."""
    given = [int(word) for word in sys.argv[1:]]
    runs, seed = (given + [RUNS, SEED][len(given) :])[:2]
    found = all_of(runs, seed, lambda name: print(f"  {name} ...", file=sys.stderr, flush=True))
    made = table(found, runs, seed)
    print(made)
    text = METHODS.read_text()
    before, rest = text.split(BEGIN)
    METHODS.write_text(f"{before}{BEGIN}\n{made}\n{END}{rest.split(END)[1]}")
    broken = [one.promise for one in found if not one.kept]
    for promise in broken:
        print(f"NOT KEPT: {promise}", file=sys.stderr)
    return int(bool(broken))


if __name__ == "__main__":
    sys.exit(main())
