"""The static pressure along the air's way, room to outdoors."""

from __future__ import annotations

from dataclasses import dataclass

from warmdraft.airway.operating_point import AirFlow

#: Places along the way, each named for the element the air has just left. `hood` is outdoors.
NODES = (
    "room", "inlet", "drum", "lint_screen", "lint_duct", "blower", "exhaust_pipe", "transition", "run", "hood",
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class ProfileRow:
    """One stretch of the way: its flow and the gauge pressure at both its ends."""

    element: str
    flow_m3s: float
    pressure_in_pa: float
    pressure_out_pa: float


def profile_rows(flow: AirFlow, index: tuple[int, ...]) -> list[ProfileRow]:
    """The profile of the hypothesis at `index`, room → outdoors, the blower between.

    Pressures in Pa against the room.

    >>> from warmdraft.airway import healthy_state, solve
    >>> from warmdraft.machine import profile
    >>> airway = profile('full-size-electric').airway
    >>> rows = profile_rows(solve(healthy_state(airway), airway.fan), (0,))
    >>> rows[0].element, round(rows[0].pressure_out_pa, 1), rows[-1].element
    ('inlet', -23.3, 'hood')
    """
    pressures = flow.pressures[index]
    through = {
        "inlet": flow.heater, "drum": flow.heater, "lint_screen": flow.screen, "lint_duct": flow.screen,
        "blower": flow.wheel, "exhaust_pipe": flow.outlet, "transition": flow.vent, "run": flow.vent,
        "hood": flow.vent,
    }  # fmt: skip
    return [
        ProfileRow(element, float(through[element][index]), float(pressures[i]), float(pressures[i + 1]))
        for i, element in enumerate(NODES[1:])
    ]
