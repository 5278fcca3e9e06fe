"""Places and machines, for choosing one that is known; and the workshop's own code profiles."""

from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Router, Schema

from config.given import Given
from config.problems import ProblemOut
from machines.models import CodeProfile, Place
from machines.queries import code_profiles_of, places_of
from machines.services import keep_code_profile
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


class CodeProfileIn(Given):
    """A code profile of the workshop's own, in the keys of warm-draft/vent; removed: no longer offered."""

    document: dict[str, Any]
    removed: bool = False


class CodeProfileKept(Schema):
    """A code profile of the workshop's own."""

    id: UUID
    document: dict[str, Any]
    removed: bool


@router.get("/code-profiles", response={200: list[CodeProfileKept], 401: ProblemOut, 403: ProblemOut})
def code_profiles(request: HttpRequest) -> list[CodeProfile]:
    """The workshop's own code profiles."""
    return list(code_profiles_of(member_of(request)))


@router.put(
    "/code-profiles/{uuid:profile_id}",
    response={200: CodeProfileKept, **dict.fromkeys((401, 403, 404, 422), ProblemOut)},
)
def put_code_profile(request: HttpRequest, profile_id: UUID, facts: CodeProfileIn) -> CodeProfile:
    """Keep, change or remove a code profile of the workshop's own."""
    return keep_code_profile(member_of(request), profile_id, facts.document, facts.removed)
