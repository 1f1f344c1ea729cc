"""Who says twice running not to be at ease with a rung has the easier way at once, and a coach is
asked about it: a child that is afraid of the ball does not wait for the desk (docs/methods.md, 23).
"""

from dataclasses import replace
from datetime import date, timedelta

from drill_ladder.apps.practice.judged import decide_stay
from drill_ladder.apps.practice.models import Felt
from drill_ladder.apps.practice.work import feeds_now
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.review.services import FOR_THE_COACH, propose
from drill_ladder.core.coaching import TWICE, Came, uneasy_again
from drill_ladder.core.judging import Advice, Kind, Reason


def ease_where_uneasy(*, stay: Stay, on: date, **_: object) -> None:
    """Ease a rung that has an easier way, and ask the coach; where the feed gets gentler by itself,
    tell the coach so, and where there is neither, that one is needed. What waits for the coach
    about this rung already stays as it is.
    """
    held = Stay.objects.with_player_held().get(pk=stay.pk)
    latest = Felt.objects.last_said(held, TWICE)
    if held.left is not None or held.eased or held.recheck or not uneasy_again(latest):
        return
    found = decide_stay(held, on)
    if found.kind in FOR_THE_COACH or found.kind is Kind.REST:
        return
    reasons = [Reason(Advice.UNEASY, {"last": latest[0]})]
    fed = feeds_now([held], on + timedelta(days=1)).get(held.pk)
    if fed is not None and fed.why is Came.UNEASY:
        softer = [*reasons, Reason(Advice.GENTLER_FEED, {})]
        propose(held, on, replace(found, kind=Kind.STALLED, to=None, reasons=softer))
        return
    if held.rung.ease_note:
        Stay.objects.filter(pk=held.pk).update(eased=True)
        propose(held, on, replace(found, kind=Kind.EASE, to=None, reasons=reasons))
        return
    half = Advice.EASIER_RUNG if held.rung.position == 1 else Advice.HALF_STEP
    propose(
        held, on, replace(found, kind=Kind.STALLED, to=None, reasons=[*reasons, Reason(half, {})])
    )
