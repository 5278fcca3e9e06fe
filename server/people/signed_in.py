"""The signed-in person of a request, typed."""

from uuid import UUID

from django.http import HttpRequest

from config.problems import Problem
from people.may import Member, member
from people.models import Person


def person_of(request: HttpRequest) -> Person:
    """The person, or the 401 that says how to go on."""
    if not isinstance(request.user, Person):
        raise Problem(401, "not_signed_in", "You are not signed in; sign in and it goes on.")
    return request.user


def member_of(request: HttpRequest) -> Member:
    """The person in their workshop."""
    return member(person_of(request), _device(request))


def _device(request: HttpRequest) -> UUID | None:
    """What the client calls its device; nothing hangs on it but what counts as a conflict with oneself."""
    try:
        return UUID(request.headers.get("X-Warm-Device", ""))
    except ValueError:
        return None
