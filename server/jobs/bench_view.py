"""The bench of a job: the way in and back, the tray, the gate, in words."""

from typing import Any

from jobs.learned import taken_of
from jobs.models import Job, WayChoice
from jobs.queries import cause_of, settled_steps
from warmdraft.errors import LayoutError
from warmdraft.teardown import (
    Compartment,
    Gate,
    Layout,
    Lying,
    Problem,
    Tally,
    Way,
    driver_text,
    gate,
    kit_of,
    tray,
    ways,
    worth_doing_along,
)
from warmdraft.words import (
    along_words,
    area_words,
    fastener_words,
    part_words,
    problem_words,
    school_words,
    way_words,
    why_words,
)
from warmdraft.work import Wanted, WorkPlan, wanted_parts, work_plan

Json = dict[str, Any]


def way_choice(job: Job) -> WayChoice | None:
    """What is wanted of the way in; the latest counts."""
    return next(iter(reversed(job.waychoices.all())), None)


def wanted_of(job: Job) -> Wanted:
    """What is known and wanted of the way in, from marks and the latest choice."""
    marks = settled_steps(job)
    opening = [mark for mark in marks.values() if mark.step.startswith("open.")]
    choice = way_choice(job)

    def named(state: str) -> list[str]:
        rows = sorted((mark for mark in opening if mark.state == state), key=lambda mark: mark.seq)
        return [mark.step.removeprefix("open.") for mark in rows]

    return Wanted(
        opened=tuple(named("done")),
        impossible=frozenset(named("not_possible")),
        also=tuple(choice.also) if choice else (),
        avoid=frozenset(choice.avoid if choice else ()),
        through=frozenset(choice.through if choice else ()),
    )


def plan_of(job: Job, layout: Layout | None) -> WorkPlan | None:
    """Steps of the working cause; None until there is one."""
    cause = cause_of(job, "working")
    machine = job.machine
    return work_plan(cause.fault, layout, machine.supply, machine.energy, wanted_of(job)) if cause else None


def tallies_of(job: Job) -> list[Tally]:
    """What was counted and said, in order."""
    return [
        Tally(row.step.removeprefix("open."), row.what, row.key, row.state, row.count, row.note, row.by.name)
        for row in job.counts.all()
    ]


def bench_of(job: Job, plan: WorkPlan) -> tuple[tuple[Compartment, ...], Gate]:
    """The tray and the gate of a plan with a way."""
    marks = settled_steps(job)

    def done(stage: str) -> set[str]:
        return {step.removeprefix(f"{stage}.") for step, mark in marks.items()
                if step.startswith(f"{stage}.") and mark.state == "done"}  # fmt: skip

    assert plan.way is not None
    by_id = {op.id: op for op in plan.way.off}
    order = [by_id[step.operation] for step in plan.open if step.operation]
    tallies = tallies_of(job)
    places = tray(order, done("open"), done("close"), tallies)
    undone = [step for step in plan.gate_steps if step not in marks or marks[step].state != "done"]
    return places, gate(places, tallies, undone)


def _fastener(lying: Lying) -> Json:
    fastener = lying.fastener
    shown = ("kind", "state", "length_mm", "goes_into", "finish", "hidden", "holds", "drop_hazard")
    counted = ("key", "came", "counted", "differs", "back", "moved", "replaced", "missing", "left")
    return (
        {name: getattr(fastener, name) for name in shown}
        | {name: getattr(lying, name) for name in counted}
        | {"expected": fastener.count, "text": fastener_words(fastener, fastener.count)}
    )


def _compartment(place: Compartment) -> Json:
    op = place.operation
    return {
        "number": place.number,
        "operation": op.id,
        "title": op.does.split(":")[0].split(",")[0],
        "area": area_words(op.area),
        "state": place.state,
        "full": place.full,
        "shows": list(op.shows),
        "fasteners": [_fastener(lying) for lying in place.fasteners],
        "wires": [
            {
                "key": tag.wire.key, "device": tag.wire.device, "terminal": tag.wire.terminal,
                "colour": tag.wire.colour, "ground": tag.wire.ground, "off": tag.off, "contradicts": tag.contradicts,
                "notes": [{"colour": note.note, "by": note.by} for note in tag.notes],
            }
            for tag in place.wires
        ],
        "parts": [
            {"part": used.part, "carried_over": used.carried_over, "settled": used.settled, "why": used.why}
            for used in place.parts
        ],
    }  # fmt: skip


def _problem(problem: Problem, layout: Layout, steps: dict[str, str]) -> Json:
    return {
        "code": problem.code, "operation": problem.operation, "subject": problem.subject, "expected": problem.expected,
        "counted": problem.counted, "text": problem_words(problem, layout, steps),
    }  # fmt: skip


def _orders(places: tuple[Compartment, ...]) -> list[str]:
    """What is missing, as lines of an order."""
    return [
        f"{fastener_words(lying.fastener, lying.missing)} ({place.operation.does.split(':')[0].lower()})"
        for place in places
        for lying in place.fasteners
        if lying.missing
    ]


def bench_json(job: Job, layout: Layout | None, plan: WorkPlan | None) -> Json | None:
    """The bench as a screen shows it; None where nothing has to be opened, or nothing is known."""
    if layout is None or plan is None or plan.way is None:
        return None
    places, held = bench_of(job, plan)
    steps = {step.id: step.does for step in plan.close}
    used = dict.fromkeys(op.driver for op in plan.way.off if op.driver)
    return {
        "compartments": [_compartment(place) for place in places],
        "gate": {
            "shut": held.shut,
            "holds": not held.shut and any(place.state != "waiting" for place in places),
            "problems": [_problem(problem, layout, steps) for problem in held.problems],
            "accepted": [_problem(problem, layout, steps) for problem in held.accepted],
            "orders": _orders(places),
            "tools": [driver_text(driver) for driver in used],
        },
        "drawing": layout.drawing,
        "layout_title": layout.title,
        "reach": [part_words(part) for part in plan.reach],
        "no_way": plan.no_way,
        "open_minutes": sum(step.minutes for step in plan.open),
        "close_minutes": plan.way.close_minutes,
        "total_minutes": plan.way.total_minutes,
        "driver_changes": plan.way.driver_changes,
        "optimal": plan.way.optimal,
        "taken": taken_of(list(job.marks.all())),
    }


def _way(way: Way, rows: tuple[Way, ...], taken: frozenset[str]) -> Json:
    plan = way.plan
    named = {op.id for op in plan.off if op.way}
    all_named = {op.id for row in rows for op in row.plan.closing if op.way}
    return {
        "by": way_words(way),
        "why": why_words(way, rows),
        "operations": [op.id for op in plan.operations],
        "total_minutes": plan.total_minutes,
        "open_minutes": plan.open_minutes,
        "close_minutes": plan.close_minutes,
        "driver_changes": plan.driver_changes,
        "screws": plan.fasteners("out"),
        "loosened": plan.fasteners("loosened"),
        "wires": sum(len(op.wires) for op in plan.off),
        "people": plan.people,
        "drivers": [driver_text(driver) for driver in plan.drivers],
        "takes": [op.does for op in way.takes],
        "spares": [op.does for op in way.spares],
        "also_reaches": [part_words(part) for part in way.also_reaches],
        "longer": way.longer,
        "optimal": plan.optimal,
        # choosing it: what sets it apart by name is kept in, what sets others apart is kept out
        "through": sorted(named),
        "avoid": sorted(all_named - named),
        "chosen": frozenset(op.id for op in plan.off) == taken,
    }


def ways_json(job: Job, layout: Layout | None) -> Json:
    """Ways to what the cause asks for, side by side."""
    nothing: Json = {
        "ways": [],
        "along": [],
        "tools": [],
        "used_up": [],
        "gear": [],
        "schools": [],
        "for_two": [],
        "avoided": [],
        "no_way": None,
    }
    cause = cause_of(job, "working")
    plan = plan_of(job, layout)
    if layout is None or cause is None or plan is None or plan.way is None:
        return nothing
    wanted = wanted_of(job)
    reach = wanted_parts(cause.fault, layout, wanted.also)
    known = {op.id for op in layout.operations}
    try:
        rows = ways(layout, reach, opened=known & set(wanted.opened), avoid=wanted.impossible & known)
        along = worth_doing_along(layout, wanted_parts(cause.fault, layout), avoid=wanted.impossible & known)
    except LayoutError as error:
        return nothing | {"no_way": str(error)}
    kit = kit_of(plan.way)
    taken = frozenset(op.id for op in plan.way.off)
    return {
        "ways": [_way(row, rows, taken) for row in rows],
        "along": [
            {
                "part": row.part, "text": along_words(row), "minutes_more": row.minutes_more,
                "minutes_spared": row.minutes_spared, "within_reach": row.within_reach,
                "wanted": row.part in wanted.also,
            }
            for row in along
        ],
        "tools": [
            {
                "text": tool.text, "fits_also": list(tool.fits_also),
                "operations": [op.id for op in layout.operations if op.driver == tool.driver],
            }
            for tool in kit.tools
        ],
        "used_up": list(kit.used_up),
        "gear": list(kit.gear),
        "schools": list(school_words(rows)),
        "for_two": [op.id for op in layout.operations if op.people > 1],
        "avoided": sorted(wanted.avoid),
        "no_way": plan.no_way,
    }  # fmt: skip
