"""What a run is built of: pieces cut to length, bends, hood, tape, what holds it, and the order it goes together in."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from warmdraft.tables import rows
from warmdraft.units import FOOT_M, INCH_M, to_si
from warmdraft.vent.losses import Elbow, Hood, Straight, VentRun

#: How far one piece goes into the next, in the direction of the air, m (1.5 in; common practice, no source).
LAP_M = 1.5 * INCH_M
#: Tape once round a joint, over its own end, and to spare (own assumption).
TAPE_OVER = 1.15
#: A straight shorter than this is held by its neighbours, m (own assumption).
HELD_FROM_M = 3 * FOOT_M
#: Throat of a mitred bend: from its centre to its face, in bores (own assumption).
MITRED_TAKES = 0.5
#: Parts of a run beside its duct.
RUN_PARTS = ("duct_elbow", "hood", "duct_support", "metal_tape", "transition_duct", "clamps")
#: Clamps of a transition: one at each end.
TRANSITION_CLAMPS = 2


@dataclass(frozen=True, slots=True)
class DuctStock:
    """A standard length of duct, m; way_unit: for who measures a run in it."""

    length_m: float
    way_unit: str


@lru_cache(maxsize=1)
def duct_stock() -> dict[str, DuctStock]:
    """Standard lengths of rigid duct by the part they are in a catalogue.

    >>> round(duct_stock()["duct_60in"].length_m, 3)
    1.524
    """

    def stock(_: str, row: dict[str, Any]) -> DuctStock:
        value, unit = row["length"]
        return DuctStock(to_si(value, unit, "length"), row["for"])

    return rows("duct_stock", stock)


@dataclass(frozen=True, slots=True)
class Cut:
    """A piece of straight duct as it is cut, m. straight: which straight of the run it is of, from 0."""

    straight: int
    length_m: float


@dataclass(frozen=True, slots=True)
class Materials:
    """What a run takes. cuts: in the air's order; parts: numbers by kind, the duct left out; tape_m: length of tape;
    tight: straights too short for the bends at their ends, from 0."""

    cuts: tuple[Cut, ...]
    parts: Mapping[str, int]
    tape_m: float
    tight: tuple[int, ...]


def materials_of(run: VentRun, stock_m: Sequence[float], supports_m: float) -> Materials:
    """What a run of straights and bends takes, by standard lengths there are; supports_m: how often it is held.

    A straight is measured between the centres of its bends: they take their radius of it. Each piece goes into the next
    by LAP_M. What is longer than every standard length is joined of whole ones and a rest.

    >>> run = VentRun(0.1016, (Straight(3.0, "galvanised"), Elbow(90, "smooth", 0.15), Hood("flap")))
    >>> materials = materials_of(run, [1.5], 3.66)
    >>> [round(cut.length_m, 3) for cut in materials.cuts], dict(materials.parts)["duct_elbow"]
    ([1.5, 1.426], 1)
    """
    longest = max(stock_m)
    straights = [(k, piece) for k, piece in enumerate(run.pieces) if isinstance(piece, Straight)]
    cuts: list[Cut] = []
    tight = []
    for number, (place, piece) in enumerate(straights):
        near = [run.pieces[k] for k in (place - 1, place + 1) if 0 <= k < len(run.pieces)]
        clear = piece.length_m - sum(_takes_m(bend, run.bore_m) for bend in near if isinstance(bend, Elbow))
        if clear <= 0:
            tight.append(number)
            continue
        length = clear + LAP_M
        while length > longest + 1e-9:
            cuts.append(Cut(number, longest))
            length -= longest - LAP_M
        cuts.append(Cut(number, length))
    bends = sum(isinstance(piece, Elbow) for piece in run.pieces)
    joints = len(cuts) + bends  # each with what comes before it; the hood with the last
    held = sum(
        max(1, math.ceil(piece.length_m / supports_m)) for _, piece in straights if piece.length_m >= HELD_FROM_M
    )
    hoods = sum(isinstance(piece, Hood) for piece in run.pieces)
    parts = dict(zip(RUN_PARTS, (bends, hoods, held, 1, 1, TRANSITION_CLAMPS), strict=True))
    return Materials(
        tuple(cuts), {part: count for part, count in parts.items() if count},
        joints * math.pi * run.bore_m * TAPE_OVER, tuple(tight),
    )  # fmt: skip


def _takes_m(bend: Elbow, bore_m: float) -> float:
    """From a bend's centre to its face."""
    radius = MITRED_TAKES * bore_m if bend.style == "mitred" else (bend.radius_m or bore_m)
    return radius * math.tan(math.radians(bend.angle_deg) / 2)
