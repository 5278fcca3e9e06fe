"""What a workshop's own jobs teach about a layout: the minutes its people took, the screws they found."""

from collections import defaultdict
from functools import lru_cache
from uuid import UUID

from django.db.models import F

from jobs.answer.taught import tables_for
from jobs.facts.document import Knows
from jobs.models import Job, Lesson
from machines.layouts import layout_of_machine
from machines.models import Machine, OwnLayout
from warmdraft.teardown import (
    Layout,
    corrected_count,
    document_of,
    fastener_keys,
    step_of,
    with_counts,
    with_minutes,
)
from warmdraft.work import JobFacts, JobState, layout_as_found, taken_of

#: The latest lessons of a layout that are learned from: more say no more, and ways change.
_MOST_LESSONS = 60

#: A title is cut to so many characters.
_MOST_TITLE = 100

Minutes = dict[str, list[float]]
#: By step and fastener: (machine, count), the oldest first.
Counts = dict[tuple[str, str], list[tuple[UUID, int]]]


def lessons_as_of(workshop_id: UUID, layout: str) -> int:
    """The latest lesson a workshop has of a layout: what is learned changes with it alone."""
    latest = Lesson.objects.filter(workshop=workshop_id, layout=layout).order_by("-id").values_list("id", flat=True)
    return latest[:1].first() or 0


def keep_way(job: Job, state: JobState) -> None:
    """A machine that was opened by hand has a layout from now on, one of the workshop's own."""
    title = job.machine.name or job.machine.place.name
    layout = layout_as_found(state, f"by_hand_{job.id}", title[:_MOST_TITLE])
    if layout is None:
        return
    row = OwnLayout.objects.create(workshop_id=job.workshop_id, document=document_of(layout))
    Machine.objects.filter(id=job.machine_id).update(layout=str(row.id), variant=None, version=F("version") + 1)
    job.machine.layout = str(row.id)


def keep_lesson(job: Job, facts: JobFacts) -> None:
    """Keep what a job that is handed over teaches of its machine's layout; marks and counts stand as they are now."""
    if not job.machine.layout:
        return
    counted = job.counts.filter(what="fastener", state__in=("out", "loosened"))
    Lesson.objects.create(
        workshop_id=job.workshop_id, layout=job.machine.layout, job=job, machine=job.machine,
        minutes=taken_of(facts), counts=[[row.step, row.key, row.count] for row in counted],
    )  # fmt: skip


@lru_cache(maxsize=128)
def _learned(workshop_id: UUID, layout: str, as_of: int) -> tuple[Minutes, Counts]:
    lessons = Lesson.objects.filter(workshop=workshop_id, layout=layout, id__lte=as_of)
    latest = list(lessons.order_by("-id")[:_MOST_LESSONS])
    minutes: Minutes = defaultdict(list)
    counts: Counts = defaultdict(list)
    for lesson in {row.job_id: row for row in reversed(latest)}.values():
        for step, taken in lesson.minutes.items():
            minutes[step].append(taken)
        for step, key, number in lesson.counts:
            counts[step, key].append((lesson.machine_id, number))
    return dict(minutes), dict(counts)


def layout_for(job: Job) -> Layout | None:
    """The layout of a job's machine as this workshop knows it: its own minutes, its own counts."""
    machine = job.machine
    base = layout_of_machine(machine)
    if base is None:
        return None
    known = lessons_as_of(job.workshop_id, machine.layout)
    minutes, counted = _learned(job.workshop_id, machine.layout, known)
    counts = {}
    for op in base.operations:
        for key, fastener in zip(fastener_keys(op), op.fasteners, strict=True):
            rows = counted.get((step_of("open", op.id), key))
            if rows:
                last = dict(rows)  # the latest of each machine
                here = last.pop(machine.id, None)
                counts[op.id, key] = corrected_count(fastener.count, here, list(last.values()))
    return with_counts(with_minutes(base, minutes), counts)


def knows_of(job: Job) -> Knows:
    """What a workshop knows beside a job's own facts."""
    return Knows(layout_for(job), tables_for(job.workshop_id))
