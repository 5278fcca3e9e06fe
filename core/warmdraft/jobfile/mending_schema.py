"""The shapes of `warm-draft/wheel` and `warm-draft/part-match`: what sits on a shaft, and a part beside its like."""

from __future__ import annotations

from typing import Annotated, Literal, get_args

from warmdraft.jobfile.parts import Power, Quantity, Section, Temperature, between, in_dimension, one_of
from warmdraft.mending import ATTACHMENTS, ENDS, ROLES, Part, Seat
from warmdraft.mending.match import Resets
from warmdraft.mending.thread import Attachment, End, Hand, Role, Turn
from warmdraft.tables import table

KINDS = tuple(table("hardware")["part"])
_TURN = one_of("a turn", get_args(Turn))
_END = one_of("an end of the shaft", ENDS)


class WheelDocument(Section):
    """What sits on the end of a shaft: `warm-draft/wheel`, version 1."""

    format: Literal["warm-draft/wheel"]
    version: Literal[1]
    attachment: Annotated[Attachment, one_of("an attachment", ATTACHMENTS)]
    role: Annotated[Role, one_of("a role", ROLES)]
    runs: Annotated[Turn, _TURN]
    seen_from: Annotated[End, _END]
    hand: Annotated[Hand, one_of("a hand", get_args(Hand))] | None = None
    arrow: Annotated[Turn, _TURN] | None = None
    kneels: Annotated[End, _END] = "free_end"
    title: str | None = None
    notes: str | None = None

    def seat(self) -> Seat:
        """As the core thinks of it."""
        return Seat(self.attachment, self.role, self.runs, self.seen_from, self.hand, self.arrow, self.kneels)


class PartSection(Section):
    """One electrical part by its marks."""

    kind: Annotated[str, one_of("a part", KINDS)]
    resets: Annotated[Resets, one_of("a way to reset", get_args(Resets))] | None = None
    opens_at: Temperature | None = None
    closes_at: Temperature | None = None
    voltage: Annotated[Quantity, in_dimension("voltage", positive=True)] | None = None
    current: Annotated[Quantity, in_dimension("current", positive=True)] | None = None
    power: Power | None = None
    r25: Annotated[Quantity, in_dimension("electrical_resistance", positive=True)] | None = None
    terminals: Annotated[int, between(1, 99, "number of terminals")] | None = None
    mounting: str | None = None

    def part(self) -> Part:
        """As the core thinks of it."""
        return Part(
            self.kind,
            self.resets,
            opens_at=self.opens_at.si("temperature") if self.opens_at else None,
            closes_at=self.closes_at.si("temperature") if self.closes_at else None,
            voltage=self.voltage.si("voltage") if self.voltage else None,
            current=self.current.si("current") if self.current else None,
            power=self.power.si("power") if self.power else None,
            r25=self.r25.si("electrical_resistance") if self.r25 else None,
            terminals=self.terminals,
            mounting=self.mounting,
        )


class MatchDocument(Section):
    """The old part and the new one: `warm-draft/part-match`, version 1."""

    format: Literal["warm-draft/part-match"]
    version: Literal[1]
    old: PartSection
    new: PartSection
    title: str | None = None
    notes: str | None = None
