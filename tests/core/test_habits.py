"""Habits of the house that no linter knows: what a view may do, and what a docstring says."""

import ast
from pathlib import Path

import pytest

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


def test_the_checks_find_what_they_look_for():
    assert by_hand(ast.parse("rows = Player.objects.filter(club=club)")) == ["filter, line 1"]
    assert views_imported(ast.parse("from drill_ladder.apps.weeks import views")) == [
        "drill_ladder.apps.weeks.views"
    ]
    assert crowded(ast.parse("x = 1 if a else 2 if b else 3")) == [1]
    assert crowded(ast.parse("def f():\n    x = 1 if a else 2\n    return 3 if x else 4")) == []
