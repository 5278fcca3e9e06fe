"""A new run on a grid, and pieces from standard lengths, as JSON."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from warmdraft.air import ROOM_TEMPERATURE_C
from warmdraft.answers.quantity import Quantity, quantity
from warmdraft.errors import CutError, DocumentError, VentError
from warmdraft.jobfile.route_schema import CutDocument, RouteDocument
from warmdraft.jobfile.runs import piece_document
from warmdraft.jobfile.strict import read_as
from warmdraft.stock import Cuts, Stock, cut_list
from warmdraft.vent import Build, Opening, Ways, best_way, least_in_the_way


@dataclass(slots=True)
class RouteAnswer:
    """The way with the least pressure drop. path: its cells; end: which of those asked for; pieces: as a vent document
    takes them; pressure_drop: the hood's left out; optimal: nothing loses less."""

    path: list[list[int]]
    end: int
    elbows: int
    length: Quantity
    pressure_drop: Quantity
    pieces: list[dict[str, Any]]
    optimal: bool


def route_answer(value: Any) -> RouteAnswer:
    """The best way of a new run. Raises DocumentError, also where none leads out: with what is in the way."""
    document = read_as(RouteDocument, value, "a run to be found on a grid")
    ends = [end.opening() for end in document.ends]
    _check_places(document, ends)
    hood = document.hood.style if document.hood else None
    build = Build(document.diameter.si("length"), document.material, document.elbow.bend(), hood)
    temperature = document.air_temperature.si("temperature") if document.air_temperature else ROOM_TEMPERATURE_C
    try:
        ways = Ways(document.cells, document.blocked, Opening(document.start, document.heading))
        flow = document.flow.si("flow")
        found = best_way(ways, ends, build, document.cell.si("length"), flow, temperature)
    except VentError as error:
        raise DocumentError("$", str(error)) from None
    if found is None:
        raise DocumentError("$", _no_way(document, ends))
    return RouteAnswer(
        path=[list(cell) for cell in found.way.cells], end=found.way.end, elbows=found.way.elbows,
        length=quantity(found.length_m, "m"), pressure_drop=quantity(found.drop_pa, "Pa"),
        pieces=[piece_document(piece) for piece in found.run.pieces], optimal=True,
    )  # fmt: skip


def _check_places(document: RouteDocument, ends: list[Opening]) -> None:
    places = [(f"$.blocked[{k}]", cell) for k, cell in enumerate(document.blocked)]
    places += [("$.start", document.start)]
    places += [(f"$.ends[{k}].cell", end.cell) for k, end in enumerate(ends)]
    last = [side - 1 for side in document.cells]
    for path, cell in places:
        if not all(0 <= place <= most for place, most in zip(cell, last, strict=True)):
            raise DocumentError(path, f"{list(cell)} lies outside the grid; give a cell from [0, 0, 0] to {last}")
    if document.start in set(document.blocked):
        raise DocumentError("$.start", f"{list(document.start)} is blocked; free it, or start elsewhere")


#: Cells that are named where they are in the way; the rest is counted.
_NAMED = 6


def _no_way(document: RouteDocument, ends: list[Opening]) -> str:
    start = Opening(document.start, document.heading)
    between = least_in_the_way(document.cells, document.blocked, start, ends)
    named = ", ".join(str(list(cell)) for cell in between[:_NAMED]) + (" …" if len(between) > _NAMED else "")
    return (
        f"no way leads from {list(document.start)} to any end; the least that is in the way are {len(between)} blocked "
        f"cells ({named}): free them, or give another end or start"
    )


@dataclass(slots=True)
class BarAnswer:
    """A length that is bought: which stock, what is cut from it, what is left."""

    stock: int
    pieces: list[Quantity]
    left: Quantity


@dataclass(slots=True)
class CutAnswer:
    """The cheapest purchase, cut. optimal: proven to be."""

    bars: list[BarAnswer]
    cost: float
    waste: Quantity
    optimal: bool


def cut_answer(value: Any) -> CutAnswer:
    """What to buy and how to cut it. Raises DocumentError."""
    document = read_as(CutDocument, value, "pieces to be cut")
    stock = [Stock(row.length.si("length"), row.price) for row in document.stock]
    pieces = [piece.si("length") for piece in document.pieces]
    try:
        return _cut(cut_list(stock, pieces, document.kerf.si("length") if document.kerf else 0.0))
    except CutError as error:
        raise DocumentError(f"$.pieces[{error.piece}]", str(error)) from None


def _cut(cuts: Cuts) -> CutAnswer:
    bars = [
        BarAnswer(bar.stock, [quantity(piece, "m") for piece in bar.pieces_m], quantity(bar.left_m, "m"))
        for bar in cuts.bars
    ]
    return CutAnswer(bars, float(cuts.cost), quantity(cuts.waste_m, "m"), cuts.optimal)
