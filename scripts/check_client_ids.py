"""Fail where a row is looked for by an id that a device brought, without saying whose it has to be:
whoever guesses or copies an id would have somebody else's row. Models say which of their ids come
from devices (`ids_of_devices`). Needs no database.
"""

import ast
import sys
from collections.abc import Iterator
from pathlib import Path

APPS = Path(__file__).resolve().parents[1] / "drill_ladder" / "apps"
ASKS = {"get", "filter", "get_or_create", "update_or_create", "in_bulk"}
# what says whose a row has to be, as an argument or as a question before it
WHOSE = ("stay", "session", "player", "club", "battery", "device", "user", "stop")
# asked about once it is known that the id is nobody's here, or to find out whether it is
ALLOWED = "ids of others:"


def models_of(trees: dict[Path, ast.Module]) -> dict[str, set[str]]:
    """Model -> names of the columns whose values devices make."""
    found = {}
    for tree in trees.values():
        for node in ast.walk(tree):
            if isinstance(node, ast.ClassDef):
                for line in node.body:
                    named = isinstance(line, ast.Assign) and isinstance(line.targets[0], ast.Name)
                    if named and line.targets[0].id == "ids_of_devices":
                        found[node.name] = set(ast.literal_eval(line.value))
    return found


def chain(node: ast.AST) -> tuple[str, list[tuple[str, list[str]]]]:
    """(Model that a question begins with, its calls with the names of what they are asked by)."""
    calls = []
    while True:
        if isinstance(node, ast.Call):
            if isinstance(node.func, ast.Attribute):
                calls.append((node.func.attr, [word.arg or "" for word in node.keywords]))
            node = node.func
        elif isinstance(node, ast.Attribute):
            node = node.value
        else:
            return (node.id if isinstance(node, ast.Name) else ""), calls


def wrong_in(tree: ast.Module, models: dict[str, set[str]], source: list[str]) -> Iterator[str]:
    """Each line that looks for a row by such an id and does not say whose."""
    for node in ast.walk(tree):
        if not isinstance(node, ast.Call) or not isinstance(node.func, ast.Attribute):
            continue
        model, calls = chain(node)
        if model not in models or node.func.attr not in ASKS:
            continue
        keys = {"pk" if one == "id" else one for one in models[model]} | models[model]
        asked = [name.split("__")[0] for name in calls[0][1]]
        by_id = any(name in keys for name in asked) or node.func.attr == "in_bulk"
        words = [name for call, names in calls for name in (call, *names)]
        narrowed = any(word.startswith(("of_", *WHOSE)) for word in words)
        said = any(ALLOWED in line for line in source[max(0, node.lineno - 3) : node.lineno])
        if by_id and not narrowed and not said:
            yield f"line {node.lineno}: {model}.{node.func.attr} by {', '.join(asked)}"


def found(trees: dict[Path, ast.Module]) -> list[str]:
    """Everything that is wrong, file by file."""
    models = models_of(trees)
    lines = []
    for path, tree in trees.items():
        source = path.read_text().splitlines()
        lines += [f"{path.name}, {line}" for line in wrong_in(tree, models, source)]
    return lines


def trees() -> dict[Path, ast.Module]:
    """Every module of the apps, read."""
    files = (path for path in sorted(APPS.rglob("*.py")) if "migrations" not in path.parts)
    return {path: ast.parse(path.read_text()) for path in files}


if __name__ == "__main__":
    told = found(trees())
    sys.stdout.write("".join(f"{line}: say whose it has to be\n" for line in told))
    sys.exit(1 if told else 0)
