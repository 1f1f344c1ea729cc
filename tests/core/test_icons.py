"""No empty place where an icon is missing: whatever a page names is in the sprite that ships."""

import re
from pathlib import Path

HERE = Path(__file__).parents[2] / "drill_ladder"
SPRITE = HERE / "ui" / "static" / "icons" / "sprite.svg"
NAMED = re.compile(r"""{% icon ["']([a-z0-9-]+)["']""")


def test_every_icon_that_a_template_names_is_there():
    there = set(re.findall(r'id="([a-z0-9-]+)"', SPRITE.read_text()))
    named = {
        (name, page.name)
        for page in HERE.rglob("*.html")
        for name in NAMED.findall(page.read_text())
    }
    assert len(named) > 40
    assert {one for one in named if one[0] not in there} == set()
