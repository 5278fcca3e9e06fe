"""A way on a grid as a run of pieces: what it is built of, and what a cell and a bend of it lose."""

from __future__ import annotations

from dataclasses import dataclass

from warmdraft.units import INCH_M
from warmdraft.vent.design import run_air_density
from warmdraft.vent.losses import Elbow, Hood, Piece, Straight, VentRun, piece_drops_pa
from warmdraft.vent.route import Opening, Way, Ways


@dataclass(frozen=True, slots=True)
class Build:
    """What a run is built of. bend: of 90°; hood: its style, None: a run without one."""

    bore_m: float
    material: str
    bend: Elbow
    hood: str | None = None


def built_of(diameter_in: float, material: str, bend: str, radius_in: float) -> Build:
    """A build as people name it: sizes in inches, a hood with a flap at its end.

    >>> built_of(4, "galvanised", "mitred", 6).bend
    Elbow(angle_deg=90.0, style='mitred', radius_m=None)
    """
    radius = radius_in * INCH_M if bend == "smooth" else None
    return Build(diameter_in * INCH_M, material, Elbow(90.0, bend, radius), hood="flap")


@dataclass(frozen=True, slots=True)
class Found:
    """A way and the run that follows it. drop_pa: static, the hood left out."""

    way: Way
    run: VentRun
    length_m: float
    drop_pa: float


def losses_pa(build: Build, cell_m: float, flow_m3s: float, air_temperature_c: float) -> tuple[float, float]:
    """What a straight as long as a cell and a bend lose, Pa, as the vent's own pieces do.

    >>> straight, bend = losses_pa(Build(0.1016, "galvanised", Elbow(90, "mitred")), 0.3, 0.07, 21.0)
    >>> bend > straight
    True
    """
    run = VentRun(build.bore_m, (Straight(cell_m, build.material), build.bend))
    straight, bend = piece_drops_pa(run, flow_m3s, run_air_density(air_temperature_c), air_temperature_c)
    return straight, bend


def best_way(
    ways: Ways, ends: list[Opening], build: Build, cell_m: float, flow_m3s: float, air_temperature_c: float
) -> Found | None:  # fmt: skip
    """The way to any end with the least pressure drop; None where none leads there. Raises VentError.

    >>> ways = Ways((4, 1, 1), [], Opening((0, 0, 0), "+x"))
    >>> build = Build(0.1016, "galvanised", Elbow(90, "mitred"), hood="flap")
    >>> found = best_way(ways, [Opening((3, 0, 0), "+x")], build, 0.5, 0.07, 21.0)
    >>> found.length_m, found.run.pieces
    (1.5, (Straight(length_m=1.5, material='galvanised'), Hood(style='flap')))
    """
    straight, bend = losses_pa(build, cell_m, flow_m3s, air_temperature_c)
    way = ways.to(ends, straight, bend)
    if way is None:
        return None
    run = VentRun(build.bore_m, pieces_along(way, build, cell_m))
    return Found(way, run, way.straights * cell_m, way.straights * straight + way.elbows * bend)


def pieces_along(way: Way, build: Build, cell_m: float) -> tuple[Piece, ...]:
    """The run's pieces in the air's order: straights between the bends, and the hood.

    >>> way = Ways((2, 2, 1), [], Opening((0, 0, 0), "+x")).to([Opening((1, 1, 0), "+y")], 1.0, 1.0)
    >>> [type(piece).__name__ for piece in pieces_along(way, built_of(4, "galvanised", "mitred", 6), 0.5)]
    ['Straight', 'Elbow', 'Straight', 'Hood']
    """
    pieces: list[Piece] = []
    at = 0
    for place, _ in (*way.turns, (way.straights, way.heading)):
        if place > at:
            pieces.append(Straight((place - at) * cell_m, build.material))
            at = place
        pieces.append(build.bend)
    pieces.pop()  # after the last straight there is no bend, but the end
    return (*pieces, Hood(build.hood)) if build.hood else tuple(pieces)
