"""The picture of the house, made of what is imported: docs/house.svg.

Floors from the roof down as pyproject.toml holds them, in each app its rooms; beside every app and
wing a dot under each that it stands on. A dot left of the stairs would be an arrow upwards.

Usage: scripts/house.py [--check]
"""

import sys
import tomllib
from collections.abc import Iterator
from html import escape
from pathlib import Path

import grimp

ROOT = Path(__file__).resolve().parents[1]
PICTURE = ROOT / "docs" / "house.svg"
NO_ROOMS = {"migrations", "management", "templatetags"}
ROW, LEFT, NAME, DOT = 26, 16, 150, 22  # px: a row, the margin, a name, a column of dots
HEAD = 150  # px above the first row, for the names of the columns
STYLE = """text{font:13px system-ui,sans-serif;fill:#1d2733}.room{font-size:12px;fill:#4a5765}
.floor{font-weight:600}rect{fill:#f4f6f8;stroke:#c6ced6}circle{fill:#1f6f6b}path{stroke:#d8dee4;fill:none}"""


def floors() -> list[str]:
    """Every part of the house, the roof first: layers inside layers, as the contracts say."""
    contracts = tomllib.loads((ROOT / "pyproject.toml").read_text())["tool"]["importlinter"][
        "contracts"
    ]
    layers = {c["containers"][0]: c["layers"] for c in contracts if c["type"] == "layers"}
    return list(_unfolded("drill_ladder", layers))


def _unfolded(name: str, layers: dict[str, list[str]]) -> Iterator[str]:
    if name not in layers:
        yield name
        return
    for layer in layers[name]:
        for part in layer.split("|"):
            yield from _unfolded(f"{name}.{part.strip()}", layers)


def rooms(part: str) -> list[str]:
    """The rooms of an app."""
    folder = ROOT / part.replace(".", "/")
    found = [p.parent.name for p in folder.glob("*/__init__.py") if p.parent.name not in NO_ROOMS]
    return sorted(found) if ".apps." in part else []


def stands_on(parts: list[str]) -> set[tuple[str, str]]:
    """Which part imports from which."""
    graph = grimp.build_graph("drill_ladder")
    owner = {module: _owner(module, parts) for module in graph.modules}
    arrows = {
        (owner[one], owner[other])
        for one in graph.modules
        for other in graph.find_modules_directly_imported_by(one)
    }
    return {(one, other) for one, other in arrows if one != other and one and other}


def _owner(module: str, parts: list[str]) -> str:
    return max((p for p in parts if f"{module}.".startswith(f"{p}.")), key=len, default="")


def picture() -> str:
    """The SVG, with words for whoever does not see it."""
    parts = floors()
    arrows = stands_on(parts)
    at = {part: HEAD + 20 + ROW * number for number, part in enumerate(parts)}
    first = LEFT + NAME + 10
    height, width = HEAD + 40 + ROW * len(parts), first + DOT * len(parts) + 520
    lines = [_row(part, at[part], parts, arrows, first) for part in parts]
    heads = [_head(part, first + DOT * number + DOT / 2) for number, part in enumerate(parts)]
    stairs = "".join(f"V{at[p] + ROW / 2:g}h{DOT}" for p in parts)
    title = "The house: floors from the roof down; a dot says on which others a part stands"
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width} {height}" role="img">'
        f"<title>{title}</title><style>{STYLE}</style>"
        f'<rect x="0" y="0" width="{width}" height="{height}" rx="8" style="fill:#fff"/>'
        f'<text x="{LEFT}" y="24" class="room">{title}</text>'
        f'<path d="M{first} {at[parts[0]] - ROW / 2:g}{stairs}"/>\n'
        + "\n".join(heads + lines)
        + "\n</svg>\n"
    )


def _name(part: str) -> str:
    return escape(part.removeprefix("drill_ladder.").removeprefix("apps.").replace("_", " "))


def _head(part: str, x: float) -> str:
    return (
        f'<text x="{x:g}" y="{HEAD}" class="room" transform="rotate(-60 {x:g} {HEAD})">'
        f"{_name(part)}</text>"
    )


def _row(part: str, y: int, parts: list[str], arrows: set[tuple[str, str]], first: int) -> str:
    dots = [
        f'<circle cx="{first + DOT * number + DOT / 2:g}" cy="{y}" r="4">'
        f"<title>{escape(part)} stands on {escape(other)}</title></circle>"
        for number, other in enumerate(parts)
        if (part, other) in arrows
    ]
    inside = " · ".join(room.replace("_", " ") for room in rooms(part))
    beside = first + DOT * len(parts) + 14
    return (
        f'<text x="{LEFT}" y="{y + 4}" class="floor">{_name(part)}</text>'
        f'<path d="M{first} {y}h{DOT * len(parts)}"/>{"".join(dots)}'
        f'<text x="{beside}" y="{y + 4}" class="room">{escape(inside)}</text>'
    )


def main() -> int:
    """Write the picture; with --check say whether it is the one of now."""
    drawn = picture()
    if "--check" in sys.argv:
        current = PICTURE.exists() and PICTURE.read_text() == drawn
        print("" if current else "docs/house.svg is not of now: scripts/house.py draws it.")
        return 0 if current else 1
    PICTURE.write_text(drawn)
    return 0


if __name__ == "__main__":
    sys.path.insert(0, str(ROOT))
    sys.exit(main())
