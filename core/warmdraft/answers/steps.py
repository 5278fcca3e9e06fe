"""Steps, stages and what comes next."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, cast

from warmdraft.mending import Attachment, Role
from warmdraft.repair import BUILD, lint_fault
from warmdraft.teardown import LINE, Operation, step_of
from warmdraft.words import Words
from warmdraft.work import NextStep, StageName, StageState, Step
from warmdraft.work.stages import NextCode


@dataclass(slots=True)
class SeatAnswer:
    """How what a step takes off sits on its shaft."""

    attachment: Attachment
    role: Role


@dataclass(slots=True)
class StepAnswer:
    """A step as it is shown. line: the line of works it belongs to; act: that line in words; check: the check that is
    this step, recorded in phase after where `after` says so; seat: of what it takes off a shaft; fails: what is said
    where it does not hold; goes_back: the steps that are open again then; cuts: what is cut to
    length in it; lint: what is found here is graded; drawn: it goes by the plan of a new run."""

    id: str
    does: str
    why: str
    minutes: float
    driver: str | None
    driver_also: list[str]
    same_driver: bool
    fasteners: list[str]
    cautions: list[str]
    qualified: str | None
    operation: str | None
    check: list[str]
    latch: str | None
    gear: list[str]
    tools: list[str]
    people: int
    line: str | None
    act: str | None
    check_name: str | None
    after: bool
    seat: SeatAnswer | None
    fails: str
    goes_back: list[str]
    cuts: Literal["foam", "felt"] | None
    lint: bool
    drawn: bool


@dataclass(slots=True)
class StageAnswer:
    """A stage: done, open or not needed, and how many of its steps are settled."""

    stage: StageName
    state: Literal["done", "open", "not_needed"]
    settled: int
    of: int


@dataclass(slots=True)
class NextAnswer:
    """The one thing to do next, as it stands on the one button; subject: a check, a step, a reading, a fault."""

    code: NextCode
    stage: StageName
    subject: str | None
    text: str


def step_answer(step: Step, words: Words) -> StepAnswer:
    """A step with its words."""
    said = words.step(step)
    return StepAnswer(
        id=step.id, does=said.does, why=said.why, minutes=step.minutes, driver=said.driver,
        driver_also=list(said.driver_also), same_driver=step.same_driver, fasteners=list(said.fasteners),
        cautions=list(said.cautions), qualified=step.qualified,
        operation=step.operation.id if step.operation else None, check=list(said.check), latch=said.latch,
        gear=list(said.gear), tools=list(said.tools), people=step.operation.people if step.operation else 1,
        line=step_of(LINE, step.act.name) if step.act else None, act=words.act(step.act.name) if step.act else None,
        check_name=step.check, after=step.after, seat=_seat(step.operation), fails=said.fails,
        goes_back=list(step.goes_back), cuts=cast(Literal["foam", "felt"] | None, step.cuts),
        lint=step.act is not None and lint_fault(step.act) is not None,
        drawn=step.act is not None and step.act.name == BUILD,
    )  # fmt: skip


def _seat(operation: Operation | None) -> SeatAnswer | None:
    if operation is None or operation.attachment is None:
        return None
    # whatever is in a layout was held against these codes as it was read
    return SeatAnswer(cast(Attachment, operation.attachment), cast(Role, operation.role or "load"))


def stage_answer(row: StageState) -> StageAnswer:
    """Where a stage stands."""
    return StageAnswer(row.stage, row.state, row.settled, row.of)


def next_answer(step: NextStep, words: Words) -> NextAnswer:
    """What comes next."""
    return NextAnswer(step.code, step.stage, step.subject, words.next(step))
