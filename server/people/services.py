"""Who is in a workshop: asking people in, changing what they may do, giving out what is kept, forgetting."""

import hashlib
import secrets
from datetime import timedelta
from typing import Any
from uuid import UUID
from zoneinfo import available_timezones

from django.db import transaction
from django.db.models import F, QuerySet
from django.forms.models import model_to_dict
from django.http import Http404
from django.utils import timezone

from people.door import check_strength, end
from people.hashing import hash_of, is_right
from people.may import Member
from people.models import Act, Invitation, Membership, Person, Role, Workshop
from people.tasks import mail
from shared.problems import ApiError
from warmdraft.tables import languages

VALID_FOR = timedelta(days=7)
FORGOTTEN = "someone who left"
#: Acts of a person in one answer.
MOST_ACTS = 1000
#: What a workshop reckons, counts its days and speaks in.
_RECKONS = ("currency", "time_zone", "language")


def _hash(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


def invite(who: Member, invitation_id: UUID, email: str, role: str) -> Invitation:
    """Ask someone in, by mail. The same id again is the same invitation; one that is over is a new write's."""
    who.require("invite")
    email = email.strip().lower()
    with transaction.atomic():
        row, made = Invitation.objects.get_or_create(
            id=invitation_id,
            defaults={"workshop": who.workshop, "email": email, "role": role, "token_sha256": _hash(str(invitation_id)),
                      "by": who.person, "expires_at": timezone.now() + VALID_FOR},
        )  # fmt: skip
        if row.workshop_id != who.workshop.id:
            raise Http404
        if not made:
            if (row.email, row.role) != (email, role):
                raise ApiError(409, "already_recorded", "This invitation went to someone else; send a new one.")
            if not is_open(row):
                raise ApiError(
                    409, "invitation_over", "This invitation is used, taken back or too old; send a new one."
                )
            return row
        if Membership.objects.filter(workshop=who.workshop, person__email=email).exists():
            raise ApiError(409, "already_in", f"{email} is in the workshop already.")
        Act.objects.create(workshop=who.workshop, by=who.person, what="invited", after={"email": email, "role": role})
        mail("invitation", row.id)
    return row


def uninvite(who: Member, invitation_id: UUID) -> None:
    """Take an invitation back: its link leads nowhere from now on."""
    who.require("invite")
    with transaction.atomic():
        row = Invitation.objects.select_for_update().filter(id=invitation_id, workshop=who.workshop).first()
        if row is None:
            raise Http404
        if row.accepted_at:
            raise ApiError(409, "already_in", "They have joined already; change or end what they are here instead.")
        if row.withdrawn_at is None:
            row.withdrawn_at = timezone.now()
            row.save(update_fields=["withdrawn_at"])
            Act.objects.create(workshop=who.workshop, by=who.person, what="uninvited", before={"email": row.email})


def new_token(row: Invitation) -> str:
    """A fresh token for an invitation's mail: only its hash is kept, so that no queue and no backup holds a way in."""
    token = secrets.token_urlsafe(32)
    Invitation.objects.filter(pk=row.pk).update(token_sha256=_hash(token))
    return token


def open_invitations() -> QuerySet[Invitation]:
    """Those that may still be accepted: nobody did, nobody took them back, and who asked may still ask."""
    return Invitation.objects.filter(
        accepted_at=None, withdrawn_at=None, expires_at__gt=timezone.now(),
        by__memberships__workshop=F("workshop"), by__memberships__role=Role.LEAD,
    )  # fmt: skip


def is_open(row: Invitation) -> bool:
    """Whether an invitation may still be accepted."""
    return open_invitations().filter(pk=row.pk).exists()


def invitation_of(token: str) -> Invitation:
    """The invitation a mail's link stands for, still open."""
    row = Invitation.objects.select_related("workshop", "by").filter(token_sha256=_hash(token)).first()
    if row is None or not is_open(row):
        raise ApiError(422, "link_is_spent", "This invitation is used, taken back or too old; ask for a new one.")
    return row


def join(token: str, name: str, password: str) -> tuple[Person, Workshop]:
    """Accept an invitation. Who has an account already joins with its password.

    The password is weighed or hashed before anything is locked: it takes longer than all the rest together.
    """
    row = invitation_of(token)
    person = Person.objects.filter(email=row.email).first()
    hashed = ""
    if person is None:
        name = name.strip()
        if not name:
            raise ApiError(422, "no_name", "Say what you are called.", [{"path": "$.name", "message": "is empty"}])
        check_strength(password, Person(email=row.email, name=name), "$.password")
        hashed = hash_of(password)
    elif not is_right(person, password):
        raise ApiError(422, "wrong_password", "You have an account with this e-mail; give its password.",
                      [{"path": "$.password", "message": "is not the one of your account"}])  # fmt: skip
    with transaction.atomic():
        # one joins by it; and what it was may have changed while the password was hashed
        Invitation.objects.select_for_update().filter(pk=row.pk).first()
        row = invitation_of(token)
        if person is None:
            person, _ = Person.objects.get_or_create(email=row.email, defaults={"name": name, "password": hashed})
        Membership.objects.get_or_create(person=person, workshop=row.workshop, defaults={"role": row.role})
        Invitation.objects.filter(pk=row.pk).update(accepted_at=timezone.now())
        Act.objects.create(workshop=row.workshop, by=person, about=person, what="joined", after={"role": row.role})
    return person, row.workshop


def choose_workshop(who: Member) -> None:
    """From now on this is where the person is after signing in; nobody wakes up in a room for drills."""
    if who.workshop.practice_of_id is not None:
        return
    Membership.objects.filter(workshop=who.workshop, person=who.person).update(chosen_at=timezone.now())


def _membership(who: Member, person_id: UUID) -> Membership:
    """Somebody's membership, with the workshop's row held: two leads cannot end each other at once."""
    Workshop.objects.select_for_update().only("id").get(id=who.workshop.id)
    row = Membership.objects.select_related("person").filter(workshop=who.workshop, person_id=person_id).first()
    if row is None:
        raise Http404
    return row


def _not_the_last_lead(who: Member, row: Membership) -> None:
    others = Membership.objects.filter(workshop=who.workshop, role=Role.LEAD).exclude(pk=row.pk)
    if row.role == Role.LEAD and not others.exists():
        raise ApiError(409, "last_lead", "A workshop keeps at least one lead; make someone else lead first.")


def set_member(who: Member, person_id: UUID, role: str, qualifications: list[str]) -> None:
    """What someone is in this workshop, and what it knows them to be qualified for."""
    who.require("change_a_role")
    with transaction.atomic():
        row = _membership(who, person_id)
        if role != Role.LEAD:
            _not_the_last_lead(who, row)
        before = {"role": row.role, "qualifications": sorted(row.qualifications)}
        after = {"role": role, "qualifications": sorted(set(qualifications))}
        if before == after:
            return
        Membership.objects.filter(pk=row.pk).update(**after)
        Act.objects.create(
            workshop=who.workshop, by=who.person, about=row.person, what="role_changed", before=before, after=after
        )


def end_membership(who: Member, person_id: UUID) -> None:
    """Someone leaves this workshop, or is taken out of it: their account and their other workshops stay."""
    if person_id != who.person.id:
        who.require("change_a_role")
    with transaction.atomic():
        row = _membership(who, person_id)
        _not_the_last_lead(who, row)
        row.delete()
        Membership.objects.filter(workshop__practice_of=who.workshop, person=row.person).delete()
        what = "left" if person_id == who.person.id else "removed"
        Act.objects.create(workshop=who.workshop, by=who.person, about=row.person, what=what, before={"role": row.role})


def forget(who: Member, person_id: UUID) -> None:
    """Take a person's name and e-mail out of all but frozen records; what they did stays, by someone who left."""
    who.require("export_a_person")
    with transaction.atomic():
        row = _membership(who, person_id)
        if row.person_id == who.person.id:
            raise ApiError(409, "not_oneself", "Someone else has to do this for you: you are still signed in.")
        _not_the_last_lead(who, row)
        Membership.objects.filter(workshop__practice_of=who.workshop, person=row.person).delete()
        if Membership.objects.filter(person=row.person).exclude(workshop=who.workshop).exists():
            raise ApiError(409, "in_another_workshop", "This person works in another workshop too; take them out of "
                          "this one instead.")  # fmt: skip
        person = row.person
        end(person, person.sittings.all())
        Invitation.objects.filter(email=person.email, workshop=who.workshop).delete()
        for kept in ("before", "after"):
            Act.objects.filter(workshop=who.workshop, **{f"{kept}__email": person.email}).update(**{kept: None})
        Act.objects.filter(about=person).update(before=None, after=None)
        anonymise(person)
        row.delete()
        Act.objects.create(workshop=who.workshop, by=who.person, about=person, what="forgotten")


def no_address(person_id: UUID) -> str:
    """An address that reaches nobody: of whoever is named and has no account."""
    return f"{person_id}@forgotten.invalid"


def anonymise(person: Person) -> None:
    """Take name, address and habits from a person; what names them goes on naming somebody."""
    person.name, person.email = FORGOTTEN, no_address(person.pk)
    person.habits, person.is_active = {}, False
    person.set_unusable_password()
    person.save()


def kept_of(who: Member, person_id: UUID) -> dict[str, Any]:
    """What is kept about a person as such; what they did on jobs is added by who knows jobs."""
    if person_id != who.person.id:
        who.require("export_a_person")
    row = Membership.objects.select_related("person").filter(workshop=who.workshop, person_id=person_id).first()
    if row is None:
        raise Http404
    person = row.person
    return {
        "id": str(person.id), "name": person.name, "email": person.email, "habits": person.habits, "role": row.role,
        "qualifications": sorted(row.qualifications),
        "sittings": [
            {"browser": s.browser, "began_at": s.began_at, "seen_at": s.seen_at} for s in person.sittings.all()
        ],
        "acts": [
            {"what": act.what, "at": act.at, "before": act.before, "after": act.after}
            for act in Act.objects.filter(by=person, workshop=who.workshop).order_by("-id")[:MOST_ACTS]
        ],
    }  # fmt: skip


def keep_workshop(who: Member, currency: str, time_zone: str, language: str) -> Workshop:
    """Change what the workshop reckons, counts its days and speaks in. Raises ApiError."""
    who.require("keep_the_workshop")
    if time_zone not in available_timezones():
        raise _wrong("time_zone", f"'{time_zone}' is no time zone here; give one such as Europe/London")
    if language not in languages():
        raise _wrong("language", f"'{language}' is no language here; give one of {', '.join(languages())}")
    with transaction.atomic():
        workshop = Workshop.objects.select_for_update().get(id=who.workshop.id)
        before = model_to_dict(workshop, _RECKONS)
        workshop.currency, workshop.time_zone, workshop.language = currency, time_zone, language
        after = model_to_dict(workshop, _RECKONS)
        if after != before:
            workshop.save(update_fields=_RECKONS)
            Act.objects.create(workshop=workshop, by=who.person, what="workshop_changed", before=before, after=after)
    return workshop


def _wrong(name: str, message: str) -> ApiError:
    return ApiError(422, "invalid", f"{message}.", [{"path": f"$.{name}", "message": message}])
