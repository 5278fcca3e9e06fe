"""The shape of `warm-draft/layout`: the operations that open a machine, and what each needs, frees and reaches."""

from __future__ import annotations

from typing import Annotated, Any, ClassVar, Literal

from pydantic import Field, model_validator

from warmdraft.jobfile.limits import Operations
from warmdraft.jobfile.parts import Length, Number, Section, between, one_of, refused
from warmdraft.mending import ATTACHMENTS, ROLES
from warmdraft.tables import table
from warmdraft.teardown import SCHOOLS

Name = Annotated[str, Field(min_length=1, max_length=200)]
Text = Annotated[str, Field(max_length=600)]
Minutes = Annotated[Number, between(0, 24 * 60, "number of minutes")]
Count = Annotated[int, between(0, 500, "count")]


class FastenerSection(Section):
    kind: Name
    count: Count
    state: Annotated[str, one_of("a state of a fastener", ("out", "loosened"))]
    length: Length | None = None
    goes_into: Annotated[str, one_of("what it goes into", ("metal", "plastic"))] | None = None
    thread: Name | None = None
    finish: Name | None = None
    hidden: Text | None = None
    holds: Text | None = None
    drop_hazard: bool | None = None


class WireSection(Section):
    device: Name
    terminal: Name
    colour: Name
    ground: bool | None = None


class OperationSection(Section):
    may_be_null: ClassVar[tuple[str, ...]] = ("driver",)

    id: Name
    does: Text
    open_minutes: Minutes
    close_minutes: Minutes
    driver: Name | None
    needs: list[list[Name]]
    reaches: list[Name]
    fasteners: list[FastenerSection]
    wires: list[WireSection] | None = None
    cautions: list[Text] | None = None
    cautions_off: list[Text] | None = None
    close_before: list[Name] | None = None
    people: Annotated[int, between(1, 10, "number of people")] | None = None
    area: Name | None = None
    shows: list[Name] | None = None
    latch: Annotated[str, one_of("a latch", tuple(table("latches")))] | None = None
    way: Text | None = None
    school: bool | None = None
    argued: Annotated[str, one_of("what practitioners argue about", SCHOOLS)] | None = None
    back: Text | None = None
    check: list[Text] | None = None
    uses_up: list[Name] | None = None
    carries_over: list[Name] | None = None
    gear: list[Name] | None = None
    qualified: Annotated[str, one_of("a qualification", ("live", "gas"))] | None = None
    attachment: Annotated[str, one_of("an attachment", ATTACHMENTS)] | None = None
    role: Annotated[str, one_of("a role", ROLES)] | None = None


Coordinate = Annotated[Number, between(-50, 150, "place in the drawing")]
Point = Annotated[list[Coordinate], Field(min_length=2, max_length=2)]


class ShapeSection(Section):
    """A shape of the cut-away: one of a box (left, top, right, bottom), a circle (x, y, radius), a path."""

    kind: Name
    label: Text | None = None
    box: Annotated[list[Coordinate], Field(min_length=4, max_length=4)] | None = None
    circle: Annotated[list[Coordinate], Field(min_length=3, max_length=3)] | None = None
    path: Annotated[list[Point], Field(min_length=3, max_length=60)] | None = None

    @model_validator(mode="after")
    def _one_shape(self) -> Any:
        if sum(form is not None for form in (self.box, self.circle, self.path)) != 1:
            raise refused("is no shape; give one of box, circle, path")
        return self


class DrawingSection(Section):
    """The cut-away from the side, front at the left, 100 wide and 100 high."""

    air_in: Annotated[list[Point], Field(max_length=60)]
    air_out: Annotated[list[Point], Field(max_length=60)]
    shapes: dict[Name, ShapeSection]


class LayoutDocument(Section):
    """A layout as a file: `warm-draft/layout`, version 1."""

    format: Literal["warm-draft/layout"]
    version: Literal[1]
    name: Name
    title: Text | None = None
    notes: str | None = None
    maker: Name | None = None
    driver_change_minutes: Minutes
    electrical: dict[Name, Text] | None = None
    drawing: DrawingSection | None = None
    operations: Operations[OperationSection]

    @model_validator(mode="after")
    def _shapes_are_there(self) -> Any:
        shapes = self.drawing.shapes if self.drawing else {}
        for i, operation in enumerate(self.operations):
            for shape in operation.shows or ():
                if shape not in shapes:
                    raise refused(f"'{shape}' is no shape of the drawing; give one of {', '.join(shapes) or 'none'}",
                                f"operations[{i}].shows")  # fmt: skip
        return self
