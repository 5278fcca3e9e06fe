"""A run as its pieces, and what each loses."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from warmdraft.air import REFERENCE_DENSITY_KG_M3, ROOM_TEMPERATURE_C
from warmdraft.errors import VentError
from warmdraft.vent.friction import FLEXIBLE_ROUGHNESS_M, ROUGHNESS_M, friction_drop_pa, velocity_pressure_pa

#: Loss coefficients of bends. Smooth, 90°, by radius over bore: the geometric mean of two published correlations for a
#: 4 in bore at a dryer's Reynolds number, 6e4 (Rennels and Hudson 2012; Miller 1990), which lie within 20 % of it; the
#: tables for ducts of 250 mm that stood here gave half. What other angles lose of that, and mitred, by angle: ASHRAE
#: duct fitting tables, from memory.
SMOOTH_90 = ((0.5, 1.15), (0.75, 0.58), (1.0, 0.386), (1.5, 0.284), (2.0, 0.253), (2.5, 0.246))
SMOOTH_ANGLE = ((0, 0.0), (20, 0.31), (30, 0.45), (45, 0.60), (60, 0.78), (75, 0.90), (90, 1.0), (110, 1.13),
                (130, 1.20), (150, 1.28), (180, 1.40))  # fmt: skip
MITRED = ((0, 0.0), (20, 0.08), (30, 0.16), (45, 0.34), (60, 0.55), (75, 0.81), (90, 1.2), (180, 2.4))
#: Total loss of a clean flap hood (own assumption, from the reference machine: 25 Pa at 51 Pa of velocity pressure).
FLAP_HOOD_TOTAL = 1.5
OPEN_END_TOTAL = 1.0


@dataclass(frozen=True, slots=True)
class Straight:
    """Straight round duct."""

    length_m: float
    material: str


@dataclass(frozen=True, slots=True)
class Elbow:
    """A bend; radius of its centre line where smooth."""

    angle_deg: float
    style: str
    radius_m: float | None = None


@dataclass(frozen=True, slots=True)
class Flexible:
    """Flexible duct as installed; compression: how much shorter it hangs than pulled straight, a share."""

    length_m: float
    compression: float


@dataclass(frozen=True, slots=True)
class Pinch:
    """A dent; open_share: what is left of the area."""

    open_share: float


@dataclass(frozen=True, slots=True)
class Hood:
    """The end outdoors."""

    style: str


Piece = Straight | Elbow | Flexible | Pinch | Hood


@dataclass(frozen=True, slots=True)
class VentRun:
    """A run; lint_layer: thickness on the wall. own_bores_m: of pieces of another bore than the run's, by their places;
    empty where all are of one."""

    bore_m: float
    pieces: tuple[Piece, ...]
    lint_layer_m: float = 0.0
    own_bores_m: tuple[float | None, ...] = ()

    def __post_init__(self) -> None:
        for bore in self.bores_m or (self.bore_m,):
            if not 0 < 2 * self.lint_layer_m + 0.001 < bore:
                raise VentError(
                    f"a lint layer of {self.lint_layer_m * 1000:g} mm leaves no bore in {bore * 1000:g} mm of duct"
                )

    @property
    def bores_m(self) -> tuple[float, ...]:
        """The bore of each piece."""
        own = self.own_bores_m or (None,) * len(self.pieces)
        return tuple(self.bore_m if bore is None else bore for bore in own)


def flexible_multiplier(compression: float, bore_m: float) -> float:
    """How many times the friction of stretched duct: 1 + 0.58·r·e^(−0.00496·D), r in percent, D in mm.

    Source: ASHRAE Fundamentals, duct design, from memory; fitted on 150–400 mm, so extrapolated here.

    >>> round(flexible_multiplier(0.15, 0.102), 2)
    6.25
    """
    return 1 + 0.58 * 100 * compression * math.exp(-0.00496 * bore_m * 1000)


def pinch_coefficient(open_share: float) -> float:
    """Loss of a dent, K = (1/(C_c·σ) − 1)², C_c = 0.62 + 0.38σ³. Source: Weisbach, from memory.

    >>> round(pinch_coefficient(0.5), 1)
    4.0
    """
    contraction = 0.62 + 0.38 * open_share**3
    return (1 / (contraction * open_share) - 1) ** 2


def _between(table: tuple[tuple[float, float], ...], at: float) -> float:
    """A table's value, linear between its rows and held at its ends."""
    points = np.array(table)
    return float(np.interp(at, points[:, 0], points[:, 1]))


def elbow_coefficient(elbow: Elbow, bore_m: float) -> float:
    """Loss coefficient of a bend."""
    if elbow.style == "mitred":
        return _between(MITRED, elbow.angle_deg)
    return _between(SMOOTH_90, (elbow.radius_m or bore_m) / bore_m) * _between(SMOOTH_ANGLE, elbow.angle_deg)


def piece_drops_pa(
    run: VentRun, flow_m3s: float, density_kg_m3: float = REFERENCE_DENSITY_KG_M3,
    temperature_c: float = ROOM_TEMPERATURE_C,
) -> tuple[float, ...]:  # fmt: skip
    """Static drop of each piece, Pa. A hood's is (K − 1)·p_v: its velocity pressure is lost outdoors.

    flow_m3s: m³/s, above 0. Source: Darcy–Weisbach with the friction factor of the flow, loss coefficients of fittings.

    >>> run = VentRun(0.1016, (Straight(3.0, 'smooth'), Elbow(90, 'smooth', 0.15)))
    >>> [round(drop) for drop in piece_drops_pa(run, 0.07)]  # Pa
    [27, 13]
    """
    drops = []
    before = velocity_pressure_pa(flow_m3s, run.bore_m - 2 * run.lint_layer_m, density_kg_m3)
    for piece, whole in zip(run.pieces, run.bores_m, strict=True):
        bore = whole - 2 * run.lint_layer_m
        head = velocity_pressure_pa(flow_m3s, bore, density_kg_m3)
        match piece:
            case Straight():
                drop = friction_drop_pa(piece.length_m, bore, ROUGHNESS_M[piece.material], flow_m3s, density_kg_m3,
                                        temperature_c)  # fmt: skip
            case Flexible():
                straight = friction_drop_pa(piece.length_m, bore, FLEXIBLE_ROUGHNESS_M, flow_m3s, density_kg_m3,
                                            temperature_c)  # fmt: skip
                drop = straight * flexible_multiplier(piece.compression, whole)
            case Elbow():
                drop = elbow_coefficient(piece, bore) * head
            case Pinch():
                drop = pinch_coefficient(piece.open_share) * head
            case Hood():
                total = FLAP_HOOD_TOTAL if piece.style == "flap" else OPEN_END_TOTAL
                drop = (total - 1) * head
        drops.append(drop + step_drop_pa(before, head))
        before = head
    return tuple(drops)


def step_drop_pa(before_pa: float, after_pa: float) -> float:
    """Static drop where the bore changes at once, from the velocity pressures on both sides, Pa; negative where static
    pressure is won.

    A widening loses (1 − A₁/A₂)² of the velocity pressure before it (Borda and Carnot), a narrowing ½(1 − A₂/A₁)^¾ of
    that behind it (Idelchik, sharp edges); both from memory.

    >>> step_drop_pa(50.0, 50.0)
    0.0
    """
    if before_pa == after_pa:
        return 0.0
    share = math.sqrt(min(before_pa, after_pa) / max(before_pa, after_pa))  # of the areas, the smaller of the larger
    lost = (1 - share) ** 2 * before_pa if after_pa < before_pa else 0.5 * (1 - share) ** 0.75 * after_pa
    return lost + after_pa - before_pa


def run_and_hood_drop_pa(run: VentRun, flow_m3s: float) -> tuple[float, float | None]:
    """Drop of the run, and of the hood where it has one, Pa at the reference density.

    flow_m3s: m³/s.

    >>> run = VentRun(0.1016, (Straight(3.0, 'smooth'), Hood('flap')))
    >>> along, hood = run_and_hood_drop_pa(run, 0.07)
    >>> round(along), round(hood)  # Pa
    (27, 22)
    """
    drops = list(zip(run.pieces, piece_drops_pa(run, flow_m3s), strict=True))
    hoods = [drop for piece, drop in drops if isinstance(piece, Hood)]
    return sum(drop for piece, drop in drops if not isinstance(piece, Hood)), sum(hoods) if hoods else None
