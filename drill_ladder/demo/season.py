"""Twelve weeks that look like life, played through the same services that real days use."""

import random
from collections import Counter
from dataclasses import replace
from datetime import date, datetime, time, timedelta
from math import exp
from typing import Any
from uuid import UUID

from django.utils import timezone

from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.practice.judged import counted_rows, passed
from drill_ladder.apps.practice.models import Session, Stop
from drill_ladder.apps.practice.sessions import SessionInput, SetInput, record_session
from drill_ladder.apps.practice.stops import end_stop, open_stop
from drill_ladder.apps.prescriptions.models import Prescription, Stay
from drill_ladder.apps.review.models import Decision, Proposal
from drill_ladder.apps.review.services import judge_anew, move_by_hand, settle
from drill_ladder.core.judging import (
    WEEKS,
    ByCoach,
    Checklist,
    Count,
    Earned,
    Makes,
    Points,
    Rung,
    Streak,
    Time,
    ToN,
    UntilLost,
)
from drill_ladder.demo.people import Life

DAYS = 84
CLUB_DAYS = (1, 3)  # Tuesday, Thursday
FORGOTTEN = 0.2  # share of the checks of passed rungs
FALLS = 0.8  # how much of the good ones whoever tires quickly loses at the end of a set
LAST_DECIDED = 7  # decisions of the last days still wait
WORDS = [
    "Felt good",
    "Rain, ball was slippery",
    "Did it with my sister",
    "My left is annoying",
    "Quick one before tea",
]


class Season:
    """Plays one player's weeks. Chance comes from one seeded generator."""

    def __init__(self, coach: Membership, chance: random.Random, first: date) -> None:
        self.coach, self.chance, self.first = coach, chance, first
        self.worked: set[int] = set()  # stays with results that nobody has looked at yet

    def play(self, life: Life, player: Player) -> None:
        """Every day from the first to yesterday."""
        for number in range(life.starts, DAYS):
            on = self.first + timedelta(days=number)
            self._stops(life, player, number, on)
            if not life.away[0] <= number < life.away[1]:
                for prescription in Prescription.objects.active().filter(
                    player=player, started_on__lte=on
                ):
                    self._day(life, prescription, number, on)
            if on.weekday() in CLUB_DAYS and number < DAYS - LAST_DECIDED:
                self._review(player, on)
        self._checks(life, player)
        if life.hurts_now:
            yesterday = self.first + timedelta(days=DAYS - 1)
            open_stop(
                player=player, what=life.hurts_now, on=yesterday, actor=None, at=_told_at(yesterday)
            )

    def _checks(self, life: Life, player: Player) -> None:
        """Most passed rungs were checked again at the club when it was time; some were forgotten
        and are still due.
        """
        for one in passed(Prescription.objects.filter(player=player).with_climb()):
            due, done = one.due, 0
            while due is not None and due < self.first + timedelta(days=DAYS - LAST_DECIDED):
                if self.chance.random() < FORGOTTEN:
                    break
                on = next(
                    day
                    for day in (due + timedelta(days=n) for n in range(7))
                    if day.weekday() in CLUB_DAYS
                )
                self._session(life, one.stay, (on - self.first).days, on, club_day=True)
                done += 1
                due = on + timedelta(weeks=WEEKS[done]) if done < len(WEEKS) else None

    def _stops(self, life: Life, player: Player, number: int, on: date) -> None:
        if life.sore and number == life.away[0]:
            open_stop(player=player, what=life.sore, on=on, actor=None, at=_told_at(on))
        if life.sore and number == life.away[1]:
            for stop in Stop.objects.open().filter(player=player):
                end_stop(
                    member=self.coach,
                    stop=stop,
                    cleared_by="physiotherapist, by phone with her mother",
                    on=on,
                )

    def _day(self, life: Life, prescription: Prescription, number: int, on: date) -> None:
        club_day = on.weekday() in CLUB_DAYS and prescription.place != "home"
        home_day = on.weekday() in (0, 2, 5, 6)
        at_home = life.home * prescription.per_week / 5 if home_day else 0.0
        likely = life.club * 0.8 if club_day else at_home
        if self.chance.random() < likely:
            stay = prescription.stays.select_related("rung__drill", "prescription").get(
                left__isnull=True
            )
            self._session(life, stay, number, on, club_day)

    def _session(self, life: Life, stay: Stay, number: int, on: date, club_day: bool) -> None:
        rung = stay.terms.rung
        skill = life.skill + life.gain * (number - life.starts) / 7 + (0.7 if stay.eased else 0)
        # every other time at home the phone counts what it can
        heard = bool(stay.rung.drill.heard) and not club_day and number % 2 == 1
        entry = SessionInput(
            id=UUID(int=self.chance.getrandbits(128), version=4),
            on=on,
            observer="coach" if club_day else "self",
            sets=[
                _by_ear(self._set(life, stay, skill - stay.rung.position, lane), rung, heard)
                for lane in self._lanes(rung)
            ],
            form=self._form(life) if club_day else None,
            effort=self.chance.randint(4, 7) + (2 if life.tires else 0),
            word=self.chance.choice(WORDS) if not club_day and self.chance.random() < 0.12 else "",
            adult_present=True,
        )
        try:
            actor = self.coach.user if club_day else None
            record_session(
                stay=stay, entry=entry, today=on, actor=actor, judged=number >= DAYS - LAST_DECIDED
            )
        except Refused:
            return
        self.worked.add(stay.pk)
        moment = timezone.make_aware(datetime.combine(on, time(17, 30)))
        Session.objects.filter(pk=entry.id).update(recorded_at=moment)

    def _lanes(self, rung: Rung) -> list[str]:
        return [lane for _ in range(rung.dose.sets) for lane in (rung.lanes or ("",))]

    def _form(self, life: Life) -> float:
        return round(max(0.3, min(1.0, self.chance.gauss(0.9 - life.tires * 0.5, 0.08))), 2)

    def _set(self, life: Life, stay: Stay, ahead: float, lane: str) -> SetInput:
        weak = life.weak if lane == "left" else 0.0
        values = self._values(stay.terms.rung, stay.rung.drill.faults, ahead - weak, life.tires)
        return SetInput(UUID(int=self.chance.getrandbits(128), version=4), lane, values)

    def _values(self, rung: Rung, names: list[str], ahead: float, tires: float) -> dict[str, Any]:
        value = rung.target.value or 0.0
        if isinstance(rung.measure, Makes):
            rate = 1 / (1 + exp(-(1.35 + 1.1 * (ahead - 0.2))))
            return self._strokes(rung, names, rate, rate - FALLS * tires)
        if isinstance(rung.measure, Streak):
            return {
                "best_run": max(1, round(value * exp(self.chance.gauss(0.22 * ahead - 0.1, 0.22))))
            }
        if isinstance(rung.measure, Count):
            return {
                "count": float(
                    max(1, round(value * exp(self.chance.gauss(0.1 * ahead - 0.05, 0.08))))
                )
            }
        if isinstance(rung.measure, Time):
            return {"seconds": round(value * exp(self.chance.gauss(-0.1 * ahead + 0.05, 0.06)), 2)}
        return self._rated(rung, value, ahead)

    def _rated(self, rung: Rung, value: float, ahead: float) -> dict[str, Any]:
        """Points, attempts until n, checkpoints, share of the work."""
        share = 1 / (1 + exp(-(1.1 + 0.9 * ahead + self.chance.gauss(0, 0.4))))
        if isinstance(rung.measure, Points):
            attempts = rung.reps_per_set or 10
            if rung.measure.landings:
                return self._landed(rung.measure, attempts, share)
            return {
                "attempts": attempts,
                "points": float(round(share * rung.measure.max * attempts)),
            }
        if isinstance(rung.measure, ToN):
            n = rung.measure.n
            return {"attempts": max(n, round(n / max(0.2, share))), "makes": n}
        if isinstance(rung.measure, UntilLost | Earned):
            return self._until_over(rung.measure, max(0.2, min(0.95, share)))
        if isinstance(rung.measure, Checklist):
            return {"ticks": round(share * len(rung.measure.items))}
        return {"share": round(min(1.0, 0.8 + 0.25 * share), 2)}

    def _landed(self, measure: Points, attempts: int, share: float) -> dict[str, Any]:
        """The best with this chance, else one of the others. All of them are told by their keys."""
        best, *others = sorted(measure.landings, key=lambda one: -one.points)
        ended = [
            best if self.chance.random() < share else self.chance.choice(others)
            for _ in range(attempts)
        ]
        return {
            "attempts": attempts,
            "points": float(sum(one.points for one in ended)),
            "faults": dict(Counter(one.name for one in ended if one is not best)),
            "strokes": "".join(f"{measure.landings.index(one)}" for one in ended),
        }

    def _until_over(self, measure: UntilLost | Earned, rate: float) -> dict[str, Any]:
        strokes = ""
        while not measure.over(len(strokes), strokes.count("g"), None):
            strokes += "g" if self.chance.random() < rate else "m"
        return {"makes": strokes.count("g"), "attempts": len(strokes), "strokes": strokes}

    def _strokes(
        self, rung: Rung, names: list[str], rate: float, late_rate: float
    ) -> dict[str, Any]:
        """late_rate: of good ones in the last third of a set."""
        attempts = rung.reps_per_set or 10
        strokes = ""
        faults: dict[str, int] = {}
        for number in range(attempts):
            if self.chance.random() < (late_rate if 3 * number >= 2 * attempts else rate):
                strokes += "g"
            elif self.chance.random() < 0.75 and names:
                which = min(int(self.chance.expovariate(1.1)), len(names) - 1)
                faults[names[which]] = faults.get(names[which], 0) + 1
                strokes += str(which)
            else:
                strokes += "m"
        return {
            "attempts": attempts,
            "makes": strokes.count("g"),
            "faults": faults,
            "strokes": strokes,
        }

    def _review(self, player: Player, on: date) -> None:
        if not self.worked:
            return
        for stay in Stay.objects.of_player(player).current().filter(pk__in=self.worked):
            judge_anew(stay=stay, on=on)
        self.worked.clear()
        self._by_eye(player, on)
        open_ones = Proposal.objects.awaiting_review().filter(
            stay__prescription__player=player, made_on__lte=on
        )
        for proposal in open_ones:
            decision = self._decide(proposal, on)
            moment = timezone.make_aware(datetime.combine(on, time(20, 15)))
            Decision.objects.filter(pk=decision.pk).update(at=moment)

    def _by_eye(self, player: Player, on: date) -> None:
        """On a ladder by the coach's word: up after two passes running."""
        for stay in Stay.objects.of_player(player).current():
            by_coach = isinstance(stay.terms.rule.school, ByCoach)
            last = [row.verdict for row in counted_rows(stay)][-2:]
            top = stay.rung.position == stay.prescription.ladder.rungs.count()
            if by_coach and last == ["pass", "pass"] and not top:
                why = "Clean, and without looking at the ball"
                decision = move_by_hand(
                    member=self.coach, stay=stay, kind="climb", reason=why, on=on
                )
                moment = timezone.make_aware(datetime.combine(on, time(20, 15)))
                Decision.objects.filter(pk=decision.pk).update(at=moment)

    def _decide(self, proposal: Proposal, on: date) -> Decision:
        if proposal.kind == "climb" and self.chance.random() < 0.3:
            why = "Feet still too slow, one more week here"
            return settle(
                member=self.coach,
                proposal=proposal,
                action="override",
                applied="hold",
                reason=why,
                on=on,
            )
        return settle(member=self.coach, proposal=proposal, action="confirm", on=on)


def _told_at(on: date) -> datetime:
    """In the early evening."""
    return timezone.make_aware(datetime.combine(on, time(17, 40)))


def _by_ear(one: SetInput, rung: Rung, heard: bool) -> SetInput:
    """A set that a phone counted; of one in seven it missed one, and the player put it right."""
    count = one.values.get("count") or one.values.get("best_run")
    if not heard or not count:
        return one
    number = int(count)
    told: dict[str, Any] = {"heard": number - (number % 7 == 0)}
    if isinstance(rung.measure, Count) and number > 8:
        told |= {"heard_pace": round(60 * number / rung.measure.window_s)}
        told |= {"heard_steady": number % 3 > 0}
    return replace(one, values=one.values | told)
