"""calibration: were the forecasts right as often as they said?"""

from dataclasses import asdict
from typing import Any

from drill_ladder.core.looking_back import calibration_of
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import listed, rate, record, yes_no

INPUT = record(forecasts=listed(record(p=rate(), hit=yes_no())))


def check(doc: Node) -> None:
    """The shape says it all."""


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """Brier scores and ten bins."""
    found = calibration_of([(forecast["p"], forecast["hit"]) for forecast in doc["forecasts"]])
    bins = [{"from": one.from_, **asdict(one)} for one in found.bins]
    for one in bins:
        del one["from_"]
    return {**asdict(found), "bins": bins}
