"""A drill as one player is told it: for their hand, at the size that their home has room for."""

from dataclasses import dataclass

from drill_ladder.apps.library.models import Drill, LanesAre, Rung
from drill_ladder.core.plans import FloorPlan, swapped


@dataclass(frozen=True, slots=True)
class ToldDrill:
    """Its words and its floor plan. mirrored: for a left-hander; percent: of its size, None where
    it is set up as it is drawn.
    """

    how: str
    cues: list[str]
    plan: FloorPlan | None
    mirrored: bool
    percent: int | None = None


def told_drill(rung: Rung, left_handed: bool, scale: float | None = None) -> ToldDrill:
    """The drill of a rung. Where left and right are places, they are the same for everybody.
    scale: at which it is set up, None for as it is drawn.
    """
    drill, plan = rung.drill, rung.floor_plan
    mirrored = left_handed and drill.lanes_are == LanesAre.SIDES
    smaller = plan is not None and scale is not None and 0 < scale < 1
    if plan is not None and scale is not None and smaller:
        plan = plan.scaled(scale)
    if plan is not None and mirrored:
        plan = plan.mirrored
    cues = [one_side(drill, cue, left_handed) for cue in drill.cues]
    percent = round(scale * 100) if smaller and scale is not None else None
    return ToldDrill(one_side(drill, drill.how, left_handed), cues, plan, mirrored, percent)


def one_side(drill: Drill, text: str, left_handed: bool) -> str:
    """A line of a drill's for the player's hand."""
    return swapped(text) if left_handed and drill.lanes_are == LanesAre.SIDES else text
