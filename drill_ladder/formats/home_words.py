"""What a home allows, in words: why a drill cannot be done there, and the way out."""

from drill_ladder.core.planning import AtHome

BARRED = "not allowed at home"
LACKS = {"surface": "suitable ground", "space": "space for it"}
NEEDS = {
    "wall": "a wall",
    "feeder": "a feeder",
    "adult": "an adult",
    "surface": "suitable ground",
    "space": "more space",
}


def why_not(home: AtHome) -> str:
    """Why nothing is possible at home."""
    lacking = [LACKS.get(name, name) for name in home.lacking if name != BARRED]
    return (
        f"at home there is no {', no '.join(lacking)}"
        if lacking
        else "the drill is for coached sessions only"
    )


def way_out(home: AtHome) -> str:
    """What would help where nothing is possible at home."""
    if BARRED in home.lacking:
        return "Prescribe it for coached sessions."
    if home.lacking == ("space",) and home.scale:
        return (
            f"It fits at {home.scale * 100:.0f}\u00a0% of its size: allow it smaller for this "
            "player, or prescribe it for coached sessions."
        )
    if not home.nearest:
        return "Write a solo version for the drill, or prescribe it for coached sessions."
    needs = " and ".join(NEEDS.get(name, name) for name in home.nearest_lacks)
    return (
        f"“{home.nearest}” would do with {needs}: note it on the player's page if it is there, or "
        "prescribe it for "
        "coached sessions."
    )
