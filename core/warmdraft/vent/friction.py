"""Friction of air in round duct."""

from __future__ import annotations

import numpy as np

from warmdraft.air import ROOM_TEMPERATURE_C, Floats
from warmdraft.units import ZERO_C_K

#: Sutherland's law for air: viscosity at 0 °C, Pa·s, and its constant, K. From memory; the general fluids library
#: agrees to 1 %.
VISCOSITY_0C_PA_S, SUTHERLAND_K = 1.716e-5, 110.4
#: Below this Reynolds number flow is laminar and f = 64/Re. Source: Hagen and Poiseuille; the limit, common practice.
LAMINAR_BELOW = 2300.0
_PASSES = 8  # of the fixed point: each gains more than one digit

#: Roughness of duct, m. Galvanised: published with the ASHRAE friction chart; aluminium and smooth: from memory.
ROUGHNESS_M = {"galvanised": 0.09e-3, "aluminium": 0.03e-3, "smooth": 0.0015e-3}
#: Roughness of flexible duct stretched straight, m: own assumption (tables say 0.9 to 3 mm, from memory).
FLEXIBLE_ROUGHNESS_M = 0.9e-3


def friction_factor(reynolds: Floats, relative_roughness: Floats | float) -> Floats:
    """Darcy friction factor; arrays that broadcast.

    Source: Colebrook's equation by fixed point, 64/Re below a Reynolds number of 2300.

    >>> friction_factor(np.array([3.9e4]), 0.09e-3 / 0.1016).round(4)
    array([0.0246])
    """
    re = np.asarray(reynolds, dtype=float)
    root = np.full(np.broadcast_shapes(re.shape, np.shape(relative_roughness)), 7.0)  # 1/√f, near f = 0.02
    for _ in range(_PASSES):
        root = -2 * np.log10(relative_roughness / 3.7 + 2.51 * root / np.maximum(re, LAMINAR_BELOW))
    return np.where(re < LAMINAR_BELOW, 64 / np.maximum(re, 1e-9), root**-2)


def viscosity_pa_s(temperature_c: float) -> float:
    """Dynamic viscosity of air. Source: Sutherland's law.

    >>> round(viscosity_pa_s(21.0) * 1e5, 2)
    1.82
    """
    kelvin = temperature_c + ZERO_C_K
    ratio = kelvin / ZERO_C_K
    return float(VISCOSITY_0C_PA_S * ratio**1.5 * (ZERO_C_K + SUTHERLAND_K) / (kelvin + SUTHERLAND_K))


def velocity_pressure_pa(flow_m3s: float, bore_m: float, density_kg_m3: float) -> float:
    """p_v = ½ρV², Pa.

    >>> round(velocity_pressure_pa(0.075, 0.1016, 1.2), 1)
    51.3
    """
    speed = flow_m3s / (np.pi * bore_m**2 / 4)
    return float(density_kg_m3 * speed**2 / 2)


def friction_drop_pa(
    length_m: float, bore_m: float, roughness_m: float, flow_m3s: float, density_kg_m3: float,
    temperature_c: float = ROOM_TEMPERATURE_C,
) -> float:  # fmt: skip
    """Static loss of straight round duct, Pa. Source: Darcy–Weisbach."""
    speed = flow_m3s / (np.pi * bore_m**2 / 4)
    reynolds = density_kg_m3 * speed * bore_m / viscosity_pa_s(temperature_c)
    factor = friction_factor(np.asarray(reynolds), roughness_m / bore_m)
    return float(factor * length_m / bore_m * velocity_pressure_pa(flow_m3s, bore_m, density_kg_m3))
