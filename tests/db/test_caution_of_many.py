"""A caution that is raised asks as many questions for a squad as for one: what grows is what is
told anew, week by week.
"""

from datetime import timedelta

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from drill_ladder.apps.history.models import Event
from drill_ladder.apps.library.drills.services import save_drill
from drill_ladder.apps.library.models import Drill
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.prescriptions.models import Prescription
from drill_ladder.apps.weeks import services as weeks
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.apps.weeks.publishing import publish
from tests.make import put_on


def crowd(w, count, today, told):
    """So many players with home work planned for next week, and told it or not."""
    monday = today - timedelta(days=today.weekday()) + timedelta(days=7)
    for n in range(count):
        player = Player.objects.create(club=w.club, name=f"Player {n}", joined_on=today)
        player.days.create(club=w.club, weekday=0, minutes=20, place="home", adult=True)
        put_on(w, player=player, on=today, place="home")
        weeks.solve(member=w.coach, player=player, monday=monday)
        if told:
            publish(member=w.coach, player=player, monday=monday, at=timezone.now())


def questions(w, **values):
    drill = Drill.objects.get(pk=w.drill.pk)
    with CaptureQueriesContext(connection) as asked:
        save_drill(member=w.coach, drill=drill, values=values, skill="", revision=drill.revision)
    return len(asked)


@pytest.mark.parametrize("count", [1, 6])
def test_as_many_questions_for_six_as_for_one(w, today, count):
    crowd(w, count, today, told=False)
    assert questions(w, caution="coached_only") <= 32
    assert Prescription.objects.exclude(not_at_home="").count() == count
    assert not PlannedBlock.objects.exists()
    assert Event.objects.filter(verb="barred from home").count() == count
    assert questions(w, caution="home_alone") <= 32
    assert not Prescription.objects.exclude(not_at_home="").exists()


def test_each_week_that_was_told_is_told_anew(w, today):
    crowd(w, 5, today, told=True)
    assert questions(w, caution="coached_only") <= 32 + 5 * 5
    assert [week.revision for week in Week.objects.all()] == [2] * 5
    assert all(block.cancelled for week in Week.objects.all() for block in week.published)
