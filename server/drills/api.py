"""Routes of drills: the ladder, cases that a lead set, drills as they are worked and as they went."""

from datetime import datetime
from typing import Any, Literal
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router, Schema, Status

from drills import services
from drills.models import Drill
from people.may import Member
from people.signed_in import member_of
from shared.body import Body
from shared.problems import ProblemOut
from warmdraft.answers import DrillAnswer, FoundAnswer, GaveAnswer, RungAnswer

router = Router(tags=["drills"])
_REFUSED = dict.fromkeys((401, 403, 404, 409, 413, 422, 503), ProblemOut)


class DrillOut(Schema):
    """A drill. room: the workshop its job is in; minutes, better_minutes, found, unsafe: once it is over."""

    job_id: UUID
    room: UUID
    case: str
    title: str
    by: str
    began_at: datetime
    ended_at: datetime | None
    found: bool | None
    minutes: float | None
    better_minutes: float | None
    unsafe: int | None


class DrillToldOut(DrillOut):
    """How a drill went; hidden: what was wrong. Both empty while it is on.

    cost, better_cost: of the own work and of the tool's way, in the workshop's money; null where nobody has said what
    an hour costs.
    """

    hidden: list[FoundAnswer]
    cost: str | None
    better_cost: str | None
    told: DrillAnswer | None


class DrillCaseOut(Schema):
    """A case that a lead set."""

    id: UUID
    title: str
    by: str
    at: datetime


class DrillsOut(Schema):
    """All there is to train on, and what was worked."""

    ladder: list[RungAnswer]
    cases: list[DrillCaseOut]
    drills: list[DrillOut]


def _out(drill: Drill) -> dict[str, Any]:
    told = drill.answer or {}
    return {
        "job_id": drill.job_id, "room": drill.workshop_id, "case": drill.case, "title": drill.title,
        "by": drill.person.name, "began_at": drill.began_at, "ended_at": drill.ended_at, "found": told.get("found"),
        "minutes": told.get("minutes"), "better_minutes": told.get("better_minutes"),
        "unsafe": len(told["unsafe"]) if told else None,
    }  # fmt: skip


def _told(drill: Drill, who: Member) -> dict[str, Any]:
    cost, better_cost = services.costs_of(drill, who)
    hidden = services.found_in(drill, who)
    return {**_out(drill), "hidden": hidden, "cost": cost, "better_cost": better_cost, "told": drill.answer}


@router.get("/drills", response={200: DrillsOut, **_REFUSED})
def get_drills(request: HttpRequest) -> Any:
    """The ladder, the cases set, and drills: one's own, everybody's for a lead."""
    who = member_of(request)
    return {
        "ladder": services.rungs(who),
        "cases": [
            DrillCaseOut(id=row.id, title=row.title, by=row.made_by.name, at=row.made_at)
            for row in services.cases_of(who)
        ],
        "drills": [_out(drill) for drill in services.drills_of(who)[: services.MOST_DRILLS]],
    }


class DrillIn(Body):
    """The case to work: a name of the ladder, or the id of one that was set."""

    case: str = Field(max_length=40, min_length=1)


@router.put("/drills/{uuid:job_id}", response={200: DrillOut, **_REFUSED})
def put_drill(request: HttpRequest, job_id: UUID, body: DrillIn) -> Any:
    """Begin a drill; its job is worked in the room for drills."""
    return _out(services.begin(member_of(request), job_id, body.case))


@router.get("/drills/{uuid:job_id}", response={200: DrillToldOut, **_REFUSED})
def get_drill(request: HttpRequest, job_id: UUID) -> Any:
    """How a drill went."""
    who = member_of(request)
    return _told(services.drill_of(who, job_id), who)


@router.put("/drills/{uuid:job_id}/ended", response={200: DrillToldOut, **_REFUSED})
def put_ended(request: HttpRequest, job_id: UUID) -> Any:
    """End a drill."""
    who = member_of(request)
    return _told(services.end(who, job_id), who)


class AskedIn(Body):
    """What the machine is asked."""

    check: str = Field(max_length=60, min_length=1)
    phase: Literal["before", "after"] = "before"


@router.post("/drills/{uuid:job_id}/asked", response={200: GaveAnswer, **_REFUSED})
def ask_machine(request: HttpRequest, job_id: UUID, body: AskedIn) -> Any:
    """What the machine gives to a check."""
    return services.ask(member_of(request), job_id, body.check, body.phase)


class DrillCaseIn(Body):
    """A job of the past, and what the case is called."""

    job_id: UUID
    title: str = Field(max_length=120, min_length=1)


@router.put("/drills/cases/{uuid:case_id}", response={204: None, **_REFUSED})
def put_case(request: HttpRequest, case_id: UUID, body: DrillCaseIn) -> Status[None]:
    """Make a case of a job of the past, without its names."""
    services.set_case(member_of(request), case_id, body.job_id, body.title.strip())
    return Status(204, None)


@router.delete("/drills/cases/{uuid:case_id}", response={204: None, **_REFUSED})
def delete_case(request: HttpRequest, case_id: UUID) -> Status[None]:
    """Take a case away."""
    services.remove_case(member_of(request), case_id)
    return Status(204, None)
