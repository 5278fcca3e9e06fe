"""Routes of the workshop as a whole: what it learned, and the lead's desk."""

import json
from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Field, Router, Status

from desk.figures import DeskOut, desk
from desk.learning import (
    BehindOut,
    LearningOut,
    behind,
    counts_of_workshop,
    give,
    learning,
    leave_out,
    set_on,
    take_away,
)
from people.signed_in import member_of
from shared.body import Body
from shared.problems import ProblemOut
from shared.replica import from_the_replica

router = Router(tags=["desk"])
_REFUSED = dict.fromkeys((401, 403, 404, 409, 413, 422, 503), ProblemOut)


@router.get("/desk", response={200: DeskOut, **_REFUSED})
def get_desk(request: HttpRequest) -> DeskOut:
    """How the workshop's work stands, and how right its verdicts were."""
    who = member_of(request)
    with from_the_replica():
        return desk(who)


@router.get("/learning", response={200: LearningOut, **_REFUSED})
def get_learning(request: HttpRequest) -> LearningOut:
    """What the workshop's jobs taught it."""
    return learning(member_of(request))


@router.get("/learning/jobs", response={200: list[BehindOut], **_REFUSED})
def get_behind(request: HttpRequest, holds: str = "", fault: str = "") -> list[BehindOut]:
    """The jobs behind a move."""
    who = member_of(request)
    with from_the_replica():
        return behind(who, holds, fault)


class OnIn(Body):
    """Whether verdicts go by what was learned."""

    on: bool


@router.put("/learning", response={204: None, **_REFUSED})
def put_learning(request: HttpRequest, body: OnIn) -> Status[None]:
    """Have verdicts go by what was learned, or by our own tables."""
    set_on(member_of(request), body.on)
    return Status(204, None)


class LeftOutIn(Body):
    """Whether a job counts for nothing."""

    left_out: bool


@router.put("/learning/jobs/{uuid:job_id}", response={204: None, **_REFUSED})
def put_left_out(request: HttpRequest, job_id: UUID, body: LeftOutIn) -> Status[None]:
    """Have a job count for nothing, or again."""
    leave_out(member_of(request), job_id, body.left_out)
    return Status(204, None)


@router.get("/learning/counts", response={200: Any, **_REFUSED})
def get_counts(request: HttpRequest) -> HttpResponse:
    """What the workshop's jobs count, as a file that may be given to another: no people, no places, no days."""
    answer = HttpResponse(json.dumps(counts_of_workshop(member_of(request)), indent=1), content_type="application/json")
    answer["Content-Disposition"] = 'attachment; filename="counts.json"'
    return answer


class GivenIn(Body):
    """Counts of another workshop: a `warm-draft/counts`, and whose they are."""

    title: str = Field(max_length=120, min_length=1)
    counts: dict[str, Any]


@router.put("/learning/given/{uuid:counts_id}", response={204: None, **_REFUSED})
def put_given(request: HttpRequest, counts_id: UUID, body: GivenIn) -> Status[None]:
    """Learn from another workshop's counts."""
    give(member_of(request), counts_id, body.title.strip(), body.counts)
    return Status(204, None)


@router.delete("/learning/given/{uuid:counts_id}", response={204: None, **_REFUSED})
def delete_given(request: HttpRequest, counts_id: UUID) -> Status[None]:
    """Learn no more from counts that were given."""
    take_away(member_of(request), counts_id)
    return Status(204, None)
