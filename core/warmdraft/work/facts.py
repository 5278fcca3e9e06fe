"""The facts of a job as plain values: what was said, read, seen, metered, logged, marked, counted, wanted, found.

Facts are added, never changed. Which of them speak follows from what supersedes what and what was taken back.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from functools import cached_property
from typing import TypeVar

from warmdraft.air import AirState
from warmdraft.checks import UNTAUGHT, Taught, checks
from warmdraft.diagnosis import Case, FindingFact, ReadingFact
from warmdraft.machine import Machine
from warmdraft.meter import MeterVerdict, judge, supplies, supply_of
from warmdraft.repair import along_of
from warmdraft.sound import SoundVerdict
from warmdraft.teardown import LINE, Layout, Tally, name_at, step_of
from warmdraft.trend import trend_of
from warmdraft.work.recorded import (
    Added,
    Agreement,
    Cause,
    CauseKind,
    Connection,
    Counted,
    DrawnRun,
    Finding,
    LintFound,
    Logged,
    Mark,
    MarkState,
    Metered,
    NewRun,
    Observation,
    OldPart,
    Ordered,
    PartSaid,
    Phase,
    Reading,
    Sounded,
    WayChoice,
)

#: A machine in which this can be reached has another motor for the blower.
DRUM_MOTOR = "drum_motor"
#: And one in which this can be, a wheel on a belt of its own.
BLOWER_BELT = "blower_belt"
#: A log whose shape is less sure says nothing (own assumption).
CLEAR_SHAPE = 0.8
#: What a meter's verdict says as a finding; to be repeated says nothing.
AS_FINDING = {"good": "good", "working_as_meant": "good", "suspect": "suspect", "failed": "failed"}


_Seen = TypeVar("_Seen", bound=Observation)


@dataclass(frozen=True)
class JobFacts:
    """All facts of a job, in the order they came; nothing else goes into its state.

    run: the vent run as drawn, the code profile it is held against, the flow (m³/s) and the air (°C) it is judged at.
    layout: the way into this machine, None where nobody has said or nothing is known. connection: how it is fed.
    supply: the meter's supply, None where it follows from the machine's rating.
    """

    machine: Machine
    #: Other machines it may be, with the share of each before anything is read.
    kinds: tuple[tuple[Machine, float], ...] = ()
    #: None: nobody told, nor where it stands.
    air_told: AirState | None = None
    connection: Connection = "plug"
    supply_named: str | None = None
    circumstances: tuple[str, ...] = ()
    complaints: tuple[str, ...] = ()
    readings: tuple[Reading, ...] = ()
    findings: tuple[Finding, ...] = ()
    meter: tuple[Metered, ...] = ()
    logs: tuple[Logged, ...] = ()
    sounds: tuple[Sounded, ...] = ()
    #: How far each source stands out on healthy machines of the kind that were recorded for other jobs.
    sounds_healthy: tuple[Mapping[str, float], ...] = ()
    works: tuple[Ordered, ...] = ()
    added: tuple[Added, ...] = ()
    marks: tuple[Mark, ...] = ()
    counts: tuple[Counted, ...] = ()
    ways: tuple[WayChoice, ...] = ()
    causes: tuple[Cause, ...] = ()
    old_parts: tuple[OldPart, ...] = ()
    parts: tuple[PartSaid, ...] = ()
    agreements: tuple[Agreement, ...] = ()
    lint: tuple[LintFound, ...] = ()
    run: DrawnRun | None = None
    #: The vent drawn anew, and what was chosen of it.
    new_run: NewRun | None = None
    layout: Layout | None = None
    #: The layout is as this very machine was found, see departures.py; by_hand: with nothing known of it before.
    as_found: bool = False
    #: The layout as it was told, before anything was found otherwise.
    told_layout: Layout | None = None
    by_hand: bool = False
    handed_over: bool = False
    #: What the workshop's own jobs made of our tables.
    taught: Taught = UNTAUGHT

    @property
    def air(self) -> AirState:
        """The air it draws: as told, or the reference."""
        return self.air_told or AirState()

    @property
    def supply(self) -> str:
        """The supply that the meter's verdicts go by: as said, or as the machine's rating implies."""
        return self.supply_named or supply_of(self.machine.heat.supply_voltage_v)

    @property
    def wheel_known(self) -> bool:
        """Whether the wheel's speed follows from the drive: not where a belt of its own drives it, and nobody gave the
        pulleys' ratio."""
        belt = self.layout is not None and BLOWER_BELT in self.layout.parts
        return not belt or self.machine.drive.speed_ratio != 1

    @cached_property
    def speaking(self) -> frozenset[str]:
        """Ids of what was read, seen and heard that is in force, of both phases."""
        return frozenset(fact.id for kind in self._observed for fact in in_force(kind) if fact.id)

    @property
    def _observed(self) -> tuple[Iterable[Observation], ...]:
        return (self.readings, self.findings, self.meter, self.logs, self.sounds)

    @cached_property
    def healthy(self) -> tuple[Mapping[str, float], ...]:
        """How far each source stands out on every healthy machine of the kind that was recorded."""
        mine = [dict(fact.heard.stands) for fact in in_force(self.sounds) if fact.healthy and fact.heard.stands]
        return (*self.sounds_healthy, *mine)

    def told_by(self, fact: Sounded) -> SoundVerdict:
        """What a recording tells beside healthy machines of the kind; of such a one, as it was heard."""
        return fact.heard if fact.healthy else fact.heard.beside(self.healthy)

    def number_of(self, phase: Phase) -> int:
        """How many facts of a phase speak."""
        return sum(fact.phase == phase for kind in self._observed for fact in in_force(kind))

    def case(self, phase: Phase = "before") -> Case:
        """What the facts in force of one phase give the diagnosis."""
        readings = tuple(
            ReadingFact(fact.kind, fact.canonical, fact.heat_on, fact.instrument or None, fact.id)
            for fact in in_force(self.readings, phase)
        )
        looked = [FindingFact(fact.check, fact.result, fact.id) for fact in in_force(self.findings, phase)]
        return Case(
            machine=self.machine,
            kinds=self.kinds,
            air=self.air,
            air_told=self.air_told is not None,
            circumstances=frozenset(self.circumstances),
            complaints=frozenset(self.complaints),
            readings=readings,
            findings=(*looked, *self._metered(phase), *self._logged(phase), *self._sounded(phase)),
            taught=self.taught,
            motors=2 if self.layout is not None and DRUM_MOTOR in self.layout.parts else 1,
        )

    def judged(self, fact: Metered) -> MeterVerdict:
        """What a meter test means; an element is judged by this machine's rating where the test names none."""
        test, heat = fact.test, self.machine.heat
        if test.rated_power_w is None and heat.energy == "electric":
            # the same resistance, at whatever voltage the supply has
            voltage = supplies()[self.supply].leg_leg_v
            test = replace(test, rated_power_w=heat.power_w * (voltage / heat.supply_voltage_v) ** 2)
        return judge(test, self.supply)

    def _metered(self, phase: Phase) -> list[FindingFact]:
        """Verdicts on meter tests as findings; what has to be read again says nothing."""
        return [
            FindingFact(f"meter_{fact.test.part}", said, fact.id)
            for fact in in_force(self.meter, phase)
            if (said := AS_FINDING.get(self.judged(fact).verdict)) is not None
        ]

    def _logged(self, phase: Phase) -> list[FindingFact]:
        """Shapes of logs as findings, where one shape is clear."""
        found = []
        for fact in in_force(self.logs, phase):
            trend = trend_of(fact.series)
            check = next((name for name, row in checks().items() if fact.series.kind in row.logs), None)
            if check is not None and trend.probability[trend.shape] >= CLEAR_SHAPE:
                found.append(FindingFact(check, trend.shape, fact.id))
        return found

    def _sounded(self, phase: Phase) -> list[FindingFact]:
        """What recordings told as findings. How often a clear verdict is a wrong one, the check's table says; one that
        is not clear counts for each source as far as that speaks for it."""
        check = next(row for row in checks().values() if row.recorded)
        found = []
        for fact in in_force(self.sounds, phase):
            heard = self.told_by(fact)
            # what a healthy one shows as well is no clear verdict, either way
            clear = heard.clear and heard.source == fact.heard.source
            shares = () if clear else heard.shares_of(check.results)
            if not fact.healthy:
                found.append(FindingFact(check.name, heard.source, fact.id, shares))
        return found

    def settled(self) -> dict[str, Mark]:
        """The mark in force of each step that is done or not possible, in the order the steps were first marked."""
        latest = {mark.step: mark for mark in self.marks if name_at(LINE, mark.step) is None}
        return {step: mark for step, mark in latest.items() if mark.state != "undone"}

    def decided(self) -> dict[str, Mark]:
        """What was decided of lines of works, by the name of the act; parts taken along as it was said before there
        were lines are taken."""
        choice = next((way for way in reversed(self.ways) if way.also is not None), None)
        taken = [act for part in (choice.also or () if choice else ()) if (act := along_of(part)) is not None]
        found = {act.name: Mark(step=step_of(LINE, act.name), state="taken", by=choice.by if choice else "")
                 for act in taken}  # fmt: skip
        for mark in self.marks:
            name = name_at(LINE, mark.step)
            if name is not None:
                found[name] = mark
        return {name: mark for name, mark in found.items() if mark.state != "undone"}

    def ordered(self) -> tuple[Ordered, ...]:
        """Plain orders in force."""
        return tuple(row for row in self.works if not row.withdrawn)

    def marked(self, stage: str, state: MarkState) -> tuple[str, ...]:
        """Names of steps of a stage that are marked so, in the order of the marks that say it."""
        settled = self.settled()
        order = {mark.step: place for place, mark in enumerate(self.marks)}  # the last of each
        rows = sorted((step for step, mark in settled.items() if mark.state == state), key=lambda step: order[step])
        return tuple(name for step in rows if (name := name_at(stage, step)) is not None)

    def cause(self, kind: CauseKind) -> Cause | None:
        """The latest cause of a kind."""
        return next((cause for cause in reversed(self.causes) if cause.kind == kind), None)

    def old_part(self, kind: str) -> OldPart | None:
        """The machine's part of a kind, as its marks were last read."""
        rows = (row for row in reversed(self.old_parts) if row.marks.kind == kind and not row.withdrawn)
        return next(rows, None)

    def parts_said(self) -> tuple[PartSaid, ...]:
        """What holds of each part that was meant for the job, in the order they were first named."""
        return tuple({(row.part, row.number): row for row in self.parts}.values())

    def agreement(self) -> Agreement | None:
        """What the customer agreed to last; None where nobody asked, or it was taken back."""
        return next((row for row in reversed(self.agreements) if not row.withdrawn), None)

    def way_choice(self) -> WayChoice | None:
        """What is wanted of the way in, as it was last said."""
        return self.ways[-1] if self.ways else None

    def tallies(self) -> list[Tally]:
        """What was counted and said at the bench, in order."""
        return [row.tally for row in self.counts]


def in_force(facts: Iterable[_Seen], phase: Phase | None = None) -> list[_Seen]:
    """Facts that nothing supersedes and nobody took back, of one phase or of both."""
    rows = list(facts)
    replaced = {fact.supersedes for fact in rows if fact.supersedes and not fact.withdrawn}
    return [
        fact for fact in rows
        if not fact.withdrawn and (fact.id is None or fact.id not in replaced) and phase in (None, fact.phase)
    ]  # fmt: skip
