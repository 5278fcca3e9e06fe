"""Signing in and out, and who one is."""

from uuid import UUID

from django.contrib.auth import authenticate, login, logout
from django.http import HttpRequest
from django.middleware.csrf import get_token
from django.views.decorators.csrf import csrf_protect
from ninja import Router, Schema, Status
from ninja.decorators import decorate_view

from config.given import Given
from config.problems import Problem, ProblemOut
from people.habits import Habits
from people.may import MAY, member
from people.signed_in import person_of

router = Router(tags=["people"])


class SignIn(Given):
    """What a person signs in with."""

    email: str
    password: str


class MeOut(Schema):
    """The signed-in person; may: the acts their role allows."""

    id: UUID
    name: str
    email: str
    initials: str
    workshop: str
    role: str
    qualifications: list[str]
    may: list[str]
    habits: Habits


def _me(request: HttpRequest) -> MeOut:
    get_token(request)  # so that the cookie exists from the first answer on
    who = member(person_of(request))
    return MeOut(
        id=who.person.id,
        name=who.person.name,
        email=who.person.email,
        initials="".join(word[0] for word in who.person.name.split()[:2]).upper(),
        workshop=who.workshop.name,
        role=who.role,
        qualifications=sorted(who.qualifications),
        may=sorted(act for act, roles in MAY.items() if who.role in roles),
        habits=Habits(**who.person.habits),
    )


class Greeting(Schema):
    """Whether someone is signed in; asked before anything else, and it sets the token's cookie."""

    signed_in: bool


@router.get("/session", response=Greeting, auth=None)
def session(request: HttpRequest) -> Greeting:
    """Is anybody signed in?"""
    get_token(request)
    return Greeting(signed_in=request.user.is_authenticated)


@router.post("/session", response={200: MeOut, 401: ProblemOut, 403: ProblemOut, 422: ProblemOut}, auth=None)
@decorate_view(csrf_protect)
def sign_in(request: HttpRequest, facts: SignIn) -> MeOut:
    """Sign in."""
    person = authenticate(request, username=facts.email.strip().lower(), password=facts.password)
    if person is None:
        raise Problem(401, "wrong_sign_in", "No one has this e-mail and password; check both and try again.")
    login(request, person)
    return _me(request)


@router.delete("/session", response={204: None, 401: ProblemOut})
def sign_out(request: HttpRequest) -> Status[None]:
    """Sign out."""
    logout(request)
    return Status(204, None)


@router.get("/me", response={200: MeOut, 401: ProblemOut, 403: ProblemOut})
def me(request: HttpRequest) -> MeOut:
    """Who is signed in."""
    return _me(request)


@router.get("/nothing", response={204: None, 401: ProblemOut, 403: ProblemOut})
def nothing(request: HttpRequest) -> Status[None]:
    """Knows who asks, and does nothing: what the rest is measured against."""
    member(person_of(request))
    return Status(204, None)


@router.put("/me/habits", response={200: MeOut, 401: ProblemOut, 403: ProblemOut, 422: ProblemOut})
def put_habits(request: HttpRequest, habits: Habits) -> MeOut:
    """Units, theme, hand and keys of the signed-in person."""
    person = person_of(request)
    person.habits = habits.dict()
    person.save(update_fields=["habits"])
    return _me(request)
