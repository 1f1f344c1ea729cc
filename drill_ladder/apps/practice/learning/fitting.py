"""The club's learning model from its record: fitted by the night's work and after fifty new days,
and kept with its date; a decision and every look ahead read what was kept (docs/methods.md, 37).
"""

from collections import Counter, defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta

from django.core.cache import cache
from django.db import transaction

from drill_ladder.apps.library.models import Ladder
from drill_ladder.apps.library.models import Rung as StoredRung
from drill_ladder.apps.people.models import Club
from drill_ladder.apps.practice.learning.ways import (
    OnRung,
    been_of,
    learning_days,
    learnt_by,
    model_of,
    storey_of,
)
from drill_ladder.apps.practice.learning_models import LearntBy
from drill_ladder.apps.practice.models import JudgedDay, LadderLearning, PlayerLearning
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.judging import InARow, Rule
from drill_ladder.core.looking_back import (
    Climber,
    ClubModel,
    FormNow,
    Known,
    Outlook,
    Storey,
    known,
    outlook,
    told_in_fives,
    unsimulated,
)

LATELY = timedelta(days=365)
NEW_DAYS = 50
ONCE_S = 36 * 3600  # longer than a day, so that it is done once in it
# from so many days of so many players a club's record carries odds and outlook
FEWEST_DAYS, FEWEST_PLAYERS = 60, 5
AHEAD = 6  # sessions that an outlook asks about
RUNS = 400  # of what is kept for pages; a decision takes more


# --- rules as they can be simulated


def rule_of(rung: StoredRung) -> Rule:
    """A rung's rule as it can be simulated: where the coach's word moves people, two in a row."""
    return simulated_rule(rung.rule or rung.ladder.rule)


def simulated_rule(rule: Rule) -> Rule:
    """As it is, or two in a row in the coach's place."""
    return replace(rule, school=InARow(2)) if unsimulated(rule) else rule


# --- fitted and kept


@dataclass(frozen=True, slots=True)
class _Record:
    """A ladder's record. days: of each player, oldest first; before: player -> full days
    before those; here: stay -> its days.
    """

    ladder: Ladder
    rungs: list[StoredRung]
    by: LearntBy
    days: dict[int, list[OnRung]]
    before: Counter[int]
    here: dict[int, list[JudgedDay]]

    def counts(self) -> Iterator[tuple[int, int]]:
        """(Attempts, makes) of every set that was counted."""
        for days in self.days.values():
            for one in (s for on in days for s in on.day.sets):
                if one.attempts is not None and one.makes is not None:
                    yield one.attempts, one.makes

    def full_days(self, player: int) -> int:
        """On the ladder, in all."""
        return self.before[player] + len(self.days[player])


def learn(club: Club, today: date) -> int:
    """Fit the model of every ladder of a club that has enough of a record; how many have."""
    fitted = 0
    for ladder in Ladder.objects.of_club(club).with_rungs():
        record = _record(ladder, today)
        if record is None:
            continue
        days = [
            day
            for player, own in record.days.items()
            for day in learning_days(player, own, record.by, record.before[player])
        ]
        model = model_of(days, record.by, club.day_spread)
        if model is not None:
            _keep(record, model, len(days), club, today)
            fitted += 1
    return fitted


def learn_when_due(club: Club, today: date) -> bool:
    """Fit anew once a day, and where fifty days have come since the last time; whether it was
    done.
    """
    if cache.add(f"learnt-{club.pk}-{today}", True, timeout=ONCE_S):
        learn(club, today)
        return True
    return learn_after_new_days(club, today)


def learn_after_new_days(club: Club, today: date) -> bool:
    """Fit anew where fifty days have come since the last time; whether it was done."""
    kept = LadderLearning.objects.of_club(club).first()
    if (
        kept is None
        or JudgedDay.objects.of_club(club).since(kept.on).count() < kept.since + NEW_DAYS
    ):
        return False
    learn(club, today)
    return True


def _record(ladder: Ladder, today: date) -> _Record | None:
    rungs = list(ladder.rungs.all())
    full = JudgedDay.objects.full_on(ladder)
    days: dict[int, list[OnRung]] = defaultdict(list)
    here: dict[int, list[JudgedDay]] = defaultdict(list)
    for day in full.since(today - LATELY).with_rung():
        on = OnRung(day.stay.rung.position, day.stay.terms.rung, day)
        days[day.stay.prescription.player_id].append(on)
        here[day.stay_id].append(day)
    if not days:
        return None
    by = learnt_by([rung.core for rung in rungs])
    return _Record(ladder, rungs, by, days, full.before(today - LATELY).by_player(), here)


@transaction.atomic
def _keep(record: _Record, model: ClubModel, days: int, club: Club, today: date) -> None:
    ladder, counted = record.ladder, record.by == LearntBy.COUNTS
    fives = counted and told_in_fives(list(record.counts()))
    LadderLearning.objects.update_or_create(
        ladder=ladder,
        defaults={
            "club": club,
            "on": today,
            "days": days,
            "players": len(model.players),
            "since": JudgedDay.objects.of_club(club).since(today).count(),
            "by": record.by,
            "fives": fives,
            "gain": model.gain.value,
            "gain_low": model.gain.low,
            "gain_high": model.gain.high,
            "steps": tuple(model.steps),
        },
    )
    enough = days >= FEWEST_DAYS and len(model.players) >= FEWEST_PLAYERS
    carries = enough and not fives  # a mark is passed otherwise by round numbers than by counts
    stays = list(Stay.objects.current().on_ladder(ladder).with_all())
    rows = [_player_row(record, model, stay, carries, today, club.day_spread) for stay in stays]
    PlayerLearning.objects.of_ladder(ladder).delete()
    PlayerLearning.objects.bulk_create(rows)


def _player_row(
    record: _Record, model: ClubModel, stay: Stay, carries: bool, today: date, day_spread: float
) -> PlayerLearning:
    player = stay.prescription.player_id
    what = known(model, [str(player)], len(record.rungs))
    own = record.here[stay.pk]
    before = record.full_days(player)
    row = PlayerLearning(
        club_id=stay.club_id,
        prescription=stay.prescription,
        stay=stay,
        on=today,
        by=record.by,
        carries=carries,
        known=what,
        before=before,
        in_stay=len(own),
    )
    storeys = [
        storey_of(
            *(rung.title, rung.core, rung.rule or record.ladder.rule, record.by),
            what.noise_on(at),
        )
        for at, rung in enumerate(record.rungs)
    ]
    place = stay.rung.position - 1
    storeys[place] = _storey_here(stay, record.by, what)
    after = tuple(been_of(day, record.by) for day in own)
    climber = Climber(place, before, after=after)
    for name, to in (("next", place + 1), ("top", len(storeys))):
        ahead = outlook(what, storeys, climber, to, AHEAD, day_spread, runs=RUNS)
        if ahead is not None:
            _set_band(row, name, ahead)
    return row


def _storey_here(stay: Stay, by: LearntBy, what: Known) -> Storey:
    """The rung where somebody stands, as it was prescribed."""
    terms, noise = stay.terms, what.noise_on(stay.rung.position - 1)
    return storey_of(stay.rung.title, terms.rung, terms.rule, by, noise)


def _set_band(row: PlayerLearning, name: str, told: Outlook) -> None:
    for part in ("low", "middle", "high"):
        setattr(row, f"{name}_{part}", getattr(told, "median" if part == "middle" else part))


# --- what a decision asks


def learning_of(stay: Stay) -> PlayerLearning | None:
    """What is known of the player on this ladder, where the club's record carries it."""
    row = getattr(stay.prescription, "learning", None)
    if row is None or not row.carries or stay.rung.position > row.known.rungs:
        return None
    return row


def full_days_now(row: PlayerLearning, stay: Stay, here: int) -> int:
    """Full days on the ladder up to now; here: those of this stay."""
    return row.before - row.in_stay + here if row.stay_id == stay.pk else row.before + here


def form_of(stay: Stay, full: Sequence[JudgedDay]) -> FormNow | None:
    """What is known of the next session; None where good ones are not counted."""
    row = learning_of(stay)
    if row is None or row.by != LearntBy.COUNTS:
        return None
    before = full_days_now(row, stay, len(full))
    mean, sd = row.known.form(stay.rung.position - 1, before)
    return FormNow(mean, sd, stay.club.day_spread)


def outlook_of(stay: Stay, full: Sequence[JudgedDay]) -> Outlook | None:
    """Climbing from here within the next six full sessions; None where nobody can say."""
    row = learning_of(stay)
    if row is None:
        return None
    place = stay.rung.position - 1
    by = LearntBy(row.by)
    here = _storey_here(stay, by, row.known)
    after = tuple(been_of(day, by) for day in full)
    climber = Climber(place, full_days_now(row, stay, len(full)), after=after)
    storeys = [here] * (place + 1)
    return outlook(row.known, storeys, climber, place + 1, AHEAD, stay.club.day_spread)
