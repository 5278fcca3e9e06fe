"""What a machine and its surroundings may be beside what the job tells of them.

A job names a kind of machine, an altitude, a vent; each may be otherwise than told, or not told at all. Every setting
is one way it may be, with its share before anything is read; the hypotheses of all settings are weighed together, so
that a fault is believed only as far as no setting explains the readings without it.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import product
from typing import Literal, get_args

from warmdraft.airway import Conditions
from warmdraft.machine import ELEMENTS, Machine

SettingCode = Literal["as_told", "other_kind", "high_up", "facing"]
#: All but the first: what may be otherwise.
OTHERWISE: tuple[str, ...] = get_args(SettingCode)[1:]

#: Log-standard deviation of each element between two healthy machines of a model (own assumption).
ELEMENT_SCATTER = 0.12
#: Vents within the codes' allowance that nobody drew or gave, as times what the profile has (12.7 ft of straight pipe,
#: a short stretched transition): median and log-standard deviation. Own reckoning: 35 ft straight is 2.8 times, 25 ft
#: with two mitred bends 4.7; 8 ft of flexible transition stretched 3.8, slack more.
USUAL_VENT: dict[str, tuple[float, float]] = {"run": (2.0, 0.65), "transition": (1.8, 0.6)}
#: Where the usual spread is tried, in standard deviations, and what each point keeps of it: together its variance.
_TRIED: dict[str, tuple[tuple[float, ...], float]] = {
    "run": ((-1.06, 0.0, 1.06), 0.5),
    "transition": ((-0.8, 0.8), 0.6),
}
#: The same where fewer points have to do.
_TRIED_ROUGHLY: dict[str, tuple[tuple[float, ...], float]] = {"run": ((-0.85, 0.85), 0.53), "transition": ((0.0,), 1.0)}
#: Severities a fault with a range is tried at: with the vent known, with its spread, in settings that are unlikely.
STEPS, STEPS_SPREAD, STEPS_ROUGH = 32, 16, 8
#: Jobs in which the machine is of another kind than told; told of no altitude, how many stand about so much higher, by
#: what is left of the air's density; in which the tube faces the stream (own assumptions).
OTHER_KIND_SHARE = 0.03
HIGH_UP = ((0.886, 0.03), (0.785, 0.02))
FACING_SHARE = 0.03


#: How the logarithms of ELEMENTS scatter: 8 rows, each element's share in each of eight standard normals.
Scatter = tuple[tuple[float, ...], ...]


def independent(deviations: Sequence[float]) -> Scatter:
    """Each element by itself, with its own log-standard deviation."""
    return tuple(
        tuple(deviation if column == row else 0.0 for column in range(len(deviations)))
        for row, deviation in enumerate(deviations)
    )


#: Between two healthy machines of a model, whose vent is known.
BETWEEN_MACHINES = independent((ELEMENT_SCATTER,) * len(ELEMENTS))


@dataclass(frozen=True, slots=True)
class Setting:
    """One way it may be.

    share: before anything is read; steps: severities tried; scatter: of ELEMENTS between machines; facing: the pressure
    tube faces the stream; remains: severities are what a repair may have left of a fault, from hardly any.
    """

    code: SettingCode
    machine: Machine
    conditions: Conditions
    share: float
    steps: int
    scatter: Scatter
    facing: bool = False
    remains: bool = False


def healthy_scatter(machine: Machine) -> Scatter:
    """How a healthy machine scatters about what is known of it."""
    airway = machine.airway
    if airway.own is not None:
        return airway.own
    return independent([USUAL_VENT[name][1] if name in airway.unknown else ELEMENT_SCATTER for name in ELEMENTS])


def usual_machine(machine: Machine) -> Machine:
    """The machine with a vent as it usually is, where nothing is known of it."""
    return _with_drops(machine, {element: USUAL_VENT[element][0] for element in machine.airway.unknown})


def _with_drops(machine: Machine, times: dict[str, float]) -> Machine:
    drops = tuple(
        drop * times.get(element, 1.0) for element, drop in zip(ELEMENTS, machine.airway.drops_pa, strict=True)
    )
    return replace(machine, airway=replace(machine.airway, drops_pa=drops))


def _vents(machine: Machine, roughly: bool) -> list[tuple[Machine, float, Scatter]]:
    """The machine with each vent it is tried with: its share, and the scatter left about it."""
    unknown = machine.airway.unknown
    if not unknown:
        return [(machine, 1.0, healthy_scatter(machine))]
    tried = _TRIED_ROUGHLY if roughly else _TRIED
    left = {element: tried[element][1] * USUAL_VENT[element][1] for element in unknown}
    scatter = independent([left.get(element, ELEMENT_SCATTER) for element in ELEMENTS])
    points = list(product(*(tried[element][0] for element in unknown)))
    vents = []
    for point in points:
        times = {
            element: USUAL_VENT[element][0] * math.exp(at * USUAL_VENT[element][1])
            for element, at in zip(unknown, point, strict=True)
        }
        vents.append((_with_drops(machine, times), 1 / len(points), scatter))
    return vents


@lru_cache(maxsize=256)
def settings_of(
    machine: Machine, conditions: Conditions, kinds: tuple[tuple[Machine, float], ...], air_told: bool
) -> tuple[Setting, ...]:
    """All settings of a job, as told first.

    kinds: other machines it may be, with their shares; none where the job describes it itself.
    """
    others = sum(share for _, share in kinds)
    high = 0.0 if air_told else sum(share for _, share in HIGH_UP)
    told = 1 - others - high - FACING_SHARE
    vents = _vents(machine, roughly=False)
    steps = STEPS if len(vents) == 1 else STEPS_SPREAD
    found = [Setting("as_told", made, conditions, told * share, steps, scatter) for made, share, scatter in vents]
    rough = _vents(machine, roughly=True)
    for kind, kind_share in kinds:
        found += [
            Setting("other_kind", made, conditions, kind_share * share, STEPS_ROUGH, scatter)
            for made, share, scatter in _vents(kind, roughly=True)
        ]
    if not air_told:
        for left, high_share in HIGH_UP:
            thin = replace(conditions, density_kg_m3=left * conditions.density_kg_m3)
            found += [Setting("high_up", made, thin, high_share * share, STEPS_ROUGH, scatter)
                      for made, share, scatter in rough]  # fmt: skip
    found += [Setting("facing", made, conditions, FACING_SHARE * share, STEPS_ROUGH, scatter, facing=True)
              for made, share, scatter in rough]  # fmt: skip
    return tuple(found)
