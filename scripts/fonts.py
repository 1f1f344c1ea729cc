"""Fonts as small as screens need them: the weights that are used, Western Europe's letters.

python scripts/fonts.py FOLDER     turns the .woff2 files in it; called by scripts/build
"""

import sys
from pathlib import Path

from fontTools import subset
from fontTools.ttLib import TTFont
from fontTools.varLib import instancer

# weights from and to, by the beginning of a file's name
WEIGHTS = {"atkinson": (400, 700), "bitter": (500, 750)}


def smaller(path: Path) -> None:
    """One file, in its place; the same bytes each time."""
    font = TTFont(path, recalcTimestamp=False)
    options = subset.Options(hinting=False)
    options.layout_features = ["kern", "liga", "tnum", "mark", "mkmk", "ccmp", "locl"]
    options.name_IDs = [1, 2]
    chosen = subset.Subsetter(options)
    chosen.populate(unicodes=font.getBestCmap().keys())
    chosen.subset(font)
    low, high = next(span for name, span in WEIGHTS.items() if path.name.startswith(name))
    axis = next(one for one in font["fvar"].axes if one.axisTag == "wght")
    span = (max(low, axis.minValue), min(high, axis.maxValue))
    font = instancer.instantiateVariableFont(font, {"wght": span})
    font.flavor = "woff2"
    font.save(path)


if __name__ == "__main__":
    for file in sorted(Path(sys.argv[1]).glob("*.woff2")):
        smaller(file)
