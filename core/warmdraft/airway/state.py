"""The airway of one machine under many hypotheses: a struct of arrays."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from warmdraft.air import Floats
from warmdraft.machine import ELEMENTS, Airway
from warmdraft.machine.model import UPSTREAM_ELEMENTS

#: Pressure left at rated flow once the transition is taken off the collar, Pa (own assumption).
VENT_OFF_DROP_PA = 2.0


@dataclass(frozen=True, slots=True)
class AirwayState:
    """What a hypothesis changes in the airway. All arrays broadcast against each other; last axis of
    `resistance` runs over ELEMENTS, the others have no such axis.

    resistance in Pa/(m³/s)², conductances in m³/s/√Pa, room_deficit_pa: how far outdoors lies above the room;
    head_left, free_flow_left: shares of the fan's curve; speed_left, power_left: shares of nominal; *_offset_k:
    how far a thermostat opens from its mark.
    """

    resistance: Floats  # (..., 8)
    drum_seal: Floats  # (...)
    lint_duct_seal: Floats
    parted_pipe: Floats
    detached_transition: Floats
    room_deficit_pa: Floats
    head_left: Floats
    free_flow_left: Floats
    speed_left: Floats
    power_left: Floats
    cycling_offset_k: Floats
    limit_offset_k: Floats

    def with_resistance_of(self, element: str, times: float | Floats) -> AirwayState:
        """The same airway with one element's resistance multiplied."""
        factor = np.ones(len(ELEMENTS))
        column = ELEMENTS.index(element)
        times = np.asarray(times, dtype=float)
        factor = np.broadcast_to(factor, (*times.shape, len(ELEMENTS))).copy()
        factor[..., column] = times
        return replace(self, resistance=self.resistance * factor)

    def nudged(self, log_step: float) -> AirwayState:
        """Nine copies along a new last hypothesis axis: as it is, then each element's resistance × (1 + log_step)."""
        steps = np.vstack([np.ones(len(ELEMENTS)), np.ones((len(ELEMENTS),) * 2) + log_step * np.eye(len(ELEMENTS))])
        columns = {
            name: np.asarray(getattr(self, name))[..., None]
            for name in self.__slots__
            if name != "resistance"
        }  # fmt: skip
        return AirwayState(resistance=self.resistance[..., None, :] * steps, **columns)

    def vent_off(self, airway: Airway) -> AirwayState:
        """The transition taken off the collar: no joint, no vent and no outdoors behind it."""
        resistance = np.array(self.resistance, copy=True)
        resistance[..., ELEMENTS.index("transition")] = VENT_OFF_DROP_PA / airway.rated_flow_m3s**2
        resistance[..., ELEMENTS.index("run")] = 0.0
        resistance[..., ELEMENTS.index("hood")] = 0.0
        nothing = np.zeros(1)
        return replace(self, resistance=resistance, detached_transition=nothing, room_deficit_pa=nothing)

    def healed(self, element: str, airway: Airway) -> AirwayState:
        """The same airway with one element as it was when healthy."""
        resistance = np.array(self.resistance, copy=True)
        resistance[..., ELEMENTS.index(element)] = airway.drop_pa(element) / airway.rated_flow_m3s**2
        return replace(self, resistance=resistance)

    def screen_out(self) -> AirwayState:
        """The lint screen taken out of its slot."""
        return self.with_resistance_of("lint_screen", 0.0)


def leak_conductance(airway: Airway, seal: str) -> float:
    """Healthy conductance of a seal: its share of rated flow over the root of the healthy drops upstream of it.

    seal: "drum_seal" or "lint_duct_seal". m³/s/√Pa. Own convention (docs/formats).
    """
    upstream, share = {
        "drum_seal": (2, airway.drum_seal_share),
        "lint_duct_seal": (UPSTREAM_ELEMENTS, airway.lint_duct_seal_share),
    }[seal]
    return share * airway.rated_flow_m3s / float(np.sqrt(sum(airway.drops_pa[:upstream])))


def bypass_conductance(airway: Airway, bypass: str) -> float:
    """Conductance of an opening as large as the way it bypasses: rated flow over the root of that way's drops.

    bypass: "parted_pipe" (pipe + transition + run + hood) or "detached_transition" (transition + run + hood).
    """
    first = {"parted_pipe": UPSTREAM_ELEMENTS, "detached_transition": UPSTREAM_ELEMENTS + 1}[bypass]
    return airway.rated_flow_m3s / float(np.sqrt(sum(airway.drops_pa[first:])))


def healthy_state(airway: Airway) -> AirwayState:
    """The airway as it left the factory, and the vent as it was built.

    One hypothesis: resistances Pa/(m³/s)² by element, leak conductances m³/(s·√Pa), shape (1,) before them.

    >>> from warmdraft.machine import profile
    >>> healthy_state(profile('full-size-electric').airway).resistance.shape
    (1, 8)
    """
    one, nothing = np.ones(1), np.zeros(1)
    return AirwayState(
        resistance=(np.array(airway.drops_pa) / airway.rated_flow_m3s**2)[None, :],
        drum_seal=np.full(1, leak_conductance(airway, "drum_seal")),
        lint_duct_seal=np.full(1, leak_conductance(airway, "lint_duct_seal")),
        parted_pipe=nothing,
        detached_transition=nothing,
        room_deficit_pa=nothing,
        head_left=one,
        free_flow_left=one,
        speed_left=one,
        power_left=one,
        cycling_offset_k=nothing,
        limit_offset_k=nothing,
    )
