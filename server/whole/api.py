"""Routes of a whole workshop: out as a file, and gone for good after a waiting time."""

import tempfile
from datetime import datetime
from typing import Any

from django.http import FileResponse, HttpRequest
from django.utils.text import slugify
from ninja import Field, Router, Schema

from jobs.models import Job
from people import door
from people.signed_in import member_of
from shared.body import Body
from shared.problems import ApiError, ProblemOut
from shared.slots import Slots
from whole import leaving
from whole.models import Leaving
from whole.out import write_out

router = Router(tags=["whole"])
_REFUSED = dict.fromkeys((401, 403, 404, 409, 413, 422, 429, 503), ProblemOut)
#: Jobs of a workshop that is written out while somebody waits; a larger one is whoever's who runs the server.
MOST_JOBS = 20_000
#: What is written to disk rather than held.
_IN_MEMORY = 20_000_000
_writing = Slots(1, 60.0, "Another workshop is being written out at this moment; try again in a few minutes.")


@router.get("/workshop/whole", response={200: Any, **_REFUSED})
def get_whole(request: HttpRequest) -> FileResponse:
    """All of the workshop, as a ZIP of open files."""
    who = member_of(request)
    who.require("keep_the_workshop")
    if Job.objects.filter(workshop=who.workshop).count() > MOST_JOBS:
        raise ApiError(409, "too_many", f"The workshop has more than {MOST_JOBS} jobs: ask who runs the server for it; "
                       "./warm workshop-out writes it.")  # fmt: skip
    target = tempfile.SpooledTemporaryFile(_IN_MEMORY)  # noqa: SIM115 - closed once it is sent
    with _writing:
        write_out(who.workshop, target)
    target.seek(0)
    name = f"{slugify(who.workshop.name) or 'workshop'}.zip"
    return FileResponse(target, as_attachment=True, filename=name, content_type="application/zip")


class LeavingOut(Schema):
    """When the workshop goes. due_at: null where nobody asked for it; usual_years: for how long records are kept."""

    asked_by: str
    asked_at: datetime | None
    due_at: datetime | None
    keep_years: int
    waiting_days: int


class LeavingIn(Body):
    """The workshop's name, typed; one's password; years that its records are kept for the law."""

    name: str = Field(max_length=120)
    password: str = Field(max_length=1024)
    keep_years: int = Field(leaving.USUAL_YEARS, ge=0, le=leaving.MOST_YEARS)


def _out(row: Leaving | None) -> dict[str, Any]:
    return {
        "asked_by": row.asked_by.name if row else "", "asked_at": row and row.asked_at, "due_at": row and row.due_at,
        "keep_years": row.keep_years if row else leaving.USUAL_YEARS, "waiting_days": leaving.WAITING.days,
    }  # fmt: skip


@router.get("/workshop/leaving", response={200: LeavingOut, **_REFUSED})
def get_leaving(request: HttpRequest) -> Any:
    """Whether and when the workshop is deleted."""
    return _out(leaving.leaving_of(member_of(request)))


@router.put("/workshop/leaving", response={200: LeavingOut, **_REFUSED})
def put_leaving(request: HttpRequest, body: LeavingIn) -> Any:
    """Have the workshop deleted once its waiting time is over."""
    who = member_of(request)
    tries = door.guessing(request, "leaving", str(who.person.id))
    row = leaving.ask(who, body.name, body.password, body.keep_years)
    tries.take_back()
    return _out(row)


@router.delete("/workshop/leaving", response={200: LeavingOut, **_REFUSED})
def delete_leaving(request: HttpRequest) -> Any:
    """Have the workshop stay after all."""
    who = member_of(request)
    leaving.take_back(who)
    return _out(None)
