"""Habits of the house that no linter knows: what a view may do, and what a docstring says."""

import ast
import re
from pathlib import Path

import pytest

from scripts.house import PICTURE, picture

HOUSE = Path(__file__).resolve().parents[2] / "drill_ladder"
VIEWS = sorted(path for path in HOUSE.glob("apps/**/*views.py"))
FILES = sorted(path for path in HOUSE.glob("**/*.py") if "migrations" not in path.parts)
# what is asked of the database by name: visible_to(member), due_on(day), awaiting_review()
BY_HAND = {
    "filter",
    "exclude",
    "annotate",
    "aggregate",
    "order_by",
    "select_related",
    "prefetch_related",
    "distinct",
}


def named(path):
    return str(path.relative_to(HOUSE))


def by_hand(tree):
    """Calls on a queryset that spell a question instead of naming it."""
    calls = [
        node
        for node in ast.walk(tree)
        if isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute)
    ]
    return [f"{call.func.attr}, line {call.lineno}" for call in calls if call.func.attr in BY_HAND]


def views_imported(tree):
    """Views that a module imports."""
    froms = [node for node in ast.walk(tree) if isinstance(node, ast.ImportFrom)]
    modules = [f"{node.module}.{alias.name}" for node in froms for alias in node.names]
    ours = [name for name in modules if name.startswith("drill_ladder.")]
    return [name for name in ours if any(part.endswith("views") for part in name.split("."))]


def crowded(tree):
    """Lines on which a ternary stands inside or beside another one."""
    asked = [node for node in ast.walk(tree) if isinstance(node, ast.IfExp)]
    inside = [
        n.lineno
        for node in asked
        for n in ast.walk(node)
        if n is not node and isinstance(n, ast.IfExp)
    ]
    lines = [node.lineno for node in asked]
    return sorted({line for line in lines if lines.count(line) > 1} | set(inside))


@pytest.mark.parametrize("path", VIEWS, ids=named)
def test_a_view_asks_by_name_and_imports_no_view(path):
    tree = ast.parse(path.read_text())
    assert by_hand(tree) == []
    assert views_imported(tree) == []


@pytest.mark.parametrize("path", FILES, ids=named)
def test_one_ternary_a_statement_and_docstrings_that_say_what_it_is(path):
    tree = ast.parse(path.read_text())
    assert crowded(tree) == []
    kinds = (ast.FunctionDef, ast.ClassDef)
    lazy = [
        n.name
        for n in ast.walk(tree)
        if isinstance(n, kinds) and (ast.get_docstring(n) or "").startswith("The same")
    ]
    assert lazy == []


METHODS = HOUSE.parent / "docs" / "methods.md"


def cited(text):
    """Numbers of the methods that a file cites: "(docs/methods.md, 4 and 5)" gives 4 and 5."""
    runs = re.findall(r"docs/methods\.md,\s+((?:\d+[.\d]*(?:,\s+| and )?)+)", text)
    return {re.match(r"\d+", one)[0] for run in runs for one in re.findall(r"\d[\d.]*", run)}


def test_what_a_docstring_cites_is_in_the_methods():
    there = set(re.findall(r"^## (\d+)", METHODS.read_text(), re.MULTILINE))
    texts = [path.read_text() for path in FILES]
    assert len([text for text in texts if cited(text)]) > 40
    assert set().union(*map(cited, texts)) <= there
    assert cited("x (docs/methods.md, 99 and 5.2)") == {"99", "5"}


# From the ground up: what a file is called says what it is, and it imports nothing above its own
# kind. A model and its questions are one.
KINDS = ["models", "services", "forms", "views", "urls"]
NO_ROOMS = {"migrations", "management", "templatetags"}
APPS = sorted(path for path in HOUSE.glob("apps/**/*.py") if "migrations" not in path.parts)


def module(path):
    name = ".".join(path.relative_to(HOUSE.parent).with_suffix("").parts)
    return name.removesuffix(".__init__")


def modules_imported(tree):
    """Modules that are imported from, and what of them may be a module itself."""
    froms = [node for node in ast.walk(tree) if isinstance(node, ast.ImportFrom)]
    inside = [f"{node.module}.{alias.name}" for node in froms for alias in node.names]
    return [str(node.module) for node in froms] + inside


def is_file(name):
    return (HOUSE.parent / (name.replace(".", "/") + ".py")).exists()


def kind_of(name):
    """How high a module stands by its name: "…stop_forms" is a form; None: of no kind."""
    last = name.rsplit(".", 1)[-1].rsplit("_", 1)[-1]
    last = {"form": "forms", "querysets": "models"}.get(last, last)
    return KINDS.index(last) if last in KINDS else None


def room_of(name):
    """The room that a module stands in: "drill_ladder.apps.practice.stops"; "" for none."""
    parts = name.split(".")
    return ".".join(parts[:4]) if len(parts) > 4 and parts[1] == "apps" else ""


def behind_doors(name, tree):
    """What a module takes out of a room that it does not stand in, past the room's door."""
    if name.endswith(".urls") or ".management." in name:
        return []
    taken = [(m, room_of(m)) for m in modules_imported(tree)]
    shut = [(m, room) for m, room in taken if room and not (name + ".").startswith(room + ".")]
    return [m for m, _ in shut if is_file(m)]


def upwards(name, tree):
    """What a module of an app imports from a kind above its own in that app."""
    own, app = kind_of(name), name.split(".")[:3]
    if own is None:
        return []
    same = [m for m in modules_imported(tree) if m.split(".")[:3] == app]
    ranks = [
        (m, kind_of(m)) for m in same if (HOUSE.parent / (m.replace(".", "/") + ".py")).exists()
    ]
    return [m for m, rank in ranks if rank is not None and rank > own]


@pytest.mark.parametrize("path", APPS, ids=named)
def test_a_room_is_entered_by_its_door_and_no_kind_reaches_up(path):
    tree = ast.parse(path.read_text())
    assert behind_doors(module(path), tree) == []
    assert upwards(module(path), tree) == []


def test_a_room_says_what_it_is():
    doors = [
        path for path in HOUSE.glob("apps/*/*/__init__.py") if path.parent.name not in NO_ROOMS
    ]
    assert len(doors) > 30
    assert [
        named(path) for path in doors if not ast.get_docstring(ast.parse(path.read_text()))
    ] == []


def test_the_picture_of_the_house_is_of_now():
    drawn = picture()
    assert PICTURE.read_text() == drawn
    assert drawn.count("<circle") > 100


def test_the_checks_find_what_they_look_for():
    past = ast.parse("from drill_ladder.apps.practice.stops.services import hear")
    assert behind_doors("drill_ladder.apps.card.today.views", past) == [
        "drill_ladder.apps.practice.stops.services"
    ]
    assert behind_doors("drill_ladder.apps.practice.stops.views", past) == []
    up = ast.parse("from drill_ladder.apps.practice.sessions.forms import SessionForm")
    assert upwards("drill_ladder.apps.practice.sessions.services", up) == [
        "drill_ladder.apps.practice.sessions.forms"
    ]
    assert upwards("drill_ladder.apps.practice.sessions.views", up) == []
    assert by_hand(ast.parse("rows = Player.objects.filter(club=club)")) == ["filter, line 1"]
    assert views_imported(ast.parse("from drill_ladder.apps.weeks import views")) == [
        "drill_ladder.apps.weeks.views"
    ]
    assert crowded(ast.parse("x = 1 if a else 2 if b else 3")) == [1]
    assert crowded(ast.parse("def f():\n    x = 1 if a else 2\n    return 3 if x else 4")) == []
