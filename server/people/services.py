"""Who is in a workshop: asking people in, changing what they may do, giving out what is kept, forgetting."""

import hashlib
import secrets
from datetime import timedelta
from typing import Any
from uuid import UUID

from django.conf import settings
from django.db import transaction
from django.http import Http404
from django.utils import timezone

from config.problems import Problem
from people.door import check_strength, end
from people.may import Member
from people.models import Act, Invitation, Membership, Person, Qualification, Role
from people.tasks import mail

VALID_FOR = timedelta(days=7)
FORGOTTEN = "someone who left"


def _hash(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


def invite(who: Member, invitation_id: UUID, email: str, role: str) -> Invitation:
    """Ask someone in, by mail. The same id again is the same invitation."""
    who.require("invite")
    email = email.strip().lower()
    known = Invitation.objects.filter(id=invitation_id).first()
    if known is not None:
        if known.workshop_id != who.workshop.id:
            raise Http404
        if (known.email, known.role) != (email, role):
            raise Problem(409, "already_recorded", "This invitation went to someone else; send a new one.")
        return known
    if Membership.objects.filter(workshop=who.workshop, person__email=email).exists():
        raise Problem(409, "already_in", f"{email} is in the workshop already.")
    token = secrets.token_urlsafe(32)
    with transaction.atomic():
        row = Invitation.objects.create(
            id=invitation_id, workshop=who.workshop, email=email, role=role, token_sha256=_hash(token), by=who.person,
            expires_at=timezone.now() + VALID_FOR,
        )  # fmt: skip
        Act.objects.create(workshop=who.workshop, by=who.person, what="invited", after={"email": email, "role": role})
        mail(
            email,
            f"{who.workshop.name} asks you in",
            f"{who.person.name} asks you to work in {who.workshop.name} with Warm Draft, as {role}. "
            f"Join within a week:\n\n{settings.ADDRESS}/join/{token}\n",
        )
    return row


def invitation_of(token: str) -> Invitation:
    """The invitation a mail's link stands for, still open."""
    row = Invitation.objects.select_related("workshop", "by").filter(token_sha256=_hash(token)).first()
    if row is None or row.accepted_at or row.expires_at < timezone.now():
        raise Problem(422, "link_is_spent", "This invitation is used or too old; ask for a new one.")
    return row


def join(token: str, name: str, password: str) -> Person:
    """Accept an invitation. Who has an account already joins with its password."""
    with transaction.atomic():
        Invitation.objects.select_for_update().filter(token_sha256=_hash(token)).first()  # one joins by it
        row = invitation_of(token)
        person = Person.objects.filter(email=row.email).first()
        if person is None:
            check_strength(password, Person(email=row.email, name=name), "$.password")
            person = Person.objects.create_user(row.email, password, name=name)
        elif not person.check_password(password):
            raise Problem(422, "wrong_password", "You have an account with this e-mail; give its password.",
                          [{"path": "$.password", "message": "is not the one of your account"}])  # fmt: skip
        Membership.objects.get_or_create(person=person, workshop=row.workshop, defaults={"role": row.role})
        row.accepted_at = timezone.now()
        row.save(update_fields=["accepted_at"])
        Act.objects.create(workshop=row.workshop, by=person, about=person, what="joined", after={"role": row.role})
    return person


def _membership(who: Member, person_id: UUID) -> Membership:
    row = (
        Membership.objects.select_for_update(of=("self",))
        .select_related("person")
        .filter(workshop=who.workshop, person_id=person_id)
        .first()
    )
    if row is None:
        raise Http404
    return row


def _not_the_last_lead(who: Member, row: Membership) -> None:
    others = Membership.objects.filter(workshop=who.workshop, role=Role.LEAD).exclude(pk=row.pk)
    if row.role == Role.LEAD and not others.exists():
        raise Problem(409, "last_lead", "A workshop keeps at least one lead; make someone else lead first.")


def set_member(who: Member, person_id: UUID, role: str, qualifications: list[str]) -> None:
    """What someone is in the workshop, and what they are qualified for."""
    who.require("change_a_role")
    with transaction.atomic():
        row = _membership(who, person_id)
        if role != Role.LEAD:
            _not_the_last_lead(who, row)
        kinds = sorted(row.person.qualifications.values_list("kind", flat=True))
        before = {"role": row.role, "qualifications": kinds}
        after = {"role": role, "qualifications": sorted(qualifications)}
        if before == after:
            return
        row.role = role
        row.save(update_fields=["role"])
        row.person.qualifications.exclude(kind__in=qualifications).delete()
        for kind in qualifications:
            Qualification.objects.get_or_create(person=row.person, kind=kind)
        Act.objects.create(
            workshop=who.workshop, by=who.person, about=row.person, what="role_changed", before=before, after=after
        )


def forget(who: Member, person_id: UUID) -> None:
    """Take a person's name and e-mail out of all but frozen records; what they did stays, by someone who left."""
    who.require("export_a_person")
    with transaction.atomic():
        row = _membership(who, person_id)
        if row.person_id == who.person.id:
            raise Problem(409, "not_oneself", "Someone else has to do this for you: you are still signed in.")
        _not_the_last_lead(who, row)
        if Membership.objects.filter(person=row.person).exclude(workshop=who.workshop).exists():
            raise Problem(409, "in_another_workshop", "This person works in another workshop too; end their role here.")
        person = row.person
        end(person, person.sittings.all())
        Invitation.objects.filter(email=person.email).delete()
        Act.objects.filter(about=person).update(before=None, after=None)
        person.name, person.email = FORGOTTEN, f"{person.pk}@forgotten.invalid"
        person.habits, person.is_active = {}, False
        person.set_unusable_password()
        person.save()
        row.delete()
        Act.objects.create(workshop=who.workshop, by=who.person, about=person, what="forgotten")


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
        "qualifications": sorted(person.qualifications.values_list("kind", flat=True)),
        "sittings": [
            {"browser": s.browser, "began_at": s.began_at, "seen_at": s.seen_at} for s in person.sittings.all()
        ],
        "acts": [
            {"what": act.what, "at": act.at, "before": act.before, "after": act.after}
            for act in Act.objects.filter(by=person)
        ],
    }  # fmt: skip
