"""What goes beside the strokes of the hall: tempo, answers to calls, tiredness, turns that are
owed.
"""

from drill_ladder.apps.floor.hall.turns import owed
from drill_ladder.apps.floor.models import FloorTap
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.models import Session
from tests.db.test_hall import stay, tablet  # noqa: F401  (fixtures)
from tests.make import current, drill, ladder, put_on


def test_tempo_answers_and_tiredness_are_stored_with_the_session(stay, tablet):  # noqa: F811
    tablet.send(
        tablet.tap(stay, "tempo", numbers={"share": 0.75}),
        *tablet.strokes(stay, "g" * 10, "left"),
        *tablet.strokes(stay, "g" * 10, "right"),
        tablet.tap(stay, "read", word="hits"),
        tablet.tap(stay, "read", word="correct_leaves"),
        tablet.tap(stay, "tired", on=True),
    )
    session = Session.objects.get()
    assert session.tired
    sets = list(session.sets.order_by("order"))
    assert [one.tempo for one in sets] == [0.75, 0.75]
    assert (sets[-1].reads.hits, sets[-1].reads.correct_leaves) == (1, 1)


def test_who_misses_early_is_owed_turns(w, today, tablet):  # noqa: F811
    """By hand, a cap of 5: Ada holds 5, 5 (10 attempts), Bo misses at once twice (2 attempts): p =
    0.5 of 3, one turn is 1.16 attempts, and 8 are lacking; three more at most.
    """
    alive = drill(w.club, "Stay alive", measure={"kind": "streak", "cap": 5}, lanes=[], faults=[])
    own = ladder(w.club, alive, "Alive", target={"value": 3}, floor=1, dose={"sets": 2})
    for name, strokes in (("Ada", "gggggggggg"), ("Bo", "mm")):
        player = Player.objects.create(club=w.club, name=name, joined_on=today)
        theirs = current(put_on(w, player=player, ladder=own, on=today))
        tablet.send(*tablet.strokes(theirs, strokes))
    assert owed(FloorTap.objects.of_day(w.club, today)) == ["Bo: 3 turns more of Stay alive"]
    runs = sorted(Session.objects.values_list("sets__best_run", flat=True))
    assert runs == [0, 0, 5, 5]
    page = tablet.client.get("/floor/turns/").content.decode()
    assert "Bo: 3 turns more" in page
