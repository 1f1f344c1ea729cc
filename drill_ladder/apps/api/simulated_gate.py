"""A timing gate that is none: it breaks beams as runners do, and sends them as badly as networks
do. Seeded: the same seed tells the same story.
"""

import random
from collections.abc import Sequence
from dataclasses import dataclass, field
from uuid import UUID

FAULTS = ("double", "stuck", "lone", "late", "repeat", "drift", "restart")


@dataclass(slots=True)
class Story:
    """What happened at a gate. messages: as they are sent, in that order, some of them twice;
    seconds: of every run that a perfect timekeeper saw.
    """

    messages: list[dict[str, object]] = field(default_factory=list)
    seconds: list[float] = field(default_factory=list)


@dataclass(slots=True)
class _Gate:
    chance: random.Random
    faults: Sequence[str]
    boot: UUID
    clock: int = 5_000
    beats: list[dict[str, object]] = field(default_factory=list)

    def beat(self, beam: str, broken: bool, at: int) -> None:
        rate = 1.02 if "drift" in self.faults else 1.0
        self.beats.append({"beam": beam, "broken": broken, "at_ms": round(at * rate)})

    def passes(self, beam: str, at: int) -> None:
        """A runner through a beam: an arm before the body, now and then."""
        self.beat(beam, True, at)
        self.beat(beam, False, at + 90)
        if "double" in self.faults and self.chance.random() < 0.6:
            self.beat(beam, True, at + 160)
            self.beat(beam, False, at + 230)

    def message(self) -> dict[str, object]:
        rate = 1.02 if "drift" in self.faults else 1.0
        uid = UUID(int=self.chance.getrandbits(128), version=4)
        sent = {
            "message": str(uid),
            "boot": str(self.boot),
            "sent_ms": round(self.clock * rate),
            "beats": self.beats,
        }
        self.beats = []
        return sent


def story(seed: int, runs: int, faults: Sequence[str] = ()) -> Story:
    """So many runs with some of the FAULTS: breaks doubled, a finish beam that stays broken after
    the last run, finishes without a start, messages late or repeated, a clock that runs fast, a
    gate that is switched off and on in the middle.
    """
    chance = random.Random(seed)  # noqa: S311
    tale = Story()
    gate = _Gate(chance, faults, _id(chance))
    for number in range(runs):
        if "restart" in faults and number == runs // 2 and runs > 1:
            gate = _Gate(chance, faults, _id(chance), clock=1_000)
        _run(gate, tale, last=number == runs - 1)
        tale.messages.append(gate.message())
    return _sent_badly(tale, chance, faults)


def _run(gate: _Gate, told: Story, last: bool) -> None:
    chance, start = gate.chance, gate.clock + gate.chance.randrange(1_000, 4_000)
    length = chance.randrange(1_800, 12_000)
    if "lone" in gate.faults and chance.random() < 0.5:
        gate.passes("finish", start - 700)
    gate.passes("start", start)
    gate.passes("finish", start + length)
    told.seconds.append(round(length / 1000, 2))
    gate.clock = start + length + 2_000
    if last and "stuck" in gate.faults:
        gate.beat("finish", True, gate.clock)
        gate.clock += 20_000


def _sent_badly(told: Story, chance: random.Random, faults: Sequence[str]) -> Story:
    if "late" in faults and len(told.messages) > 1:
        chance.shuffle(told.messages)
    if "repeat" in faults:
        told.messages += [chance.choice(told.messages) for _ in told.messages]
    return told


def _id(chance: random.Random) -> UUID:
    return UUID(int=chance.getrandbits(128), version=4)
