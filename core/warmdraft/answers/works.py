"""The list of works as it is shown, and the answer of the verb `work`."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, fields

from warmdraft.answers.layout import PlanAnswer, plan_shown
from warmdraft.diagnosis import Verdict
from warmdraft.errors import DocumentError, LayoutError
from warmdraft.faults import fault_names
from warmdraft.jobfile import Job
from warmdraft.repair import NEEDS_NO_OPENING, ActKind, Stands
from warmdraft.teardown import LINE, plan_way, step_of
from warmdraft.words import Words
from warmdraft.work import Because, Brings, JobState, Line, Reason, Works, brings_of, parts_of, state_of, works_of
from warmdraft.work.lines import Became
from warmdraft.work.stages import SURE_ENOUGH


@dataclass(slots=True)
class BecauseAnswer:
    """Why a line of works is there; what its kind does not have is null."""

    kind: Reason
    text: str
    fault: str | None
    of: str | None
    verdict: str | None
    check: str | None
    probability: float | None
    minutes_more: float | None
    minutes_spared: float | None
    order: str | None


@dataclass(slots=True)
class WorkLineAnswer:
    """A line of works. name: as marks name it; text: the act in words; also: what else it is there for; steps: their
    names; minutes: hands on; became: what became of it, by whom and why; unreached: parts of it that nothing reaches.

    shows: checks that show that it worked.
    """

    name: str
    part: str
    act: ActKind
    text: str
    because: BecauseAnswer
    also: list[BecauseAnswer]
    stands: Stands
    steps: list[str]
    minutes: float
    needs_opening: bool
    wanted: bool
    became: Became
    why: str
    by: str
    qualified: str | None
    tools: list[str]
    gear: list[str]
    uses_up: list[str]
    shows: list[str]
    unreached: list[str]


@dataclass(slots=True)
class BringsBecause:
    """The line that a part may be needed with."""

    kind: str
    part: str
    act: str


@dataclass(slots=True)
class BringsAnswer:
    """A part that may be needed once it is open."""

    part: str
    text: str
    probability: float
    because: BringsBecause


@dataclass(slots=True)
class WorksAnswer:
    """The list of works: what must be or was taken in the order of the work, then offers, best first.

    waiting: done with their cause as soon as that is known; unreached: parts that this layout has no way to; brings:
    what to bring along, the most probable first; minutes: hands on, of all that is wanted.
    """

    lines: list[WorkLineAnswer]
    waiting: list[WorkLineAnswer]
    unreached: list[str]
    brings: list[BringsAnswer]
    minutes: float


@dataclass(slots=True)
class WorkAnswer(WorksAnswer):
    """The same with the one way in to what needs opening, null where nothing is opened."""

    reach: list[str]
    plan: PlanAnswer | None


def _because(row: Because, words: Words) -> BecauseAnswer:
    return BecauseAnswer(
        text=words.because(row), **{field.name: getattr(row, field.name) for field in fields(Because)}
    )  # fmt: skip


def _line(line: Line, words: Words) -> WorkLineAnswer:
    act = line.act
    first, *more = line.because
    return WorkLineAnswer(
        name=step_of(LINE, act.name), part=act.part, act=act.act, text=words.act(act.name),
        because=_because(first, words), also=[_because(row, words) for row in more], stands=line.stands,
        steps=[step_of("mend", step.id) for step in act.steps], minutes=act.minutes,
        needs_opening=act.needs_opening, wanted=line.wanted, became=line.became, why=line.why, by=line.by,
        qualified=act.qualified, tools=[words.thing("tool", tool) for tool in act.tools],
        gear=[words.thing("gear", item) for item in act.gear],
        uses_up=[words.thing("part", part) for part in act.uses_up], shows=list(act.shows),
        unreached=[words.thing("part", part) for part in line.unreached],
    )  # fmt: skip


def _brings(row: Brings, words: Words) -> BringsAnswer:
    because = BringsBecause("line", row.act.part, row.act.act)
    return BringsAnswer(row.part, words.thing("part", row.part), row.probability, because)


def works_answer(works: Works, words: Words) -> WorksAnswer:
    """The list of works with its words."""
    return WorksAnswer(
        lines=[_line(line, words) for line in works.lines],
        waiting=[_line(line, words) for line in works.waiting],
        unreached=_unreached(works.wanted),
        brings=[_brings(row, words) for row in brings_of(works.wanted)],
        minutes=sum(line.act.minutes for line in works.wanted),
    )


def _unreached(lines: Sequence[Line]) -> list[str]:
    return list(dict.fromkeys(part for line in lines for part in line.unreached))


def _likeliest(verdict: Verdict) -> tuple[str, ...]:
    """The likeliest fault, where its place is sure enough to work by."""
    return (verdict.faults[0].fault,) if verdict.sure.probability >= SURE_ENOUGH else ()


def causes_of(job: Job, state: JobState, named: Sequence[str]) -> tuple[str, ...]:
    """What the works go by: as named, else what is confirmed, else worked by, else the likeliest where sure enough."""
    confirmed = [part.fault for part in job.document.confirmed or ()]
    for cause in (state.confirmed, state.working):
        confirmed = confirmed or ([cause.fault] if cause else [])
    return tuple(dict.fromkeys(named or confirmed)) or _likeliest(state.verdict)


def work_answer(job: Job, words: Words, causes: Sequence[str] = ()) -> WorkAnswer:
    """Everything there is to do on a job. causes: what to go by, else as the job says. Raises DocumentError."""
    for cause in causes:
        if cause not in fault_names():
            raise DocumentError("$", f"'{cause}' is no fault; give --cause one of {', '.join(fault_names())}")
    state = state_of(job.facts)
    layout = state.facts.layout
    works = works_of(state.facts, state.before, state.after, state.verdict, causes_of(job, state, causes), layout)
    shown = works_answer(works, words)
    wanted = parts_of(works.wanted, layout)
    reach = [part for part in wanted if part not in NEEDS_NO_OPENING]
    plan = None
    if layout is not None and reach:
        try:
            plan = plan_shown(plan_way(layout, wanted))
        except LayoutError as error:
            raise DocumentError("$.layout", str(error)) from None
    return WorkAnswer(
        **{field.name: getattr(shown, field.name) for field in fields(WorksAnswer)}, reach=reach, plan=plan
    )  # fmt: skip
