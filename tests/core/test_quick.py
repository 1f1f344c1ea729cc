"""What `./ladder test --quick` would run."""

import runpy
from pathlib import Path

ROOT = Path(__file__).parents[2]
QUICK = runpy.run_path(str(ROOT / "scripts" / "quick_tests.py"))


def names(*paths):
    return [str(file.relative_to(ROOT)) for file in QUICK["touched"](list(paths))]


def test_a_module_leads_to_whoever_names_it():
    found = names("drill_ladder/core/statistics/signs.py", "drill_ladder/core/judging/retention.py")
    assert found[0] == "tests/core/test_practice_design.py"  # names it; the others go by the door
    assert "tests/core/test_days_that_differ.py" in found
    assert "tests/db/test_access.py" not in found


def test_a_test_that_was_changed_comes_first_and_a_template_leads_to_its_app():
    found = names("tests/db/test_help.py", "drill_ladder/apps/floor/templates/floor/hall.html")
    assert found[0] == "tests/db/test_help.py"
    assert "tests/db/test_hall.py" in found
    assert names("README.md") == []
