"""The signed-in person of a request, typed: who, in which workshop, from which device."""

from django.contrib.sessions.models import Session
from django.http import HttpRequest
from django.utils import timezone

from people.may import Member, member
from people.models import Membership, Person
from shared.ids import id_in
from shared.problems import ApiError

#: In the session: the workshop that was chosen in it.
WORKSHOP = "workshop"


def person_of(request: HttpRequest) -> Person:
    """The person, or the 401 that says how to go on; 409 where a tab of somebody else asks with their session."""
    if not isinstance(request.user, Person):
        raise ApiError(401, "not_signed_in", "You are not signed in; sign in and it goes on.")
    meant = request.headers.get("X-Warm-Person")
    if meant and meant != str(request.user.pk):
        raise ApiError(
            409, "someone_else", "Somebody else is signed in on this browser by now; what is yours waits for you."
        )
    return request.user


def member_of(request: HttpRequest) -> Member:
    """The person in the workshop that the request names, else in the one that their session chose."""
    workshop = id_in(request.headers.get("X-Warm-Workshop")) or id_in(request.session.get(WORKSHOP))
    return member(person_of(request), id_in(request.headers.get("X-Warm-Device")), workshop)


def still_in(who: Member, session_key: str) -> bool:
    """Whether a session is still open and its person still belongs to the workshop: for what outlasts a request."""
    open_still = Session.objects.filter(session_key=session_key, expire_date__gt=timezone.now()).exists()
    return open_still and Membership.objects.filter(person=who.person, workshop=who.workshop).exists()
