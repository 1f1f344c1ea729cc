"""A piece of work in words and plain values: what card, log, routine, hall, paper and sheet show,
and all that a device keeps of it. Its schema: docs/schema/work.json.
"""

from collections.abc import Sequence
from dataclasses import asdict, dataclass, replace
from statistics import fmean
from typing import Any

from drill_ladder.core.coaching import Came
from drill_ladder.core.judging import Rung, asks_for_faults
from drill_ladder.core.plans import FloorPlan
from drill_ladder.core.work import Hearing, Work
from drill_ladder.formats.age_words import at_age
from drill_ladder.formats.kit_words import misfit_words, over_words, set_words
from drill_ladder.formats.rung_words import dose_words, target_words
from drill_ladder.formats.words import many, rule_sentence, tempo_word

MOST_FAULTS = 6  # that have a key of their own
FEWEST_SPOTS = 3  # two sides are told by their names


@dataclass(frozen=True, slots=True)
class ToldWork:
    """What is shown and counted. Times in seconds, shares 0..1; None and "" where there is none.

    player, stay, drill: ids. position: from 1, of so many rungs. lanes: by the rung's own words,
    said: as this player is told them; spots: where each lies on the floor plan, x to the right and
    y down, 0 to 100, empty where the plan does not name them all. dose, target, rule: in words.
    cue: the one of the day. way: the plainer version that is done here, lacks: what is lost by it;
    percent: of its size. note: of caution; worn: each ticked before; kit: tools that do not fit;
    set_to: to what tools are set for this body. begin: lanes that come first,
    as said. calls: of each set. heard: how the phone counts it by ear (sound, most a second,
    silence_s that ends a run). form: how technique is looked at (ticks, share, or not at all),
    form_min: the share that a pass needs; turns: lanes by the rung's own words in the order in
    which attempts change over, empty where one comes after the other; rest_each: between any two
    attempts; rest_ready: rests go on until the player is ready, their seconds are the least;
    slow_first: seconds of rest after the slow, uncounted one that begins each set, 0 for none;
    finish_good: good ones, not counted, that end each set;
    ease_faults: from so many faults of one kind on the easier way is offered; faults_needed:
    whether a pass needs faults that somebody counted; seen: whether it needs a coach who watches.
    landings: where an attempt may end, with its points. feeds: from gentle to hard, feed: today's,
    feed_why: what changed it or what comes next.
    kind, sets, reps, top, items, window, cap, n, lost, earn, stop_drop, penalty: the measure's own.
    """

    player: int
    name: str
    stay: int
    drill: int
    ladder: str
    position: int
    rungs: int
    title: str
    new_here: str
    purpose: str
    recheck: bool
    dose: str
    target: str
    rule: str
    text: str
    cues: tuple[str, ...]
    cue: str
    faults: tuple[str, ...]
    checkpoints: tuple[str, ...]
    easier: str
    eased: bool
    mirrored: bool
    percent: int | None
    way: str
    lacks: tuple[str, ...]
    people: str
    fed: bool
    note: str
    worn: tuple[str, ...]
    adult: bool
    only_fresh: bool
    tools: tuple[str, ...]
    kit: tuple[str, ...]
    set_to: tuple[str, ...]
    begin: tuple[str, ...]
    tempos: tuple[tuple[float, str], ...]
    tempo: float | None
    tempo_why: str
    feeds: tuple[str, ...]
    feed: str
    feed_why: str
    pace: float
    calls: dict[str, Any] | None
    heard: dict[str, Any] | None
    tired_too: bool
    kind: str
    lanes: tuple[str, ...]
    said: tuple[str, ...]
    spots: tuple[tuple[float, float], ...]
    sets: int
    reps: int | None
    rest: float
    turns: tuple[str, ...]
    rest_each: float
    rest_ready: bool
    slow_first: float
    finish_good: int | None
    ease_faults: int | None
    form: str
    form_min: float | None
    faults_needed: bool
    seen: bool
    top: float | None
    landings: tuple[tuple[str, int], ...]
    items: tuple[str, ...]
    window: float | None
    cap: int | None
    n: int | None
    lost: int | None
    earn: int | None
    stop_drop: float | None
    penalty: float

    @property
    def today(self) -> tuple[str, ...]:
        """What of today is another than last time, and why; none where nothing is."""
        return tuple(filter(None, (self.tempo_why, self.feed_why)))


def told_work(work: Work) -> ToldWork:
    """In words, for whoever shows it."""
    return ToldWork(**_what(work), **_how(work), **_safety(work), **_conduct(work), **_counts(work))


def work_document(work: Work) -> dict[str, Any]:
    """As JSON."""
    return asdict(told_work(work))


def _what(work: Work) -> dict[str, Any]:
    who, what = work.who, work.what
    said = dict(zip(work.rung.lanes, work.lanes, strict=True))
    turns = tuple(said[lane] for lane in work.turns)
    rung = replace(
        work.rung, lanes=work.lanes, turns=turns
    )  # in words, lanes are those that are said
    return {
        "player": who.id,
        "name": who.name,
        "stay": what.stay,
        "drill": what.drill,
        "ladder": what.ladder,
        "position": what.position,
        "rungs": what.rungs,
        "title": what.title,
        "new_here": what.new_here,
        "purpose": what.purpose,
        "recheck": what.recheck,
        "dose": dose_of_day(rung, who.age, feed_today(work)),
        "target": target_words(rung),
        "rule": rule_sentence(work.rule),
    }


def dose_of_day(rung: Rung, age: int | None, feed: str) -> str:
    """The dose with what goes with it for a player of an age, and the feed of the day."""
    own = at_age(rung.by_age, age)
    return ", ".join(filter(None, (dose_words(rung), own, feed and f"feed: {feed}")))


def feed_today(work: Work) -> str:
    """The feed of today by its name; "" where the rung has none of its own."""
    kept = work.conduct.feed
    return work.rung.feeds[kept.at] if kept is not None and work.rung.feeds else ""


_CAME = {
    Came.GOOD: "Two good days: a harder feed today.",
    Came.LOW: "Last time was hard: a gentler feed today.",
    Came.UNEASY: "You were not at ease: a gentler feed today.",
}


def _feed_why(work: Work) -> str:
    """What changed it, else what a harder one takes."""
    kept = work.conduct.feed
    if kept is None or not work.rung.feeds:
        return ""
    if kept.why is not None or kept.more is None:
        return _CAME[kept.why] if kept.why else ""
    following = work.rung.feeds[kept.at + 1]
    return f"{many(kept.more, 'more good day')}, then the feed is “{following}”."


def _how(work: Work) -> dict[str, Any]:
    how, together = work.how, work.together
    return {
        "text": how.text,
        "cues": how.cues,
        "cue": how.cue,
        "faults": how.faults[:MOST_FAULTS],
        "checkpoints": how.checkpoints,
        "easier": how.easier,
        "eased": how.eased,
        "mirrored": how.mirrored,
        "percent": how.percent,
        "way": how.way,
        "lacks": how.lacks,
        "people": together.people,
        "fed": together.fed,
    }


def _safety(work: Work) -> dict[str, Any]:
    safety = work.safety
    kit = [over_words(over) for over in safety.over]
    kit += [misfit_words(misfit) for misfit in safety.misfits]
    if safety.measured_on:
        kit.append(f"The height was measured on {safety.measured_on:%-d %B %Y}: measure it again.")
    return {
        "note": safety.note,
        "worn": safety.worn,
        "adult": safety.adult,
        "only_fresh": safety.only_fresh,
        "tools": safety.tools,
        "kit": tuple(kit),
        "set_to": tuple(set_words(one) for one in safety.set_to),
    }


def _conduct(work: Work) -> dict[str, Any]:
    conduct, said = work.conduct, dict(zip(work.rung.lanes, work.lanes, strict=True))
    return {
        "begin": tuple(said.get(lane, lane) for lane in conduct.begin),
        "tempos": tuple((share, tempo_word(share)) for share in conduct.tempos),
        "tempo": conduct.tempo,
        "tempo_why": conduct.tempo_why,
        "feeds": work.rung.feeds if conduct.feed else (),
        "feed": feed_today(work),
        "feed_why": _feed_why(work),
        "pace": work.rung.dose.s_per_rep or 0.0,
        "calls": conduct.calls,
        "heard": _heard(conduct.heard),
        "tired_too": conduct.tired_too,
        "rest": work.rung.dose.rest_s,
        "turns": work.turns,
        "rest_each": work.rung.rest_each_s or 0.0,
        "rest_ready": work.rung.rest_ready,
        "slow_first": work.rung.slow_first_s or 0.0,
        "finish_good": work.rung.finish_good,
        "ease_faults": work.rung.ease_faults if work.how.easier else None,
        "stop_drop": work.rung.dose.stop_drop,
    }


def _heard(hearing: Hearing | None) -> dict[str, Any] | None:
    return None if hearing is None else asdict(hearing)


def _counts(work: Work) -> dict[str, Any]:
    rung, measure = work.rung, work.rung.measure
    return {
        "kind": measure.kind,
        "lanes": rung.lanes,
        "said": work.lanes,
        "spots": spots(work.how.plan, work.lanes),
        "sets": rung.dose.sets,
        "reps": rung.reps_per_set,
        "form": _form(work),
        "form_min": rung.target.form_min,
        "faults_needed": asks_for_faults(rung),
        "seen": work.seen,
        "top": getattr(measure, "max", None),
        "landings": tuple((one.name, one.points) for one in getattr(measure, "landings", ())),
        "items": tuple(getattr(measure, "items", ())),
        "window": measure.window,
        "cap": getattr(measure, "cap", None),
        "n": getattr(measure, "n", None),
        "lost": getattr(measure, "lost", None),
        "earn": getattr(measure, "earn", None),
        "penalty": measure.penalty_s,
    }


def _form(work: Work) -> str:
    if work.how.checkpoints:
        return "ticks"
    return "share" if work.rung.target.form_min is not None else ""


def spots(plan: FloorPlan | None, lanes: Sequence[str]) -> tuple[tuple[float, float], ...]:
    """Where lanes lie on a floor plan whose markers or zones have their names, or the first letters
    of these; 0 to 100 each way, y down. Empty where one of them is not there.
    """
    if plan is None or len(lanes) < FEWEST_SPOTS:
        return ()
    places = {marker.id.casefold(): (marker.x, marker.y) for marker in plan.markers}
    places |= {zone.id.casefold(): _middle(zone.points) for zone in plan.zones}
    found = [places.get(lane.casefold()) or places.get(first_letters(lane)) for lane in lanes]
    known = [one for one in found if one is not None]
    if len(known) < len(lanes):
        return ()
    left, low = min(x for x, _ in known), min(y for _, y in known)
    width = max(x for x, _ in known) - left
    height = max(y for _, y in known) - low
    across = max(width, height) or 1.0
    return tuple(
        (
            round(50 + 100 * (x - left - width / 2) / across, 1),
            round(50 - 100 * (y - low - height / 2) / across, 1),
        )
        for x, y in known
    )


def _middle(points: Sequence[tuple[float, float]]) -> tuple[float, float]:
    return fmean(x for x, _ in points), fmean(y for _, y in points)


def first_letters(lane: str) -> str:
    """l for left, ar for ahead right."""
    return "".join(word[0] for word in lane.split()).casefold()
