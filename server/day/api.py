"""Routes of the day: what is booked, the plan, a change of it and what it costs, and what a plan stands on."""

from datetime import date
from typing import Annotated, Any
from uuid import UUID

from django.http import Http404, HttpRequest, HttpResponse
from ninja import Field, Router, Schema, Status
from pydantic import AfterValidator

from day import ground, planning
from day.calendars import of_van
from day.models import Van
from day.views import DayOut, day_out
from people.signed_in import member_of
from shared.body import Body
from shared.problems import ProblemOut
from warmdraft.answers import MovedAnswer
from warmdraft.moments import FIRST, LAST

router = Router(tags=["day"])
_REFUSED = dict.fromkeys((401, 403, 404, 409, 413, 422, 503), ProblemOut)


def _in_calendars(day: date) -> date:
    if not FIRST.date() < day < LAST.date():
        raise ValueError(f"{day} does not lie between 2000 and 2100; give a day such as 2027-02-03")
    return day


Day = Annotated[date, AfterValidator(_in_calendars)]
Minute = Annotated[int, Field(ge=0, le=1440)]


@router.get("/day/{day}", response={200: DayOut, **_REFUSED})
def get_day(request: HttpRequest, day: Day) -> Any:
    """A day: what is booked, and who goes where."""
    return day_out(member_of(request), day)


@router.post("/day/{day}/plan", response={200: DayOut, **_REFUSED})
def ask_for_plan(request: HttpRequest, day: Day) -> Any:
    """Have the worker plan a day."""
    who = member_of(request)
    planning.ask(who, day)
    return day_out(who, day)


@router.get("/day/{day}/moves", response={200: list[MovedAnswer], **_REFUSED})
def get_moves(request: HttpRequest, day: Day, stop: UUID) -> Any:
    """What it costs to have a stop done otherwise, the cheapest first."""
    return planning.moves(member_of(request), day, str(stop))


class MoveIn(Body):
    """A stop in another place. van: null leaves it out; position: in that van's order, from 0."""

    based_on: int
    stop: UUID
    van: UUID | None
    position: int = Field(ge=0, le=300)


@router.put("/day/{day}/orders", response={200: DayOut, **_REFUSED})
def put_order(request: HttpRequest, day: Day, body: MoveIn) -> Any:
    """Have a stop done otherwise."""
    who = member_of(request)
    van = str(body.van) if body.van else None
    planning.move(who, day, body.based_on, str(body.stop), van, body.position)
    return day_out(who, day)


class BasedOnIn(Body):
    """The version that was shown."""

    based_on: int


@router.put("/day/{day}/undone", response={200: DayOut, **_REFUSED})
def put_undone(request: HttpRequest, day: Day, body: BasedOnIn) -> Any:
    """Take the latest change of a plan back."""
    who = member_of(request)
    planning.take_back(who, day, body.based_on)
    return day_out(who, day)


@router.get("/day/{day}/vans/{uuid:van_id}/calendar", response={200: Any, **_REFUSED})
def get_calendar(request: HttpRequest, day: Day, van_id: UUID) -> HttpResponse:
    """A van's stops from a day on, as a calendar's file."""
    who = member_of(request)
    van = Van.objects.filter(id=van_id, workshop=who.workshop).first()
    if van is None:
        raise Http404
    answer = HttpResponse(of_van(who.workshop, van, day), content_type="text/calendar; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="stops.ics"'
    return answer


class WishWindow(Body):
    """When work may begin, minutes of the day."""

    early: Minute
    late: Minute


class WishIn(Body):
    """When a customer is at home: none is from the time that was told; van: the one that has to go."""

    windows: list[WishWindow] = Field([], max_length=4)
    van: UUID | None = None


@router.put("/ground/wishes/{uuid:job_id}", response={204: None, **_REFUSED})
def put_wish(request: HttpRequest, job_id: UUID, body: WishIn) -> Status[None]:
    """Say when a customer is at home, and which van has to go."""
    ground.wish(member_of(request), job_id, [[row.early, row.late] for row in body.windows], body.van)
    return Status(204, None)


class GroundIn(Body):
    """Where a place is; degrees."""

    latitude: float = Field(ge=-90, le=90)
    longitude: float = Field(ge=-180, le=180)


@router.put("/ground/places/{uuid:place_id}", response={204: None, **_REFUSED})
def put_ground(request: HttpRequest, place_id: UUID, body: GroundIn) -> Status[None]:
    """Say where a place is."""
    ground.locate(member_of(request), place_id, body.latitude, body.longitude)
    return Status(204, None)


class BaseIn(Body):
    """Where vans start from; degrees, null where a table has the minutes."""

    name: str = Field(min_length=1, max_length=80)
    latitude: float | None = Field(None, ge=-90, le=90)
    longitude: float | None = Field(None, ge=-180, le=180)


@router.put("/ground/base", response={204: None, **_REFUSED})
def put_base(request: HttpRequest, body: BaseIn) -> Status[None]:
    """Say where vans start from."""
    ground.set_base(member_of(request), body.name.strip(), body.latitude, body.longitude)
    return Status(204, None)


class VanIn(Body):
    """A van: who drives, when (minutes of the day), and the store it is."""

    name: str = Field(min_length=1, max_length=60)
    driver: UUID | None = None
    early: Minute = 480
    late: Minute = 1020
    overtime: int = Field(60, ge=0, le=480)
    store: UUID | None = None


@router.put("/ground/vans/{uuid:van_id}", response={204: None, **_REFUSED})
def put_van(request: HttpRequest, van_id: UUID, body: VanIn) -> Status[None]:
    """Have a van, or change what is said of it."""
    ground.keep_van(member_of(request), van_id, body.dict())
    return Status(204, None)


@router.delete("/ground/vans/{uuid:van_id}", response={204: None, **_REFUSED})
def delete_van(request: HttpRequest, van_id: UUID) -> Status[None]:
    """A van drives no more."""
    ground.remove_van(member_of(request), van_id)
    return Status(204, None)


class TableIn(Body):
    """A table as CSV: from, to, minutes; or place, latitude, longitude."""

    csv: str = Field(min_length=1, max_length=2_000_000)


class TakenOut(Schema):
    """How many rows were taken."""

    rows: int


@router.put("/ground/table", response={200: TakenOut, **_REFUSED})
def put_table(request: HttpRequest, body: TableIn) -> Any:
    """Take a table of places, or of minutes between them."""
    return {"rows": ground.read_table(member_of(request), body.csv)}
