"""What a club's learning model knows, as documents: rounded to what anybody could use."""

from typing import Any

import numpy as np

from drill_ladder.core.looking_back import Interval, Known
from drill_ladder.formats.reading import Kept
from drill_ladder.formats.shapes import listed, number, optional, record, whole

DIGITS = 6
Doc = dict[str, Any]


def _known_document(known: Known) -> Doc:
    return {
        "players": known.players,
        "mean": [round(float(x), DIGITS) for x in known.mean],
        "covariance": [[round(float(x), DIGITS) for x in row] for row in known.covariance],
        "noise": [round(x, DIGITS) for x in known.noise],
        "freedom": known.freedom,
    }


def _to_known(doc: Doc) -> Known:
    mean, covariance = np.array(doc["mean"]), np.array(doc["covariance"])
    return Known(doc["players"], mean, covariance, tuple(doc["noise"]), doc["freedom"])


_NUMBERS = listed(number(None))
KNOWN: Kept[Known] = Kept(
    record(
        players=whole(1),
        mean=_NUMBERS,
        covariance=listed(_NUMBERS),
        noise=optional(listed(number(0)), []),
        freedom=optional(number(1), 30.0),
    ),
    _to_known,
    _known_document,
)
STEPS: Kept[tuple[Interval, ...]] = Kept(
    listed(record(value=number(None), low=number(None), high=number(None))),
    lambda docs: tuple(Interval(**doc) for doc in docs),
    lambda steps: [
        {
            "value": round(s.value, DIGITS),
            "low": round(s.low, DIGITS),
            "high": round(s.high, DIGITS),
        }
        for s in steps
    ],
)
