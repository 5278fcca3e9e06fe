"""What hands do and people want of the way, as it stands in a job's file."""

from __future__ import annotations

from typing import Annotated, Any, get_args

from pydantic import Field, model_validator

from warmdraft.jobfile.layout_schema import Count, Name, OperationSection, Text
from warmdraft.jobfile.limits import MOST_OPERATIONS, no_more_than
from warmdraft.jobfile.parts import FactSection, one_of, refused
from warmdraft.repair import ACT_KINDS, acts, name_of, parts_worked_on
from warmdraft.teardown import LINE, STATES, name_at
from warmdraft.work.recorded import LineState, MarkState, StepState

#: A step's name, characters.
MOST_STEP = 80
StepName = Annotated[str, Field(min_length=1, max_length=MOST_STEP)]
Names = Annotated[list[Name], no_more_than(MOST_OPERATIONS, "names")]


class AddedSection(FactSection):
    """An operation that stands in no layout, as somebody met it at the machine. after: the one it came off after."""

    operation: OperationSection
    after: Name | None = None

    @model_validator(mode="after")
    def _possible(self) -> Any:
        if self.operation.needs:
            raise refused("says what 'after' says; leave it empty", "operation.needs")
        return self


class WorkSection(FactSection):
    """A plain order: an act on a part, known before or without any cause."""

    part: Annotated[str, one_of("a part that something can be done to", parts_worked_on())]
    act: Annotated[str, one_of("an act", ACT_KINDS)]
    why: Text | None = None

    @model_validator(mode="after")
    def _possible(self) -> Any:
        if name_of(self.part, self.act) not in acts():
            here = ", ".join(act.act for act in acts().values() if act.part == self.part)
            raise refused(f"'{self.act}' is no act on '{self.part}'; give one of {here}", "act")
        return self


class MarkSection(FactSection):
    """A step done, undone, or not possible here; a line of works taken, declined, not needed or not possible. The
    latest of a step, or of a line, is in force."""

    step: StepName
    state: Annotated[str, one_of("a state of a step or of a line", get_args(MarkState))]
    why: Text | None = None

    @model_validator(mode="after")
    def _possible(self) -> Any:
        line = name_at(LINE, self.step)
        if line is not None and line not in acts():
            raise refused(f"'{line}' is no line of works; give {LINE}.PART.ACT of an act that there is", "step")
        what, states = ("a step", get_args(StepState)) if line is None else ("a line", get_args(LineState))
        if self.state == "not_there" and name_at("open", self.step) is None:
            raise refused("is said of what comes off; give one of done, undone, not_possible", "state")
        if self.state not in states:
            raise refused(f"'{self.state}' is nothing to say of {what}; give one of {', '.join(states)}", "state")
        if self.state == "declined" and not (self.why or "").strip():
            raise refused("is missing; a line is declined with a reason", "why")
        return self


class CountSection(FactSection):
    """Something counted or said at the bench. step: where it came off, or nothing for the tools."""

    step: Annotated[str, Field(max_length=MOST_STEP)] | None = None
    what: Annotated[str, one_of("a thing at the bench", tuple(STATES))]
    key: Name
    state: str
    count: Count | None = None
    note: Text | None = None

    @model_validator(mode="after")
    def _possible(self) -> Any:
        states = next(states for what, states in STATES.items() if what == self.what)
        if self.state not in states:
            wanted = ", ".join(states)
            raise refused(f"'{self.state}' is nothing to say of a {self.what}; give one of {wanted}", "state")
        return self


class WaySection(FactSection):
    """What is wanted of the way in: parts besides, operations to keep out or in."""

    also: Names | None = None
    avoid: Names | None = None
    through: Names | None = None
