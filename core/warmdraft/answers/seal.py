"""A seal that is cut, as JSON and in words: its length, its glue, what a gap in it would cost."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from warmdraft.air import opening_conductance
from warmdraft.airway import AirwayState, healthy_state, solve
from warmdraft.answers.mending import SchoolAnswer
from warmdraft.answers.quantity import Quantity, quantity
from warmdraft.answers.typed import small_unit, typed_si
from warmdraft.diagnosis.evidence import conditions_of
from warmdraft.heat import Load, drying_case
from warmdraft.heat.drying import dry
from warmdraft.mending import Cut, Edge, cut_length, glue_has_to_stand
from warmdraft.words import Words
from warmdraft.work import JobState

#: Gaps that are reckoned: a fold's, a hand's breadth that came off, a third of the way round; m².
_GAPS_M2 = (1e-4, 4e-4, 15e-4)
#: A load that takes so much longer is told in minutes.
_LEAST_MINUTES = 0.5


@dataclass(slots=True)
class GapAnswer:
    """What a gap would cost: air that goes round what it should go through, and minutes of a load more; null: it is not
    dry in four hours."""

    area_cm2: float
    flow: Quantity
    minutes: float | None
    text: str


@dataclass(slots=True)
class SealAnswer:
    """A seal that is cut. joint, joint_at: where its ends meet; glue: which, and how it cures; round: its edge is a
    circle."""

    cuts: Cut
    length: Quantity
    text: str
    joint: str
    joint_at: Literal["side", "top"]
    glue: str
    round: bool
    gaps: list[GapAnswer]
    schools: list[SchoolAnswer]


def seal_answer(state: JobState, cuts: Cut, across: str, down: str, lap: str, words: Words) -> SealAnswer:
    """How long to cut foam or felt, by its edge as typed; down: empty for a round one; lap: of the felt's kind.

    Raises DocumentError for what is no length, SealError for an edge of no dryer.
    """
    unit = small_unit(words)
    edge = Edge(
        typed_si("across", across, "length", unit), typed_si("down", down, "length", unit) if down.strip() else None
    )
    length = cut_length(cuts, edge, typed_si("lap", lap, "length", unit, 0.0))
    book = words.texts("mending")["seal"]
    machine = state.facts.machine
    hottest = machine.heat.limits.high_limit_opens_c if cuts == "felt" else machine.heat.limits.cycling_opens_c
    return SealAnswer(
        cuts=cuts, length=quantity(length, "m"),
        text=str(book[cuts]).format(length=words.quantity(length, "length")),
        joint=str(book["joint_foam" if cuts == "foam" else "joint_felt"]),
        joint_at="side" if cuts == "foam" else "top",
        glue=str(book["glue"]).format(stands=words.quantity(glue_has_to_stand(hottest), "temperature")),
        round=edge.down_m is None, gaps=_gaps(state, cuts, words),
        schools=[SchoolAnswer(**words.texts("mending")["seal_school"])] if cuts == "foam" else [],
    )  # fmt: skip


def _gaps(state: JobState, cuts: Cut, words: Words) -> list[GapAnswer]:
    """Each gap on this machine, mended but for it."""
    airway, conditions = state.facts.machine.airway, conditions_of(state.before)
    healthy = healthy_state(airway)
    seal = "lint_duct_seal" if cuts == "foam" else "drum_seal"
    heated = float(solve(healthy, airway.fan).heater[0])
    whole = _minutes(state, healthy)
    found = []
    for area in _GAPS_M2:
        passes = getattr(healthy, seal) + opening_conductance(area, conditions.density_kg_m3)
        leaking = replace(healthy, **{seal: passes})
        lost = heated - float(solve(leaking, airway.fan).heater[0])
        minutes = _minutes(state, leaking)
        more = None if minutes is None or whole is None else minutes - whole
        key = "gap_wet" if more is None else "gap_little" if more < _LEAST_MINUTES else "gap"
        text = str(words.texts("mending")["seal"][key]).format(
            area=words.squares(area), flow=words.quantity(lost, "flow"), minutes=f"{more or 0:.0f}"
        )
        found.append(GapAnswer(area * 1e4, quantity(lost, "m3/s"), more, text))
    return found


def _minutes(state: JobState, airway: AirwayState) -> float | None:
    return dry(drying_case(state.facts.machine, airway, conditions_of(state.before), Load())).minutes
