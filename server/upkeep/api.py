"""Routes of upkeep: a machine's use, whom a place's reminders go to, the workshop's calendar."""

from datetime import datetime
from typing import Any
from uuid import UUID

from django.conf import settings
from django.http import Http404, HttpRequest
from ninja import Field, Router, Schema, Status

from machines.models import Place
from people.signed_in import member_of
from shared.body import Body
from shared.problems import ProblemOut
from upkeep.models import Feed
from upkeep.services import feed_of, require_language, set_feed, set_use

router = Router(tags=["upkeep"])
_REFUSED = dict.fromkeys((401, 403, 404, 409, 413, 422, 503), ProblemOut)


class UseIn(Body):
    """How a machine is used; null: nobody has counted."""

    loads_per_week: float | None = Field(None, gt=0, le=500)


@router.put("/machines/{uuid:machine_id}/use", response={204: None, **_REFUSED})
def put_use(request: HttpRequest, machine_id: UUID, body: UseIn) -> Status[None]:
    """Say how many loads a machine dries a week: its next visit moves with it."""
    if set_use(member_of(request), machine_id, body.loads_per_week) is None:
        raise Http404
    return Status(204, None)


class ReachIn(Body):
    """Where a place's reminders go, whether they may, and the language of its records; empty: the workshop's own."""

    mail: str = Field("", max_length=254, pattern=r"^$|^[^@\s]+@[^@\s]+\.[^@\s]+$")
    no_reminders: bool = False
    language: str = Field("", max_length=35)


@router.put("/places/{uuid:place_id}/reach", response={204: None, **_REFUSED})
def put_reach(request: HttpRequest, place_id: UUID, body: ReachIn) -> Status[None]:
    """Say how a place is reached between visits."""
    who = member_of(request)
    who.require("work_on_a_job")
    require_language(body.language)
    changed = Place.objects.filter(id=place_id, workshop=who.workshop).update(
        mail=body.mail.strip(), no_reminders=body.no_reminders, language=body.language
    )
    if not changed:
        raise Http404
    return Status(204, None)


class FeedOut(Schema):
    """The address that a calendar reads the next visits from; empty where there is none."""

    address: str
    since: datetime | None


class FeedIn(Body):
    """Whether there is such an address."""

    on: bool


def _out(feed: Feed | None) -> dict[str, Any]:
    return {
        "address": f"{settings.ADDRESS}/calendar/{feed.token}.ics" if feed else "", "since": feed and feed.made_at
    }  # fmt: skip


@router.get("/calendar", response={200: FeedOut, **_REFUSED})
def get_feed(request: HttpRequest) -> Any:
    """The address of the workshop's calendar."""
    who = member_of(request)
    feed = feed_of(who.workshop)
    return _out(feed) if who.may("keep_the_workshop") else {"address": "", "since": feed and feed.made_at}


@router.put("/calendar", response={200: FeedOut, **_REFUSED})
def put_feed(request: HttpRequest, body: FeedIn) -> Any:
    """Give the workshop's calendar an address, or take it away."""
    return _out(set_feed(member_of(request), body.on))
