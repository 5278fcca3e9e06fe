"""Swaps: something is taken out of the air's way for a minute, and the stream is felt before and after."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from warmdraft.air import Floats
from warmdraft.airway import AirFlow, AirwayState, healthy_state, solve
from warmdraft.machine import Airway


@dataclass(frozen=True, slots=True)
class Swap:
    """What changes in the airway, and which flow is felt: "vent" at the hood, "outlet" at the parted joint."""

    change: Callable[[AirwayState, Airway], AirwayState]
    felt: str

    def gain(self, state: AirwayState, airway: Airway, before: AirFlow) -> Floats:
        """Flow swapped over flow before, (H,); `before` is the operating point of `state`."""
        after = solve(self.change(state, airway), airway.fan)
        return np.asarray(self._flow(after) / np.maximum(self._flow(before), 1e-9))

    def _flow(self, flow: AirFlow) -> Floats:
        return flow.vent if self.felt == "vent" else flow.outlet


def _no_deficit(state: AirwayState, _: Airway) -> AirwayState:
    return replace(state, room_deficit_pa=np.zeros(1))


def _parted_at_wall(state: AirwayState, airway: Airway) -> AirwayState:
    return _no_deficit(state.with_resistance_of("run", 0.0).with_resistance_of("hood", 0.0), airway)


SWAPS: dict[str, Swap] = {
    "flap_held": Swap(lambda state, airway: state.healed("hood", airway), "vent"),
    "room_open": Swap(_no_deficit, "vent"),
    "screen_out": Swap(lambda state, _: state.screen_out(), "vent"),
    "transition_eased": Swap(lambda state, airway: state.healed("transition", airway), "vent"),
    "vent_off": Swap(lambda state, airway: state.vent_off(airway), "outlet"),
    "parted_at_wall": Swap(_parted_at_wall, "outlet"),
}


def gains(state: AirwayState, airway: Airway, before: AirFlow) -> dict[str, Floats]:
    """What each swap gains, (H,) by name; `before` is the operating point of `state`."""
    return {name: swap.gain(state, airway, before) for name, swap in SWAPS.items()}


@lru_cache(maxsize=64)
def healthy_gains(airway: Airway) -> dict[str, float]:
    """What each swap gains on a healthy machine."""
    healthy = healthy_state(airway)
    return {name: float(gain[0]) for name, gain in gains(healthy, airway, solve(healthy, airway.fan)).items()}
