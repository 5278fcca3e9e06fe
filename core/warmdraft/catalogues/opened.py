"""The shape of the tables of ways into a machine."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

from warmdraft.catalogues.names import Minutes, Part, Qualified, Row, Words, hardware, named, names_of, words_of
from warmdraft.mending import Attachment, Role
from warmdraft.tables import table
from warmdraft.teardown import layout_names


class OperationRow(Row):
    """An operation of a layout, or one that layouts share; the rest of its rules are the layout format's."""

    use: Annotated[str, named("shared operation", names_of("operations"))] | None = None
    when: dict[str, list[str]] | None = None
    id: str | None = None
    does: Words | None = None
    open_minutes: Minutes | None = None
    close_minutes: Minutes | None = None
    driver: Annotated[str, named("driver", names_of("drivers"))] | None = None
    needs: list[list[str]] | None = None
    reaches: list[Part] | None = None
    fasteners: list[LayoutFastenerRow] | None = None
    wires: list[LayoutWireRow] | None = None
    cautions: list[Words] | None = None
    cautions_off: list[Words] | None = None
    close_before: list[str] | None = None
    people: int | None = None
    area: Annotated[str, named("area", words_of("area", "bench"))] | None = None
    shows: list[str] | None = None
    latch: Annotated[str, named("latch", names_of("latches"))] | None = None
    way: Words | None = None
    school: bool | None = None
    argued: Annotated[str, named("school", words_of("school", "bench"))] | None = None
    back: Words | None = None
    check: list[Words] | None = None
    uses_up: list[Part] | None = None
    carries_over: list[Part] | None = None
    gear: list[Annotated[str, hardware("gear")]] | None = None
    qualified: Qualified | None = None
    attachment: Attachment | None = None
    role: Role | None = None


class LengthRow(Row):
    """A length with its unit."""

    value: float
    unit: str


class LayoutFastenerRow(Row):
    """Fasteners of one kind at an operation."""

    kind: Annotated[str, hardware("fastener")]
    count: Annotated[int, Field(ge=0)]
    state: Literal["out", "loosened"]
    length: LengthRow | None = None
    goes_into: Literal["metal", "plastic"] | None = None
    thread: Annotated[str, hardware("thread")] | None = None
    finish: Annotated[str, hardware("finish")] | None = None
    hidden: Words | None = None
    holds: Words | None = None
    drop_hazard: bool | None = None


class LayoutWireRow(Row):
    """A wire that comes off."""

    device: Annotated[str, hardware("device")]
    terminal: Annotated[str, hardware("terminal")]
    colour: Annotated[str, hardware("colour")]
    ground: bool | None = None


class VariantRow(BaseModel):
    """Something machines of a layout differ in: what to ask, and an answer a key.

    seen: a look that recognises layouts and whose answers it shares.
    """

    model_config = ConfigDict(extra="allow")
    __pydantic_extra__: dict[str, Words]

    asks: Words
    seen: Annotated[str, named("question", names_of("recognise"))] | None = None

    @model_validator(mode="after")
    def _shared(self) -> VariantRow:
        answers = table("recognise")[self.seen]["answers"] if self.seen else self.__pydantic_extra__
        missing = set(self.__pydantic_extra__) - set(answers)
        if missing:
            raise ValueError(f"{sorted(missing)} are no answers of '{self.seen}'; give the same ones, or no 'seen'")
        return self


class LabelRow(BaseModel):
    """A shape of the drawing; its form is the layout format's."""

    model_config = ConfigDict(extra="allow")

    label: Words | None = None


class DrawingRow(Row):
    """The cut-away."""

    air_in: list[Any]
    air_out: list[Any]
    shapes: dict[str, LabelRow]


class DrawnRow(Row):
    """What a shape of a kind stands for."""

    parts: Annotated[list[Annotated[str, named("part", lambda: table("hardware")["part"])]], Field(min_length=1)]


class LayoutTable(Row):
    """A layout of ours; what follows from it as a document is checked by the layout format."""

    name: Annotated[str, named("file of layouts/", layout_names)]
    title: Words
    maker: str
    driver_change_minutes: Minutes
    variants: dict[str, VariantRow] = Field(default_factory=dict)
    recognise: dict[Annotated[str, named("question", names_of("recognise"))], list[str]]
    electrical: dict[Annotated[str, named("electrical part", names_of("meter"))], Words]
    drawing: DrawingRow
    operations: Annotated[list[OperationRow], Field(min_length=1)]
