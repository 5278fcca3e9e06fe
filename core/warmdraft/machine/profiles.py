"""Profiles: whole machines as data, one TOML table each."""

from __future__ import annotations

from functools import cache
from typing import Any

from warmdraft.machine.model import ELEMENTS, Airway, Drive, Fan, Heat, Limits, Machine
from warmdraft.tables import table

DEFAULT_PROFILE = "full-size-electric"


def profile_names() -> tuple[str, ...]:
    """Names of the profiles, the default first."""
    return tuple(table("profiles"))


@cache
def profile(name: str) -> Machine:
    """The machine a profile describes. Raises KeyError for an unknown name: callers check against profile_names."""
    row: dict[str, Any] = table("profiles")[name]
    airway, heat, drive, limits = row["airway"], row["heat"], row["drive"], row["limits"]
    fan = airway["fan"]
    return Machine(
        profile=name,
        airway=Airway(
            rated_flow_m3s=airway["rated_flow_m3s"],
            fan=Fan(fan["shutoff_pressure_pa"], fan["free_flow_m3s"], fan["wheel_speed_rpm"]),
            drops_pa=tuple(airway["drop_at_rated_flow_pa"][element] for element in ELEMENTS),
            drum_seal_share=airway["leak_share"]["drum_seal"],
            lint_duct_seal_share=airway["leak_share"]["lint_duct_seal"],
        ),
        heat=Heat(
            energy=heat["energy"],
            power_w=heat["power_w"],
            supply_voltage_v=heat["supply_voltage_v"],
            limits=Limits(**limits),
        ),
        drive=Drive(**drive),
    )
