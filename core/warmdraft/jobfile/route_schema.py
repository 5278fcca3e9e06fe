"""The shapes of `warm-draft/route` and `warm-draft/cut`: a new run on a grid, and pieces from standard lengths."""

from __future__ import annotations

from decimal import Decimal
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BeforeValidator, Field

from warmdraft.errors import UnitError
from warmdraft.jobfile.limits import MOST_PIECES, no_more_than
from warmdraft.jobfile.parts import Flow, Length, Quantity, Section, Temperature, one_of, refused
from warmdraft.jobfile.vent_schema import ELBOW_STYLES, HOOD_STYLES, MATERIALS
from warmdraft.vent import HEADINGS, Elbow, Heading, Opening

#: Cells along a side of a grid, and in all; ends of a route; kinds of stock; what a cut takes, m.
MOST_ALONG, MOST_CELLS, MOST_ENDS, MOST_STOCKS, MOST_KERF_M = 200, 50_000, 2_000, 12, 0.05


def _whole(value: Any) -> bool:
    return isinstance(value, int) and not isinstance(value, bool)


def _cell(value: Any) -> Any:
    if not (isinstance(value, list | tuple) and len(value) == 3 and all(_whole(place) for place in value)):
        raise refused(f"{value!r} is no cell; give three whole numbers, such as [0, 2, 1]")
    return tuple(value)


def _spot(value: Any) -> Any:
    if not (isinstance(value, list | tuple) and len(value) in (2, 3) and all(_whole(place) for place in value)):
        raise refused(f"{value!r} is no corner; give [x, y], or [x, y, z] where its height is known")
    return tuple(value)


def _grid(value: Any) -> Any:
    size = _cell(value)
    if not all(1 <= side <= MOST_ALONG for side in size) or size[0] * size[1] * size[2] > MOST_CELLS:
        raise refused(
            f"{list(size)} is no grid; give 1 to {MOST_ALONG} cells along each side, and at most {MOST_CELLS} in all"
        )
    return size


Cell = Annotated[tuple[int, int, int], BeforeValidator(_cell)]
Grid = Annotated[tuple[int, int, int], BeforeValidator(_grid)]
#: A place on the floor, or one with its height.
Spot = Annotated[tuple[int, int] | tuple[int, int, int], BeforeValidator(_spot)]
HeadingName = Annotated[Heading, one_of("a heading", HEADINGS)]


class OpeningSection(Section):
    """Where a run ends, and the heading in which it leaves there."""

    cell: Cell
    heading: HeadingName

    def opening(self) -> Opening:
        """As the core thinks of it."""
        return Opening(self.cell, self.heading)


class ElbowSection(Section):
    """The bend that a route is built with."""

    style: Annotated[str, one_of("a style", ELBOW_STYLES)]
    radius: Length | None = None

    def bend(self) -> Elbow:
        """As the core thinks of it: of 90°."""
        return Elbow(90.0, self.style, self.radius.si("length") if self.radius else None)


class HoodSection(Section):
    """The hood that a route ends with."""

    piece: Literal["hood"] | None = None
    style: Annotated[str, one_of("a style", HOOD_STYLES)]


def _hood(value: Any) -> Any:
    return {"style": value} if isinstance(value, str) else value


class RouteDocument(Section):
    """A run to be found on a grid: `warm-draft/route`, version 1."""

    format: Literal["warm-draft/route"]
    version: Literal[1]
    cells: Grid
    cell: Length
    blocked: Annotated[list[Cell], no_more_than(MOST_CELLS, "blocked cells")] = []
    start: Cell
    heading: HeadingName
    ends: Annotated[list[OpeningSection], no_more_than(MOST_ENDS, "ends"), Field(min_length=1)]
    diameter: Length
    flow: Flow
    air_temperature: Temperature | None = None
    material: Annotated[str, one_of("a material", MATERIALS)]
    elbow: ElbowSection
    hood: Annotated[HoodSection, BeforeValidator(_hood)] | None = None
    title: str | None = None
    notes: str | None = None


def _price(value: Decimal) -> Decimal:
    if not 0 <= value <= 1_000_000:
        raise refused(f"{value} is no price; give one from 0 to 1000000")
    return value


def _exact(value: Any) -> Any:
    """A price as it is written."""
    if isinstance(value, bool) or not isinstance(value, int | float) or value != value:
        raise refused(f"{value!r} is no price; give a number")
    return Decimal(str(value))


class StockSection(Section):
    """A standard length as it is sold."""

    length: Length
    price: Annotated[Decimal, BeforeValidator(_exact), AfterValidator(_price)]


def _kerf(value: Quantity) -> Quantity:
    try:
        taken = value.si("length")
    except UnitError as error:
        raise refused(str(error), "unit") from None
    if not 0 <= taken <= MOST_KERF_M:
        raise refused(f"{value.value:g} {value.unit} is no kerf; give what a saw takes, 0 to 5 cm", "value")
    return value


Kerf = Annotated[Quantity, AfterValidator(_kerf)]


class CutDocument(Section):
    """Pieces to be cut from standard lengths: `warm-draft/cut`, version 1."""

    format: Literal["warm-draft/cut"]
    version: Literal[1]
    stock: Annotated[list[StockSection], no_more_than(MOST_STOCKS, "kinds of stock"), Field(min_length=1)]
    pieces: Annotated[list[Length], no_more_than(MOST_PIECES, "pieces"), Field(min_length=1)]
    kerf: Kerf | None = None
    title: str | None = None
    notes: str | None = None
