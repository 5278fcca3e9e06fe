"""What a workshop's own records teach about a layout: the minutes its people took, the screws they found."""

from collections import defaultdict
from functools import lru_cache
from uuid import UUID

from jobs.models import Count, Job, Mark
from machines.layouts import layout_of_machine
from warmdraft.teardown import (
    Layout,
    Marked,
    corrected_count,
    fastener_keys,
    minutes_taken,
    with_counts,
    with_minutes,
)

#: The latest records of a layout that are learned from: more say no more, and ways change.
_MOST_RECORDS = 60

#: Stages whose steps follow one another with hands in the machine; before them there is reading and thinking.
_TIMED = ("open", "mend", "close")

Minutes = dict[str, list[float]]
#: By step and fastener: (machine, count), the oldest first.
Counts = dict[tuple[str, str], list[tuple[UUID, int]]]


def records_as_of(workshop_id: UUID) -> int:
    """How many records the workshop has: what is learned changes with them alone."""
    return Job.objects.filter(workshop=workshop_id, record__isnull=False).count()


@lru_cache(maxsize=128)
def _learned(workshop_id: UUID, layout: str, as_of: int) -> tuple[Minutes, Counts]:
    over = Job.objects.filter(workshop=workshop_id, machine__layout=layout, record__isnull=False)
    ids = list(over.order_by("-booked_for").values_list("id", flat=True)[:_MOST_RECORDS])
    marks: dict[UUID, list[Mark]] = defaultdict(list)
    for mark in Mark.objects.filter(job__in=ids).order_by("at"):
        marks[mark.job_id].append(mark)
    minutes: Minutes = defaultdict(list)
    for of_job in marks.values():
        for step, taken in taken_of(of_job).items():
            minutes[step].append(taken)
    counts: Counts = defaultdict(list)
    counted = Count.objects.filter(job__in=ids, what="fastener", state__in=("out", "loosened")).order_by("at")
    for row in counted.select_related("job"):
        counts[row.step, row.key].append((row.job.machine_id, row.count))
    return dict(minutes), dict(counts)


def taken_of(marks: list[Mark]) -> dict[str, float]:
    """Minutes each step of opening, mending and closing took, by the marks of one job; the first says nothing."""
    done = [mark for mark in marks if mark.state == "done" and mark.step.split(".")[0] in _TIMED]
    if not done:
        return {}
    began = min(mark.at for mark in done)
    return minutes_taken([Marked(mark.step, (mark.at - began).total_seconds() / 60) for mark in done])


def layout_for(job: Job, as_of: int) -> Layout | None:
    """The layout of a job's machine as this workshop knows it: its own minutes, its own counts."""
    machine = job.machine
    base = layout_of_machine(machine)
    if base is None:
        return None
    minutes, counted = _learned(job.workshop_id, machine.layout, as_of)
    counts = {}
    for op in base.operations:
        for key, fastener in zip(fastener_keys(op), op.fasteners, strict=True):
            rows = counted.get((f"open.{op.id}", key))
            if rows:
                last = dict(rows)  # the latest of each machine
                here = last.pop(machine.id, None)
                counts[op.id, key] = corrected_count(fastener.count, here, list(last.values()))
    return with_counts(with_minutes(base, minutes), counts)
