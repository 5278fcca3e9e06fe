"""Signing in and out, who one is, and who else is in the workshop."""

from dataclasses import replace
from datetime import datetime
from typing import Any, Literal
from uuid import UUID

from django.http import Http404, HttpRequest, HttpResponse
from django.middleware.csrf import get_token
from django.views.decorators.csrf import csrf_protect
from ninja import Field, Router, Schema, Status
from ninja.decorators import decorate_view

from people import door, services
from people.habits import Habits
from people.may import RULES, Member, member
from people.models import Act, Invitation, Membership, Person
from people.signed_in import WORKSHOP, member_of, person_of
from shared.body import Body
from shared.pages import key_of, next_page
from shared.problems import ProblemOut
from warmdraft.tables import languages
from warmdraft.words import words_for

router = Router(tags=["people"])
_REFUSED = dict.fromkeys((401, 403, 404, 409, 422), ProblemOut)
#: People in one answer, and acts on one page.
MOST_PEOPLE, ACTS_A_PAGE = 500, 100
#: Characters of a password: longer ones only cost time to hash.
MOST_PASSWORD = 200
RoleName = Literal["trainee", "technician", "lead"]


class SignIn(Body):
    """What a person signs in with."""

    email: str = Field(max_length=254)
    password: str = Field(max_length=MOST_PASSWORD)


class WorkshopOut(Schema):
    """A workshop one belongs to."""

    id: UUID
    name: str
    role: str


class MeOut(Schema):
    """The signed-in person; may: the acts their role allows; may_not: why not the others."""

    id: UUID
    name: str
    email: str
    initials: str
    workshop: str
    workshop_id: UUID
    #: In the room for drills: the workshop it stands beside.
    practice_of: UUID | None
    workshops: list[WorkshopOut]
    role: str
    qualifications: list[str]
    may: list[str]
    may_not: dict[str, str]
    habits: Habits
    #: By dimension: the unit this person reads it in; way: along a run.
    units: dict[str, str]
    #: What the workshop speaks, reckons and counts its days in; languages: what it could speak.
    language: str
    currency: str
    time_zone: str
    languages: list[str]


def _me(request: HttpRequest, who: Member | None = None) -> MeOut:
    get_token(request)  # so that the cookie exists from the first answer on
    who = who or member_of(request)
    mine = Membership.objects.filter(person=who.person, workshop__practice_of=None).select_related("workshop")
    mine = mine.order_by("workshop__name", "id")
    habits = Habits(**who.person.habits)
    return MeOut(
        id=who.person.id,
        name=who.person.name,
        email=who.person.email,
        initials="".join(word[0] for word in who.person.name.split()[:2]).upper(),
        workshop=who.workshop.name,
        workshop_id=who.workshop.id,
        practice_of=who.workshop.practice_of_id,
        workshops=[WorkshopOut(id=row.workshop_id, name=row.workshop.name, role=row.role) for row in mine],
        role=who.role,
        qualifications=sorted(who.qualifications),
        may=sorted(act for act in RULES if who.may(act)),
        may_not={act: who.why_not(act) for act in RULES if not who.may(act)},
        habits=habits,
        units={
            **dict[str, str](habits.units().items()),
            "way": words_for(who.workshop.speaks, habits.units()).way_unit(),
        },
        language=who.workshop.speaks,
        currency=who.workshop.currency,
        time_zone=who.workshop.time_zone,
        languages=list(languages()),
    )


class Greeting(Schema):
    """Whether someone is signed in; asked before anything else, and it sets the token's cookie."""

    signed_in: bool


@router.get("/session", response=Greeting, auth=None)
def session(request: HttpRequest) -> Greeting:
    """Is anybody signed in?"""
    get_token(request)
    return Greeting(signed_in=request.user.is_authenticated)


_DOOR: dict[int, Any] = dict.fromkeys((401, 403, 409, 422, 429, 503), ProblemOut)


@router.post("/session", response={200: MeOut, **_DOOR}, auth=None)
@decorate_view(csrf_protect)
def sign_in(request: HttpRequest, response: HttpResponse, body: SignIn) -> MeOut:
    """Sign in."""
    person = door.enter(request, body.email, body.password)
    door.know_device(request, response)
    request.session.pop(WORKSHOP, None)
    return _me(request, member(person))


@router.delete("/session", response={204: None, **dict.fromkeys((401, 409), ProblemOut)})
def sign_out(request: HttpRequest, response: HttpResponse) -> Status[None]:
    """Sign out. The browser is told to forget what it kept of answers, should the page itself not come to it."""
    door.leave(request)
    response.headers["Clear-Site-Data"] = '"cache"'
    return Status(204, None)


class LostPassword(Body):
    """Whose password is lost."""

    email: str = Field(max_length=254)


@router.post("/lost-password", response={204: None, **_DOOR}, auth=None)
@decorate_view(csrf_protect)
def lost_password(request: HttpRequest, body: LostPassword) -> Status[None]:
    """Mail a way to a new password, where the e-mail is known."""
    door.lost_password(request, body.email)
    return Status(204, None)


class NewPassword(Body):
    """A new password, with what the mail's link carries."""

    key: str = Field(max_length=120)
    token: str = Field(max_length=120)
    new: str = Field(max_length=MOST_PASSWORD)


@router.post("/new-password", response={204: None, **_DOOR}, auth=None)
@decorate_view(csrf_protect)
def new_password(request: HttpRequest, body: NewPassword) -> Status[None]:
    """Set a new password by the mail's link."""
    door.new_password(body.key, body.token, body.new)
    return Status(204, None)


class InvitationLink(Body):
    """What the mail's link carries."""

    token: str = Field(max_length=120)


class InvitationSeen(Schema):
    """Who asks whom in."""

    workshop: str
    by: str
    email: str
    role: str
    known: bool


@router.post("/join/look", response={200: InvitationSeen, **_DOOR}, auth=None)
@decorate_view(csrf_protect)
def look_at_invitation(request: HttpRequest, body: InvitationLink) -> dict[str, Any]:
    """What an invitation says, before it is accepted."""
    row = services.invitation_of(body.token)
    known = Person.objects.filter(email=row.email).exists()
    return {"workshop": row.workshop.name, "by": row.by.name, "email": row.email, "role": row.role, "known": known}


class Join(InvitationLink):
    """Accepting; password: a new one, or that of the account there is."""

    name: str = Field("", max_length=120)
    password: str = Field(max_length=MOST_PASSWORD)


@router.post("/join", response={200: MeOut, **_DOOR}, auth=None)
@decorate_view(csrf_protect)
def join(request: HttpRequest, response: HttpResponse, body: Join) -> MeOut:
    """Accept an invitation and be signed in, in the workshop that asked."""
    tries = door.guessing(request, "join", body.token)
    person, workshop = services.join(body.token, body.name, body.password)
    tries.take_back()
    door.begin(request, person)
    door.know_device(request, response)
    request.session[WORKSHOP] = str(workshop.id)
    return _me(request, member(person, workshop=workshop.id))


@router.get("/me", response={200: MeOut, **dict.fromkeys((401, 403, 409), ProblemOut)})
def me(request: HttpRequest) -> MeOut:
    """Who is signed in."""
    door.seen(request)
    return _me(request)


class ChooseWorkshop(Body):
    """Where one goes on."""

    id: UUID


@router.put("/me/workshop", response={200: MeOut, **dict.fromkeys((401, 403, 409, 422), ProblemOut)})
def put_workshop(request: HttpRequest, body: ChooseWorkshop) -> MeOut:
    """Go on in another workshop one belongs to."""
    who = member(person_of(request), workshop=body.id)
    services.choose_workshop(who)
    request.session[WORKSHOP] = str(who.workshop.id)
    return _me(request, who)


class WorkshopIn(Body):
    """What a workshop reckons in (ISO 4217), counts its days in (a name of the tz database) and speaks."""

    currency: str = Field(pattern=r"^[A-Z]{3}$")
    time_zone: str = Field(max_length=60)
    language: str = Field(max_length=35)


@router.put("/workshop", response={200: MeOut, **dict.fromkeys((401, 403, 409, 422), ProblemOut)})
def put_the_workshop(request: HttpRequest, body: WorkshopIn) -> MeOut:
    """Change what the workshop reckons, counts its days and speaks in."""
    who = member_of(request)
    return _me(request, replace(who, workshop=services.keep_workshop(who, **body.dict())))


@router.get("/nothing", response={204: None, **dict.fromkeys((401, 403, 409), ProblemOut)})
def nothing(request: HttpRequest) -> Status[None]:
    """Knows who asks, and does nothing: what the rest is measured against."""
    member_of(request)
    return Status(204, None)


@router.put("/me/habits", response={200: MeOut, **dict.fromkeys((401, 403, 409, 422), ProblemOut)})
def put_habits(request: HttpRequest, habits: Habits) -> MeOut:
    """Units, theme, hand and keys of the signed-in person."""
    person = person_of(request)
    person.habits = habits.dict()
    person.save(update_fields=["habits"])
    return _me(request)


class ChangePassword(Body):
    """The old password and the new one."""

    old: str = Field(max_length=MOST_PASSWORD)
    new: str = Field(max_length=MOST_PASSWORD)


@router.put("/me/password", response={204: None, **_DOOR})
def put_password(request: HttpRequest, body: ChangePassword) -> Status[None]:
    """Change the password; every other sitting ends."""
    door.change_password(request, person_of(request), body.old, body.new)
    return Status(204, None)


class SittingOut(Schema):
    """Somewhere this person is signed in."""

    id: UUID
    browser: str
    began_at: datetime
    seen_at: datetime
    this_one: bool


@router.get("/me/sittings", response={200: list[SittingOut], **dict.fromkeys((401, 409), ProblemOut)})
def sittings(request: HttpRequest) -> Any:
    """Where this person is signed in."""
    return door.sittings_of(request, person_of(request))


@router.delete("/me/sittings/{uuid:sitting_id}", response={204: None, **dict.fromkeys((401, 404, 409), ProblemOut)})
def end_sitting(request: HttpRequest, sitting_id: UUID) -> Status[None]:
    """Sign out elsewhere."""
    found = person_of(request).sittings.filter(id=sitting_id)
    if not found.exists():
        raise Http404
    door.end(person_of(request), found)
    return Status(204, None)


class PersonOut(Schema):
    """Someone in the workshop."""

    id: UUID
    name: str
    email: str
    role: str
    qualifications: list[str]


class InvitationOut(Schema):
    """Someone asked in who has not come yet."""

    id: UUID
    email: str
    role: str
    expires_at: datetime


class PeopleOut(Schema):
    """Who is in the workshop, and who is asked in."""

    people: list[PersonOut]
    invited: list[InvitationOut]


@router.get("/people", response={200: PeopleOut, **dict.fromkeys((401, 403, 409), ProblemOut)})
def people(request: HttpRequest) -> Any:
    """Who is in the workshop, and who is asked in."""
    who = member_of(request)
    rows = Membership.objects.filter(workshop=who.workshop).select_related("person").order_by("person__name", "id")
    return {
        "people": [
            {
                "id": row.person.id, "name": row.person.name, "email": row.person.email, "role": row.role,
                "qualifications": sorted(row.qualifications),
            }
            for row in rows[:MOST_PEOPLE]
        ],
        "invited": services.open_invitations().filter(workshop=who.workshop).order_by("email", "id")[:MOST_PEOPLE],
    }  # fmt: skip


class MemberIn(Body):
    """What someone is in the workshop, and what they are qualified for."""

    role: RoleName
    qualifications: list[Literal["gas", "live"]] = Field(max_length=2)


@router.put("/people/{uuid:person_id}", response={204: None, **_REFUSED})
def put_person(request: HttpRequest, person_id: UUID, body: MemberIn) -> Status[None]:
    """Change what someone may do."""
    services.set_member(member_of(request), person_id, body.role, [str(kind) for kind in body.qualifications])
    return Status(204, None)


@router.delete("/people/{uuid:person_id}/membership", response={204: None, **_REFUSED})
def end_membership(request: HttpRequest, person_id: UUID) -> Status[None]:
    """Leave the workshop, or take someone out of it; their account stays."""
    services.end_membership(member_of(request), person_id)
    return Status(204, None)


@router.delete("/people/{uuid:person_id}", response={204: None, **_REFUSED})
def forget_person(request: HttpRequest, person_id: UUID) -> Status[None]:
    """Take someone out, and their name out of everything but frozen records."""
    services.forget(member_of(request), person_id)
    return Status(204, None)


class InviteIn(Body):
    """Whom to ask in, as what."""

    email: str = Field(max_length=254, pattern=r"^[^@\s]+@[^@\s]+\.[^@\s]+$")
    role: RoleName


@router.put("/invitations/{uuid:invitation_id}", response={200: InvitationOut, **_REFUSED})
def put_invitation(request: HttpRequest, invitation_id: UUID, body: InviteIn) -> Invitation:
    """Ask someone in, by mail."""
    return services.invite(member_of(request), invitation_id, body.email, body.role)


@router.delete("/invitations/{uuid:invitation_id}", response={204: None, **_REFUSED})
def delete_invitation(request: HttpRequest, invitation_id: UUID) -> Status[None]:
    """Take an invitation back."""
    services.uninvite(member_of(request), invitation_id)
    return Status(204, None)


class ActOut(Schema):
    """Something done about people or the workshop."""

    what: str
    by: str
    about: str | None
    at: datetime
    before: Any
    after: Any


@router.get("/acts", response={200: list[ActOut], **dict.fromkeys((401, 403, 409, 422), ProblemOut)})
def acts(request: HttpRequest, response: HttpResponse, after: str = "") -> Any:
    """The log of what was done about people, the latest first, page by page."""
    who = member_of(request)
    who.require("export_a_person")
    rows = Act.objects.filter(workshop=who.workshop).select_related("by", "about").order_by("-id")
    if after:
        rows = rows.filter(id__lt=key_of(after, int)[0])
    page = next_page(response, rows, ACTS_A_PAGE, lambda row: (row.id,))
    return [
        {
            "what": row.what, "by": row.by.name, "about": row.about and row.about.name, "at": row.at,
            "before": row.before, "after": row.after,
        }
        for row in page
    ]  # fmt: skip
