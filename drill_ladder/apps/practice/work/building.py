"""Work from a stay, a day and a place: everything that is known of it, put together once, by a
handful of questions however many stays there are.
"""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date

from django.db.models import Prefetch, prefetch_related_objects

from drill_ladder.apps.library.drills import ToldDrill, one_side, told_drill
from drill_ladder.apps.library.models import Caution, Drill, LanesAre, ToolLimit
from drill_ladder.apps.library.models import Rung as StoredRung
from drill_ladder.apps.people.agreements import who_agree
from drill_ladder.apps.people.models import AgreedTo, Player
from drill_ladder.apps.practice.judged import work_rung
from drill_ladder.apps.practice.models import SetRow
from drill_ladder.apps.practice.observations import begin_with, cells_of_players, cues_of_the_day
from drill_ladder.apps.practice.work.calling import caller_of, seed_of
from drill_ladder.apps.practice.work.entries import entries_for
from drill_ladder.apps.practice.work.feeds import feeds_now
from drill_ladder.apps.practice.work.tempos import sets_at_tempo, tempo_choices, tempo_now
from drill_ladder.apps.prescriptions.dose import fixed, of_the_day, seconds_left
from drill_ladder.apps.prescriptions.home import home_way
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.weeks.models import Week
from drill_ladder.core.coaching import Cell, CellState, KeptFeed
from drill_ladder.core.judging import Rung, Trust
from drill_ladder.core.planning import (
    AtHome,
    SizeLimit,
    ToldBlock,
    measure_again,
    misfits,
    of_age,
    only_of,
    over_limits,
    set_to,
)
from drill_ladder.core.plans import swapped
from drill_ladder.core.work import (
    Conduct,
    How,
    Place,
    Safety,
    Together,
    What,
    Who,
    Work,
    hearing_of,
)
from drill_ladder.formats.reading import whole

AT_HAND = (
    Prefetch("prescription__ladder__rungs", StoredRung.objects.select_related("drill")),
    "prescription__player__days",
)
SEEN = (Trust.LAST_PASS_OBSERVED, Trust.OBSERVED_ONLY)
NOT_LOOKED = object()


def rung_of_day(stay: Stay, on: date, week: Week | object | None = NOT_LOOKED) -> Rung:
    """The rung that is worked on with the dose of a day: by the week as it was told, else by the
    day's minutes. week: as it was told, where it is known (None: none was).
    """
    return work_of_day(stay, on, week)[1]


def work_of_day(
    stay: Stay, on: date, week: Week | object | None = NOT_LOOKED
) -> tuple[StoredRung, Rung]:
    """As rung_of_day, with the rung as it is stored."""
    stored, rung = work_rung(stay, stay.recheck)
    if not rung.is_open:
        return stored, rung
    player = stay.prescription.player
    if week is NOT_LOOKED:
        week = Week.objects.of(player, on).published().first()
    told = told_for(week.published, stay, on) if isinstance(week, Week) else None
    if told is not None and (told.sets or told.reps):
        return stored, fixed(rung, told.sets, told.reps)
    others = list(Stay.objects.of_player(player).current().begun(on))
    return stored, of_the_day(rung, seconds_left(player, on, others))[0]


def told_for(published: Sequence[ToldBlock], stay: Stay, on: date) -> ToldBlock | None:
    """The block of a stay that a day is about: the latest by then, else the first that comes."""
    own = [block for block in published if block.stay == stay.pk and not block.cancelled]
    own.sort(key=lambda block: block.on)
    due = [block for block in own if block.on <= on]
    return due[-1] if due else next(iter(own), None)


def dose_shown(text: str, rung: Rung) -> Rung | None:
    """The rung with the dose that a page said it asks for, as 2x8; None where that is no dose of
    the rung's bands.
    """
    sets, _, reps = text.partition("x")
    typed = whole(sets), whole(reps)
    low = fixed(rung, None, None).dose
    for value, least, most in (
        (typed[0], low.sets, rung.sets_high),
        (typed[1], low.reps, rung.reps_high),
    ):
        if value is None or least is None or not least <= value <= (most or least):
            return None
    return fixed(rung, *typed) if rung.is_open else None


Asked = tuple[Stay, StoredRung, Rung]  # the rung that is worked on: as stored, as it is asked


@dataclass(frozen=True, slots=True)
class Known:
    """What was looked up for many stays at once. cues: stay -> the day's; done: player -> lanes;
    tempos: stay -> its sets at a told tempo; deaf: players for whom no phone may listen; limits: on
    the size of tools; feeds: stay -> that of the day.
    """

    cues: Mapping[int, str]
    done: Mapping[int, dict[Cell, CellState]]
    tempos: Mapping[int, list[SetRow]]
    deaf: Collection[int] = ()
    limits: Sequence[SizeLimit] = ()
    feeds: Mapping[int, KeptFeed] = field(default_factory=dict)

    @classmethod
    def of(cls, asked: Collection[Asked], on: date) -> "Known":
        """By a handful of questions."""
        stays = [stay for stay, _, _ in asked]
        lanes = [(stay.prescription.player_id, stored.drill) for stay, stored, _ in asked]
        fed = [stay for stay, _, rung in asked if rung.feeds]
        paced = [stay for stay, _, rung in asked if rung.tempo is not None]
        return cls(
            cues_of_the_day(stays, on),
            cells_of_players(lanes),
            sets_at_tempo(paced) if paced else {},
            _deaf(asked, on),
            _limits(asked),
            feeds_now(fed, on) if fed else {},
        )


def work_of(
    stay: Stay,
    on: date,
    place: Place = Place.CLUB,
    *,
    rung: Rung | None = None,
    week: Week | object | None = NOT_LOOKED,
) -> Work:
    """One stay's work. rung: with a dose that was told already; None: with that of the day. week:
    as it was told, where it is known (None: none was).
    """
    prefetch_related_objects([stay], *AT_HAND)
    asked = _asked(stay, on, rung, week)
    return _work(asked, on, place, Known.of([asked], on))


def works_of(
    stays: Sequence[Stay],
    on: date,
    place: Place,
    *,
    weeks: Mapping[int, Week | None] | None = None,
    rungs: Sequence[Rung] | None = None,
) -> list[Work]:
    """Many stays' work. weeks: player -> the week that they were told, or none; rungs: of each,
    with a dose that was told already.
    """
    prefetch_related_objects(stays, *AT_HAND)
    weeks = weeks or {}
    given_rungs: Sequence[Rung | None] = rungs or [None] * len(stays)
    asked = [
        _asked(stay, on, rung, weeks.get(stay.prescription.player_id))
        for stay, rung in zip(stays, given_rungs, strict=True)
    ]
    known = Known.of(asked, on)
    return [_work(one, on, place, known) for one in asked]


def _asked(stay: Stay, on: date, rung: Rung | None, week: Week | object | None) -> Asked:
    return (stay, stay.worked_on, rung) if rung else (stay, *work_of_day(stay, on, week))


def _work(asked: Asked, on: date, place: Place, known: Known) -> Work:
    stay, stored, rung = asked
    drill, player = stored.drill, stay.prescription.player
    home = home_at(stay, place)
    shown = told_drill(stored, player.is_left_handed, home.set_up_at if home else None)
    return Work(
        who=_who(player, on),
        what=_what(stay, stored),
        rung=rung,
        rule=stay.terms.rule,
        how=_how(asked, shown, home, known.cues.get(stay.pk, "")),
        together=Together(drill.people, drill.group_of, drill.fed),
        safety=_safety(drill, player, on, place, known.limits),
        conduct=_conduct(stay, stored, _called(rung, place), shown, on, known),
        lanes=tuple(swapped(lane) if shown.mirrored else lane for lane in rung.lanes),
        seen=stay.terms.rule.trust in SEEN,
    )


def _limits(asked: Collection[Asked]) -> list[SizeLimit]:
    """The club's limits on tools, where somebody's own are noted or some go with the body."""
    sized = any(a.drill.kit or stay.prescription.player.kit_cm for stay, a, _ in asked)
    club = next((stay.club_id for stay, _, _ in asked), None)
    return [row.core for row in ToolLimit.objects.of_club_id(club)] if sized else []


def _who(player: Player, on: date) -> Who:
    left, age = player.is_left_handed, player.age_on(on)
    return Who(player.pk, str(player), left, player.stride_m, age)


def _deaf(asked: Collection[Asked], on: date) -> set[int]:
    """Players whose guardian has not agreed that a phone listens, where the club wants that."""
    listened = [
        stay.prescription.player
        for stay, stored, _ in asked
        if stored.drill.heard and stay.club.ear_asks
    ]
    if not listened:
        return set()
    return {player.pk for player in listened} - who_agree(listened, AgreedTo.EAR, on)


def home_at(stay: Stay, place: Place) -> AtHome | None:
    """How it is done at this player's home, where that can be another way or another size than the
    full drill's.
    """
    work = stay.worked_on
    if place is not Place.HOME or not (work.drill.versions or work.floor_plan):
        return None
    return home_way(stay)


def _what(stay: Stay, stored: StoredRung) -> What:
    return What(
        stay=stay.pk,
        drill=stored.drill_id,
        ladder=str(stay.prescription.ladder),
        position=stored.position,
        rungs=len(stay.prescription.ladder.rungs.all()),
        title=stored.title,
        new_here=stored.changes,
        purpose=stored.drill.purpose,
        recheck=stay.recheck,
    )


def _how(asked: Asked, told: ToldDrill, home: AtHome | None, cue: str) -> How:
    stay, drill, rung = asked[0], asked[1].drill, asked[2]
    left_handed = stay.prescription.player.is_left_handed
    ticks = [one_side(drill, words, left_handed) for words in drill.checkpoints]
    return How(
        text=told.how,
        cues=tuple(told.cues),
        cue=one_side(drill, cue, left_handed),
        faults=tuple(drill.faults),
        checkpoints=tuple(ticks),
        easier=rung.ease or "",
        eased=stay.eased,
        mirrored=told.mirrored,
        plan=told.plan,
        percent=told.percent,
        way=home.way if home else "",
        lacks=home.lost if home and home.way else (),
    )


def _safety(
    drill: Drill, player: Player, on: date, place: Place, limits: Sequence[SizeLimit]
) -> Safety:
    again = bool(drill.kit) and measure_again(player.height_on, on)
    height, sizes, held = player.height_cm, player.kit_cm, of_age(limits, player.age_on(on))
    used = [*drill.tools, *(window.tool for window in drill.kit)]
    return Safety(
        note=drill.caution_note,
        worn=tuple(drill.worn),
        adult=place is Place.HOME and drill.caution == Caution.HOME_WITH_ADULT,
        only_fresh=drill.only_fresh,
        tools=tuple(drill.tools),
        misfits=tuple(misfits(drill.kit, height, sizes)),
        over=tuple(over_limits(held, only_of(used, sizes))),
        set_to=tuple(set_to(drill.kit, height, sizes, held)),
        measured_on=player.height_on if again else None,
    )


def _called(rung: Rung, place: Place) -> Rung:
    """The rung with the calls of the place."""
    if rung.caller is None or place is not Place.HOME:
        return rung
    return replace(rung, caller=rung.caller.at_home)


def _conduct(
    stay: Stay, stored: StoredRung, rung: Rung, told: ToldDrill, on: date, known: Known
) -> Conduct:
    drill, plan = stored.drill, told.plan.metres if told.plan else None
    calls = caller_of(
        rung, entries_for(rung, told.mirrored), plan, seed_of(stay.pk, on), told.mirrored
    )
    player = stay.prescription.player_id
    done = known.done.get(player, {})
    paced = Conduct(
        begin=tuple(begin_with(drill, done, on, stay.prescription.first_lanes)),
        calls=calls,
        heard=None if player in known.deaf else hearing_of(rung, drill.heard),
        tired_too=stay.prescription.tired_too and not drill.only_fresh,
        feed=known.feeds.get(stay.pk),
    )
    if rung.tempo is None:
        return paced
    tempo, why = tempo_now(rung, known.tempos.get(stay.pk, ()))
    choices = tuple(share for share, _ in tempo_choices(rung, tempo))
    return replace(paced, tempos=choices, tempo=tempo, tempo_why=why)


def mirrors(stay: Stay) -> bool:
    """Whether left and right are changed over for this player in what they work on."""
    sides = stay.worked_on.drill.lanes_are == LanesAre.SIDES
    return sides and stay.prescription.player.is_left_handed
