"""The room a machine stands in, and a duct shared with others, as JSON and in words."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
import numpy.typing as npt

from warmdraft.airway import Conditions
from warmdraft.answers.quantity import Quantity, quantity
from warmdraft.answers.typed import small_unit, typed_si
from warmdraft.heat import Load
from warmdraft.teardown import step_of
from warmdraft.units import FOOT_M, INCH_M
from warmdraft.vent import (
    CLOSET_OPENING_M2,
    GRILLE_FREE,
    SPILLS_FROM_PA,
    Behind,
    Elbow,
    Hood,
    Joins,
    Riser,
    Shared,
    Straight,
    Tap,
    VentRun,
    opening_for_m2,
    patterns,
    shared,
)
from warmdraft.vent.design import LINT_MOVES_M_S, MAKEUP_AIR_M3S
from warmdraft.words import Words
from warmdraft.work import JobState
from warmdraft.work.expected import minutes_at
from warmdraft.work.room import Clearance, clearance, starved

Bools = npt.NDArray[np.bool_]
#: Between openings of a riser, m (own assumption): what rods reach from both sides.
OPENINGS_EVERY_M = 12 * FOOT_M
#: A machine with less than this share of its flow alone is told to be short (own assumption).
_SHORT_SHARE = 0.8


@dataclass(slots=True)
class ClearanceAnswer:
    """How far back a machine may go. mark: its back from the wall; expected: at the hood after the push; below: pull it
    forward; text: all of it, in order."""

    mark: Quantity
    expected: Quantity
    below: Quantity
    text: list[str]


@dataclass(slots=True)
class MakeupAnswer:
    """Air for the room. below: how far it lies below outdoors; spills: an open-flued appliance may; text, in order."""

    below: Quantity
    flow: Quantity
    spills: bool
    text: list[str]


@dataclass(slots=True)
class PatternAnswer:
    """Some machines running: what each gets, null where it is off, in their order from the foot; minutes of a load."""

    text: str
    flows: list[Quantity | None]
    minutes: list[float | None]
    least_speed: Quantity


@dataclass(slots=True)
class RiserAnswer:
    """A riser with so many machines like this one."""

    patterns: list[PatternAnswer]
    text: list[str]


#: Steps at which the machine goes back, or its mark is made.
PUSHED_BACK = frozenset({step_of("close", "vent_round"), step_of("mend", "leave_room"), step_of("mend", "build_run")})


def clearance_cautions(state: JobState, words: Words) -> list[str]:
    """How far back the machine may go and what to read after the push, where it was said what is behind it."""
    new = state.facts.new_run
    if new is None or new.behind is None:
        return []
    return list(_mark_and_check(clearance(state.rebuilt or state.facts.machine, new.behind), words))


def _mark_and_check(found: Clearance, words: Words) -> tuple[str, str]:
    """Where the machine stops, and what to read after the push."""
    book = words.texts("vent")["room"]
    flow, below = words.quantity(found.flow_m3s, "flow"), words.quantity(found.below_m3s, "flow")
    return str(book["mark"]).format(mark=words.sawn(found.mark_m)), str(book["check"]).format(flow=flow, below=below)


def clearance_answer(
    state: JobState, joins: Joins, diameter_in: float, recess: str, stands_out: str, words: Words
) -> ClearanceAnswer:  # fmt: skip
    """How far back this machine may go, by what is behind it as typed. Raises DocumentError, VentError."""
    small = small_unit(words)
    depth = typed_si("stands_out", stands_out, "length", small, 0.0)
    behind = Behind(diameter_in * INCH_M, joins, typed_si("recess", recess, "length", small, 0.0), depth)
    found = clearance(state.rebuilt or state.facts.machine, behind)
    book = words.texts("vent")["room"]
    mark, check = _mark_and_check(found, words)
    said = [mark]
    if depth and found.mark_m <= depth + 0.05 and found.mark_m > depth:
        said.append(str(book["by_pipes"]))
    said += [
        str(book["pushed"]).format(
            further=words.sawn(row.further_m), open=f"{100 * row.open_share:.0f} %",
            flow=words.quantity(row.flow_m3s, "flow"),
        )
        for row in found.pushed
    ]  # fmt: skip
    said.append(check)
    return ClearanceAnswer(
        quantity(found.mark_m, "m"), quantity(found.flow_m3s, "m3/s"), quantity(found.below_m3s, "m3/s"), said
    )


def makeup_answer(
    state: JobState, opening: float, grille: bool, others: str, closet: bool, words: Words
) -> MakeupAnswer:  # fmt: skip
    """The air this machine takes out of its room. opening: in the squares this person measures in, of a grille's face
    or of what is free; others: what other fans take out, as typed. Raises DocumentError."""
    square = INCH_M**2 if words.way_unit() == "ft" else 1e-4
    area = opening * square * (GRILLE_FREE if grille else 1.0)
    fans = typed_si("others", others, "flow", words.unit("flow"), 0.0)
    found = starved(state.facts.machine, fans, area)
    taken, book = found.flow_m3s + fans, words.texts("vent")["room"]
    limit = words.quantity(SPILLS_FROM_PA, "pressure")
    spills = found.below_pa > SPILLS_FROM_PA
    said = [
        str(book["balance"]).format(
            taken=words.quantity(taken, "flow"),
            opening=words.squares(area),
            below=words.quantity(found.below_pa, "pressure"),
        ),
        str(book["moves"]).format(
            flow=words.quantity(found.flow_m3s, "flow"), freely=words.quantity(found.freely_m3s, "flow")
        ),
        str(book["spills" if spills else "spills_not"]).format(limit=limit),
    ]
    if spills:
        wanted = opening_for_m2(found.freely_m3s + fans, SPILLS_FROM_PA)
        said.append(str(book["wants"]).format(limit=limit, opening=words.squares(wanted)))
    if closet:
        key = "closet_enough" if area >= CLOSET_OPENING_M2 else "closet"
        said.append(str(book[key]).format(opening=words.squares(CLOSET_OPENING_M2), has=words.squares(area)))
    if taken > MAKEUP_AIR_M3S:
        said.append(str(book["makeup"]).format(limit=words.quantity(MAKEUP_AIR_M3S, "flow")))
    return MakeupAnswer(quantity(found.below_pa, "Pa"), quantity(found.flow_m3s, "m3/s"), spills, said)


@dataclass(frozen=True, slots=True)
class RiserAsked:
    """A riser as it is asked for; lengths and pressures as typed. storey: between taps; end: behind the last."""

    machines: int
    diameter_in: float
    storey: str
    lateral: str
    lateral_bends: int
    end: str
    fan: str
    hood: Literal["flap", "open"]


def riser_answer(state: JobState, asked: RiserAsked, words: Words) -> RiserAnswer:
    """What each of so many machines like this one gets on a riser. Raises DocumentError, VentError."""
    way = words.way_unit()
    airway = state.facts.machine.airway
    lateral = Straight(typed_si("lateral", asked.lateral, "length", way, 1.0), "galvanised")
    tap = Tap(airway, VentRun(4 * INCH_M, (lateral, *[Elbow(90.0, "mitred")] * (asked.lateral_bends + 1))))
    bore = asked.diameter_in * INCH_M
    storey = VentRun(bore, (Straight(typed_si("storey", asked.storey, "length", way, 3.0), "galvanised"),))
    last = Straight(typed_si("end", asked.end, "length", way, 3.0), "galvanised")
    end = VentRun(bore, (last, Hood(asked.hood)))
    fan = typed_si("fan", asked.fan, "pressure", words.unit("pressure"), 0.0)
    riser = Riser((tap,) * asked.machines, (*(storey,) * (asked.machines - 1), end), fan)
    on = patterns(asked.machines)
    found = shared(riser, on)
    names = [_pattern(row, words) for row in on]
    rows = []
    for k, row in enumerate(on):
        first = int(np.argmax(row))
        minutes = [minutes_at(state.facts.machine, float(flow), Conditions(), Load()) if running and flow > 0 else None
                   for running, flow in zip(row, found.flow_m3s[k], strict=True)]  # fmt: skip
        rows.append(
            PatternAnswer(
                names[k],
                [quantity(float(flow), "m3/s") if running else None
                 for running, flow in zip(row, found.flow_m3s[k], strict=True)],
                minutes, quantity(float(found.speed_m_s[k, first:].min()), "m/s"),
            )
        )  # fmt: skip
    return RiserAnswer(rows, _riser_says(found, on, names, bool(fan), words))


def _pattern(on: Sequence[bool], words: Words) -> str:
    book = words.texts("vent")["riser"]
    if sum(on) == 1:
        return str(book["alone"]).format(number=list(on).index(True) + 1)
    return str(book["all" if all(on) else "every_other"])


def _riser_says(found: Shared, on: Bools, names: Sequence[str], fan: bool, words: Words) -> list[str]:
    book, count = words.texts("vent")["riser"], on.shape[1]
    flows = np.where(on, found.flow_m3s, np.inf)
    alone = found.flow_m3s.max(axis=0)  # nobody gets more than by itself
    pattern, tap = np.unravel_index(int(np.argmin(flows)), flows.shape)
    said = []
    shut = sorted({int(k) + 1 for k in np.argwhere(on & (found.flow_m3s <= 0))[:, 1]})
    said += [str(book["back"]).format(number=number) for number in shut]
    key = "short" if flows[pattern, tap] < _SHORT_SHARE * alone[tap] else "enough"
    said.append(
        str(book[key]).format(
            number=int(tap) + 1, flow=words.quantity(float(flows[pattern, tap]), "flow"),
            alone=words.quantity(float(alone[tap]), "flow"),
        )
    )  # fmt: skip
    said.append(_where_lint_settles(found, on, names, words))
    every = words.along(OPENINGS_EVERY_M)
    said.append(str(book["open_at"]).format(every=every))
    if fan:
        said.append(str(book["fan"]))
    return [*said, str(book["code"])] if count > 1 else said


def _where_lint_settles(found: Shared, on: Bools, names: Sequence[str], words: Words) -> str:
    """The slowest length that anything flows through, where that is too slow."""
    book = words.texts("vent")["riser"]
    speeds = np.where(found.riser_m3s > 0, found.speed_m_s, np.inf)
    pattern, length = np.unravel_index(int(np.argmin(speeds)), speeds.shape)
    speed = float(speeds[pattern, length])
    if speed >= LINT_MOVES_M_S:
        return str(book["never_settles"])
    last = int(length) == on.shape[1] - 1
    return str(book["settles"]).format(
        low=int(length) + 1, high=book["end"] if last else int(length) + 2,
        when=names[int(pattern)][:1].lower() + names[int(pattern)][1:],
        speed=words.quantity(speed, "air_speed"), limit=words.quantity(LINT_MOVES_M_S, "air_speed"),
    )  # fmt: skip
