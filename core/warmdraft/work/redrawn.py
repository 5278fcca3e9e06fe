"""The vent drawn anew for one machine: the ways out of its outlets, what each gives it, and why there is none."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from warmdraft.air import ROOM_TEMPERATURE_C
from warmdraft.airway import Conditions
from warmdraft.diagnosis import Case
from warmdraft.heat import Load
from warmdraft.machine import Machine
from warmdraft.proof import promised_flow
from warmdraft.vent import (
    MOVED,
    OUTLETS,
    SIDE_ROOM_M,
    Build,
    Cell,
    Found,
    Heading,
    Opening,
    Outlet,
    Plan,
    RunVerdict,
    Ways,
    best_way,
    judge_run,
    least_in_the_way,
    with_run,
)
from warmdraft.work.expected import minutes_at
from warmdraft.work.new_run import healthy_flow

WhyNot = Literal["no_kit", "off_the_plan", "blocked", "no_room", "no_hood", "no_way"]
#: Ways that are put side by side at most.
MOST_WAYS = 3


@dataclass(frozen=True, slots=True)
class WayOut:
    """One way of a new run. verdict: held against the code profile, with its hood; machine: this one on it; flow_m3s:
    at its outlet, 5, 50 and 95 %, once it is mended; minutes: of a load, None where it never dries."""

    outlet: Outlet
    face: Heading
    found: Found
    verdict: RunVerdict
    machine: Machine
    flow_m3s: tuple[float, float, float]
    minutes: float | None

    @property
    def fits(self) -> bool:
        """Whether it is within its allowance and what a machine's outlet is made for."""
        return not {warning.code for warning in self.verdict.warnings} & {"too_long", "outlet_limit"}


@dataclass(frozen=True, slots=True)
class Closed:
    """An outlet, or an outlet and a face, that no way leads from, and why. between: kinds of the things that the least
    that is in the way is made of, each with its number of cells; room_m: what is free there."""

    outlet: Outlet
    face: Heading | None
    why: WhyNot
    between: tuple[tuple[str, int], ...] = ()
    room_m: float = 0.0


@dataclass(frozen=True, slots=True)
class WaysOut:
    """All that a plan gives. ways: what fits first, then the least pressure; closed: where there is none."""

    ways: tuple[WayOut, ...]
    closed: tuple[Closed, ...]


def ways_out(plan: Plan, build: Build, before: Case, cause: str | None, parts: Sequence[str]) -> WaysOut:
    """The ways of a new run out of each outlet that this machine has, to each face outdoors.

    cause: what the work goes by, None while nobody knows; parts: what its layout reaches, which says whether an outlet
    can be moved. Raises VentError.
    """
    return _ways_out(plan, build, before, cause, tuple(parts))


@lru_cache(maxsize=64)
def _ways_out(plan: Plan, build: Build, before: Case, cause: str | None, parts: tuple[str, ...]) -> WaysOut:
    flow = healthy_flow(before.machine)
    blocked = plan.blocked()
    open_, closed = [], list[Closed]()
    ends = {face: plan.ends(face) for face in plan.faces}
    for outlet in OUTLETS:
        shut = _shut(plan, outlet, parts, blocked)
        begin = plan.begins(outlet)
        if shut is not None or begin is None:
            closed.append(shut or Closed(outlet, None, "off_the_plan"))
            continue
        ways = Ways(plan.size, blocked, begin)
        for face, hoods in ends.items():
            found = best_way(ways, hoods, build, plan.cell_m, flow, ROOM_TEMPERATURE_C)
            if found is None:
                closed.append(_no_way(plan, outlet, face, begin, hoods, blocked))
            else:
                open_.append(_way_out(plan, outlet, face, found, before, cause, flow))
    open_.sort(key=lambda way: (not way.fits, way.verdict.pressure_drop_pa))
    return WaysOut(tuple(open_), tuple(closed))


def _shut(plan: Plan, outlet: Outlet, parts: Sequence[str], blocked: Mapping[Cell, str]) -> Closed | None:
    """Why an outlet cannot be used at all; None where it can."""
    if outlet in MOVED and MOVED[outlet] not in parts:
        return Closed(outlet, None, "no_kit")
    begin = plan.begins(outlet)
    if begin is None:
        return Closed(outlet, None, "off_the_plan")
    if begin.cell in blocked:
        return Closed(outlet, None, "blocked", ((blocked[begin.cell], 1),))
    room = plan.room_m(outlet)
    if outlet in ("left", "right") and room < SIDE_ROOM_M:
        return Closed(outlet, None, "no_room", room_m=room)
    return None


def _no_way(
    plan: Plan, outlet: Outlet, face: Heading, begin: Opening, hoods: Sequence[Opening], blocked: Mapping[Cell, str]
) -> Closed:  # fmt: skip
    if not hoods:
        return Closed(outlet, face, "no_hood")
    between: dict[str, int] = {}
    for cell in least_in_the_way(plan.size, blocked, begin, hoods):
        between[blocked[cell]] = between.get(blocked[cell], 0) + 1
    return Closed(outlet, face, "no_way", tuple(between.items()))


def _way_out(
    plan: Plan, outlet: Outlet, face: Heading, found: Found, before: Case, cause: str | None, flow: float
) -> WayOut:  # fmt: skip
    verdict = judge_run(found.run, flow, plan.code_profile, ROOM_TEMPERATURE_C)
    machine = with_run(before.machine, found.run, plan.code_profile)
    gives = promised_flow(before, cause, machine)
    return WayOut(outlet, face, found, verdict, machine, gives, minutes_at(machine, gives[1], Conditions(), Load()))
