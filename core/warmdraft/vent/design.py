"""A run judged as it is drawn: length, air speed, pressure, and what it breaks."""

from __future__ import annotations

import math
from dataclasses import dataclass

from warmdraft.air import (
    ROOM_RELATIVE_HUMIDITY,
    ROOM_TEMPERATURE_C,
    STANDARD_PRESSURE_PA,
    humidity_ratio,
    moist_density_kg_m3,
)
from warmdraft.vent.allowance import Allowance, CodeProfile, allowance_of, same_bore
from warmdraft.vent.losses import Flexible, Hood, Pinch, VentRun, piece_drops_pa

#: Air speed that keeps lint moving, m/s (1200 ft/min). Common practice, no source.
LINT_MOVES_M_S = 6.1
#: Outlet pressure a machine is made for where its plate is silent, Pa (0.6 inH2O). Common practice, no source.
OUTLET_LIMIT_PA = 150.0
#: Above this flow the room needs air let in, m³/s (200 cfm). International Residential Code, from memory.
MAKEUP_AIR_M3S = 0.0944
#: Flexible duct gives way when it hangs shorter than this, as a share (own assumption).
SLACK_SHARE = 0.05


@dataclass(frozen=True, slots=True)
class DesignWarning:
    """What a run breaks: a code, and the numbers in it (canonical units)."""

    code: str
    value: float | None = None
    limit: float | None = None


@dataclass(frozen=True, slots=True)
class RunVerdict:
    """A run at a flow. drops_pa: static, by piece."""

    allowance: Allowance
    air_speed_m_s: float
    drops_pa: tuple[float, ...]
    warnings: tuple[DesignWarning, ...]

    @property
    def pressure_drop_pa(self) -> float:
        """Static drop of the whole run."""
        return sum(self.drops_pa)


def run_air_density(air_temperature_c: float) -> float:
    """Density of the air in a run, kg/m³: a usual room's, warmed.

    >>> round(run_air_density(21.0), 2)
    1.19
    """
    humidity = humidity_ratio(ROOM_TEMPERATURE_C, ROOM_RELATIVE_HUMIDITY, STANDARD_PRESSURE_PA)
    return moist_density_kg_m3(air_temperature_c, humidity, STANDARD_PRESSURE_PA)


def judge_run(run: VentRun, flow_m3s: float, profile: CodeProfile, air_temperature_c: float) -> RunVerdict:
    """Judge a run. Local codes and the maker's sheet come first; what is said here is said beside them.

    flow_m3s: m³/s; air_temperature_c: °C, of the air in the run. Raises VentError.

    >>> from warmdraft.vent import Straight, code_profiles
    >>> run = VentRun(0.1016, (Straight(3.0, 'smooth'), Hood('flap')))
    >>> found = judge_run(run, 0.07, code_profiles()['residential-model'], 50.0)
    >>> round(found.air_speed_m_s, 1), found.allowance.within
    (8.6, True)
    """
    drops = piece_drops_pa(run, flow_m3s, run_air_density(air_temperature_c), air_temperature_c)
    widest, odd = max(run.bores_m), max(run.bores_m, key=lambda bore: abs(bore - profile.bore_m))
    speed = flow_m3s / (math.pi * (widest - 2 * run.lint_layer_m) ** 2 / 4)  # where lint settles first
    allowance = allowance_of(run, profile)
    warnings = []

    def warn(code: str, value: float | None = None, limit: float | None = None) -> None:
        warnings.append(DesignWarning(code, value, limit))

    if not allowance.within:
        warn("too_long", allowance.length_m, allowance.allowed_m)
    if not same_bore(odd, profile.bore_m):
        warn("other_bore", odd, profile.bore_m)
    if speed < LINT_MOVES_M_S:
        warn("lint_settles", speed, LINT_MOVES_M_S)
    if sum(drops) > OUTLET_LIMIT_PA:
        warn("outlet_limit", sum(drops), OUTLET_LIMIT_PA)
    if flow_m3s > MAKEUP_AIR_M3S:
        warn("makeup_air", flow_m3s, MAKEUP_AIR_M3S)
    for piece in run.pieces:
        if isinstance(piece, Flexible):
            warn("flexible_in_run")
            if piece.compression > SLACK_SHARE:
                warn("flexible_slack", piece.compression, SLACK_SHARE)
        elif isinstance(piece, Pinch) and piece.open_share < 1:
            warn("pinched", piece.open_share)
    hoods = [place for place, piece in enumerate(run.pieces) if isinstance(piece, Hood)]
    if not hoods:
        warn("no_hood")
    elif hoods != [len(run.pieces) - 1]:
        warn("hood_inside")
    elif isinstance(run.pieces[-1], Hood) and run.pieces[-1].style != "flap":
        warn("no_flap")
    if run.lint_layer_m > 0:
        warn("lint_layer", run.lint_layer_m)
    return RunVerdict(allowance, speed, drops, tuple(_once(warnings)))


def _once(warnings: list[DesignWarning]) -> list[DesignWarning]:
    seen: dict[str, DesignWarning] = {}
    for warning in warnings:
        kept = seen.get(warning.code)
        if kept is None or (warning.value or 0) > (kept.value or 0):
            seen[warning.code] = warning
    return list(seen.values())
