"""What goes on beside the ladders in today's hall, as its devices hold it: stations with their
clock, and test days with their protocol.
"""

from collections.abc import Sequence
from datetime import date
from typing import Any

from drill_ladder.apps.floor.models import Battery, GroupSession, Protocol, Sides, Trial
from drill_ladder.apps.floor.stations import in_sight, names_in, rotation, where
from drill_ladder.apps.floor.test_days import SIDES, least_of, most_of, steps_of, tested
from drill_ladder.apps.people.models import Club

Document = dict[str, Any]


def stations_of(club: Club, on: date) -> list[Document]:
    """Today's group sessions, the latest first: who is where in each slot still to be run."""
    sessions = in_sight(club, GroupSession.objects.of_club(club).on_day(on))
    return [_stations(session) for session in sessions]


def _stations(session: GroupSession) -> Document:
    slots = where(session, rotation(session), names_in(session))
    return {
        "id": session.pk,
        "title": session.title,
        "slot_s": session.slot_s,
        "change_s": session.change_s,
        "turn_reps": session.turn_reps,
        "slots": [
            {
                "n": slot.number,
                "rest": slot.rest,
                "stations": [
                    {
                        "name": name,
                        "drill": session.drills.get(name),
                        "places": [
                            {
                                "player": place.player,
                                "role": place.role,
                                "works": place.works,
                                "feeder": place.feeder,
                            }
                            for place in there
                        ],
                    }
                    for name, there in slot.stations.items()
                ],
            }
            for slot in slots
        ],
    }


def trial_days_of(club: Club, on: date) -> list[Document]:
    """Today's test days that nobody has finished, with what was measured so far."""
    days = list(Battery.objects.of_club(club).open_on(on).with_tests())
    done = Trial.objects.of_club(club).of_days(days)
    return [_test_day(day, [trial for trial in done if trial.battery_id == day.pk]) for day in days]


def _test_day(day: Battery, done: Sequence[Trial]) -> Document:
    return {
        "id": day.pk,
        "title": day.title,
        "players": day.players,
        "tests": [_test(protocol) for protocol in day.protocols.all()],
        "done": [
            {
                "id": str(trial.uid),
                "test": trial.protocol_id,
                "player": trial.player_id,
                "side": trial.side,
                "value": trial.value,
                "at": trial.at.isoformat(),
            }
            for trial in done
        ],
    }


def _test(protocol: Protocol) -> Document:
    measure = protocol.measure
    return {
        "id": protocol.pk,
        "title": protocol.title,
        "kind": measure.kind,
        "higher": measure.higher_is_better,
        "trials": protocol.trials,
        "attempts": protocol.attempts,
        "score_by": protocol.score_by,
        "rest": protocol.rest_s,
        "own": protocol.sides == Sides.OWN,
        "sides": list(SIDES[protocol.sides]),
        "most": most_of(protocol),
        "least": least_of(protocol),
        "label": tested(protocol).label,
        "whole": tested(protocol).whole,
        "steps": steps_of(protocol),
        "counts": protocol.counts,
        "ends": protocol.ends,
    }
