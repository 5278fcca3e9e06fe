"""What a workshop has learned: seen, turned off and on, jobs left out, counts shared."""

from datetime import datetime
from typing import Any
from uuid import UUID

from django.db import IntegrityError, transaction
from django.db.models import Q
from django.http import Http404
from ninja import Schema

from jobs.answer.shown import words_of
from jobs.answer.taught import MOST_JOBS, counts_from, lessons_for, own_counts, sum_up_later, turn
from jobs.models import CountsGiven, Found, Taught
from people.may import Member
from shared.problems import ApiError
from warmdraft.answers import LessonsAnswer, lessons_answer
from warmdraft.faults import ANY_MACHINE, circumstance_names, complaint_names
from warmdraft.jobfile.learning_schema import MOST_ROWS, counts_document

#: Moves of each sort that a screen shows; the file has them all. Jobs behind one.
MOST_MOVES, MOST_BEHIND = 60, 200
#: Counts of other workshops that one may have, and kinds of job in all of them: with its own they are one document.
MOST_GIVEN, MOST_KINDS = 50, MOST_ROWS - MOST_JOBS


class GivenOut(Schema):
    """Counts that another workshop gave."""

    id: UUID
    title: str
    jobs: float
    by: str
    at: datetime


class LearningOut(Schema):
    """What a workshop has learned. on: verdicts go by it; own, left_out: jobs that count, and that a lead left out."""

    on: bool
    own: int
    left_out: int
    lessons: LessonsAnswer
    given: list[GivenOut]


class BehindOut(Schema):
    """A job that counts. counts: how far it was shown, up to 1; left_out: it counts for nothing."""

    id: UUID
    title: str
    place: str
    at: datetime
    fault: str
    fault_text: str
    counts: float
    left_out: bool


def learning(who: Member) -> LearningOut:
    """What this workshop has learned, and from how much."""
    found = Found.objects.filter(workshop=who.workshop).exclude(fault="")
    row = Taught.objects.filter(workshop=who.workshop).first()
    lessons = lessons_answer(lessons_for(who.workshop.id).worth_telling(), words_of(who))
    lessons.causes, lessons.looks = lessons.causes[:MOST_MOVES], lessons.looks[:MOST_MOVES]
    return LearningOut(
        on=row is None or row.on,
        own=found.filter(left_out=False).count(),
        left_out=found.filter(left_out=True).count(),
        lessons=lessons,
        given=[
            GivenOut(id=given.id, title=given.title, jobs=given.counts["jobs"], by=given.by.name, at=given.at)
            for given in CountsGiven.objects.filter(workshop=who.workshop).select_related("by").order_by("at", "id")
        ],
    )


def behind(who: Member, holds: str, fault: str) -> list[BehindOut]:
    """Jobs of this workshop that turned out to be a fault where something holds; all, where nothing is named."""
    rows = Found.objects.filter(workshop=who.workshop).exclude(fault="").select_related("job__machine__place")
    if fault:
        rows = rows.filter(fault=fault)
    if holds and holds != ANY_MACHINE:
        rows = rows.filter(_holds(holds))
    words = words_of(who)
    return [
        BehindOut(
            id=row.job_id, title=row.job.title, place=row.job.machine.place.name, at=row.at, fault=row.fault,
            fault_text=words.fault(row.fault), counts=row.counts["jobs"], left_out=row.left_out,
        )
        for row in rows.order_by("-at", "job")[:MOST_BEHIND]
    ]  # fmt: skip


def _holds(name: str) -> Q:
    if name in circumstance_names():
        return Q(job__circumstances__contains=[name])
    if name in complaint_names():
        return Q(job__complaints__contains=[name])
    return Q(job__machine__profile=name)


def leave_out(who: Member, job_id: UUID, left_out: bool) -> None:
    """Have a job count for nothing, or again."""
    who.require("keep_the_workshop")
    if not Found.objects.filter(workshop=who.workshop, job=job_id).update(left_out=left_out):
        raise Http404
    sum_up_later(who.workshop.id)


def set_on(who: Member, on: bool) -> None:
    """Have verdicts go by what was learned, or by our own tables again."""
    who.require("keep_the_workshop")
    turn(who.workshop.id, on)


def counts_of_workshop(who: Member) -> dict[str, Any]:
    """What this workshop's own jobs count: as it may be given to another."""
    who.require("keep_the_workshop")
    return counts_document(own_counts(who.workshop.id))


def give(who: Member, counts_id: UUID, title: str, document: Any) -> None:
    """Learn from another workshop's counts. Raises DocumentError; the same id again changes nothing."""
    who.require("keep_the_workshop")
    counts = counts_document(counts_from(document))
    others = list(
        CountsGiven.objects.filter(workshop=who.workshop).exclude(id=counts_id).values_list("counts", flat=True)
    )
    kinds = sum(len(document["causes"]) for document in [*others, counts])
    if len(others) >= MOST_GIVEN or kinds > MOST_KINDS:
        raise ApiError(409, "too_many", "That is more than can be learned from at once; take one away first.")
    try:
        with transaction.atomic():
            CountsGiven.objects.create(id=counts_id, workshop=who.workshop, title=title, counts=counts, by=who.person)
    except IntegrityError:
        if not CountsGiven.objects.filter(id=counts_id, workshop=who.workshop).exists():
            raise Http404 from None
    sum_up_later(who.workshop.id)


def take_away(who: Member, counts_id: UUID) -> None:
    """Learn no more from counts that were given."""
    who.require("keep_the_workshop")
    deleted, _ = CountsGiven.objects.filter(workshop=who.workshop, id=counts_id).delete()
    if deleted:
        sum_up_later(who.workshop.id)
