"""Places and machines, for choosing one that is known."""

from uuid import UUID

from django.http import HttpRequest
from ninja import Router, Schema

from config.problems import ProblemOut
from machines.models import Place
from machines.queries import places_of
from people.signed_in import member_of

router = Router(tags=["machines"])


class KnownMachine(Schema):
    """A dryer."""

    id: UUID
    name: str
    profile: str
    layout: str
    energy: str
    supply: str
    age_years: float | None


class KnownPlace(Schema):
    """A place and the dryers in it."""

    id: UUID
    name: str
    address: str
    contact: str
    machines: list[KnownMachine]


@router.get("/places", response={200: list[KnownPlace], 401: ProblemOut, 403: ProblemOut})
def places(request: HttpRequest) -> list[Place]:
    """Places the workshop knows."""
    return list(places_of(member_of(request)))
