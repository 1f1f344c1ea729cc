"""Which test files a change touches, for `./ladder test --quick`: what differs from the last
commit, or, where nothing does, what the last commit changed. A test file is touched when it was
changed itself or names a changed module; the narrowest first, so that it ends within a minute.

Prints paths, one a line.
"""

import ast
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
MOST_CORE, MOST_DB, MOST_BROWSER = 12, 6, 1


def changed() -> list[str]:
    """Paths from the root."""
    now = _git("status", "--porcelain", "--untracked-files=all")
    paths = [line[3:].rpartition(" -> ")[2] for line in now]
    return paths or _git("diff", "--name-only", "HEAD~1")


def _git(*words: str) -> list[str]:
    done = subprocess.run(["git", *words], cwd=ROOT, check=True, capture_output=True, text=True)
    return [line for line in done.stdout.splitlines() if line]


def modules_of(file: Path) -> set[str]:
    """What a file imports of ours, by full name; names taken out of a module count as below it."""
    found: set[str] = set()
    for node in ast.walk(ast.parse(file.read_text())):
        if isinstance(node, ast.ImportFrom) and node.module:
            found.add(node.module)
            found |= {f"{node.module}.{one.name}" for one in node.names}
    return {name for name in found if name.startswith(("drill_ladder", "tests"))}


def wanted(paths: list[str]) -> tuple[set[str], set[str]]:
    """(Modules that changed, the packages of what is named otherwise: templates, wings)."""
    modules, packages = set(), set()
    for path in paths:
        parts = Path(path).with_suffix("").parts
        if path.endswith(".py"):
            modules.add(".".join(parts).removesuffix(".__init__"))
            if parts[:2] == ("drill_ladder", "core"):  # a wing is entered by its door
                packages.add(".".join(parts[:-1]))
        elif "templates" in parts and parts[0] == "drill_ladder":
            packages.add(".".join(parts[: parts.index("templates")]))
    return modules, packages


def touched(paths: list[str]) -> list[Path]:
    """The test files, those that import least first."""
    modules, packages = wanted(paths)
    scored: list[tuple[int, int, Path]] = []
    for file in sorted((ROOT / "tests").rglob("test_*.py")):
        names = modules_of(file)
        own = str(file.relative_to(ROOT)) in paths
        direct = names & modules
        near = any(name.startswith(f"{package}.") for name in names for package in packages)
        if own or direct or near:
            rank = 0 if own else 2 - bool(direct)
            scored.append((rank, len(names), file))
    return [file for *_, file in sorted(scored, key=lambda one: one[:2])]


def main() -> int:
    """A bounded number of each kind; 1 where a change touches no test."""
    files = touched(changed())
    room = {"core": MOST_CORE, "db": MOST_DB, "browser": MOST_BROWSER}
    told = []
    for file in files:
        kind = file.parent.name
        if room.get(kind, 0) > 0:
            room[kind] -= 1
            told.append(file)
    for file in told:
        print(file.relative_to(ROOT))
    return int(not told)


if __name__ == "__main__":
    sys.exit(main())
