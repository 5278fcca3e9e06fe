"""The door: signing in and out, slowly for those who guess; sittings seen and ended; passwords changed and lost."""

import hashlib
from datetime import timedelta
from typing import Any

from django.conf import settings
from django.contrib.auth import authenticate, login, logout
from django.contrib.auth.password_validation import validate_password
from django.contrib.auth.tokens import default_token_generator
from django.contrib.sessions.models import Session
from django.core.exceptions import ValidationError
from django.db import transaction
from django.http import HttpRequest
from django.utils import timezone
from django.utils.encoding import force_bytes
from django.utils.http import urlsafe_base64_decode, urlsafe_base64_encode

from config.problems import Problem
from people.models import Act, Attempt, Person, Sitting
from people.tasks import mail

#: Failed sign-ins of one e-mail, and of one address, within the window; then one waits. Own assumption.
WINDOW = timedelta(minutes=15)
MOST_OF_AN_EMAIL, MOST_OF_AN_ADDRESS = 8, 60
#: A sitting's "last seen" is written at most this often.
SEEN_EVERY = timedelta(minutes=10)


def _who(kind: str, value: str) -> str:
    return hashlib.sha256(f"{settings.SECRET_KEY} {kind} {value}".encode()).hexdigest()


def _asking(request: HttpRequest, email: str) -> dict[str, int]:
    address = request.META.get("REMOTE_ADDR", "")
    if settings.HTTPS:  # behind a proxy that sets it
        address = request.META.get("HTTP_X_FORWARDED_FOR", address).split(",")[-1].strip()
    return {_who("email", email): MOST_OF_AN_EMAIL, _who("address", address): MOST_OF_AN_ADDRESS}


def _not_too_often(asking: dict[str, int]) -> None:
    since = timezone.now() - WINDOW
    for who, most in asking.items():
        if Attempt.objects.filter(who_sha256=who, at__gt=since).count() >= most:
            raise Problem(429, "slow_down", "Too many tries; wait a quarter of an hour, or set a new password by mail.")


def _note(asking: dict[str, int]) -> None:
    Attempt.objects.bulk_create(Attempt(who_sha256=who) for who in asking)


def enter(request: HttpRequest, email: str, password: str) -> Person:
    """Sign in. Raises the same problem whether the e-mail or the password is wrong."""
    email = email.strip().lower()
    asking = _asking(request, email)
    _not_too_often(asking)
    person = authenticate(request, username=email, password=password)
    if not isinstance(person, Person):
        _note(asking)
        raise Problem(401, "wrong_sign_in", "No one has this e-mail and password; check both and try again.")
    Attempt.objects.filter(who_sha256=_who("email", email)).delete()
    _begin(request, person)
    return person


def _begin(request: HttpRequest, person: Person) -> None:
    login(request, person, backend="django.contrib.auth.backends.ModelBackend")
    browser = request.headers.get("User-Agent", "")[:120]
    Sitting.objects.create(person=person, session_key=request.session.session_key or "", browser=browser)


def leave(request: HttpRequest) -> None:
    """Sign out."""
    Sitting.objects.filter(session_key=request.session.session_key).delete()
    logout(request)


def seen(request: HttpRequest) -> None:
    """Note that a sitting is alive, now and then."""
    Sitting.objects.filter(session_key=request.session.session_key, seen_at__lt=timezone.now() - SEEN_EVERY).update(
        seen_at=timezone.now()
    )


def sittings_of(request: HttpRequest, person: Person) -> list[dict[str, Any]]:
    """Where this person is signed in; the latest first."""
    alive = set(
        Session.objects.filter(
            session_key__in=person.sittings.values("session_key"), expire_date__gt=timezone.now()
        ).values_list("session_key", flat=True)
    )
    return [
        {
            "id": row.id, "browser": row.browser, "began_at": row.began_at, "seen_at": row.seen_at,
            "this_one": row.session_key == request.session.session_key,
        }
        for row in person.sittings.order_by("-seen_at")
        if row.session_key in alive
    ]  # fmt: skip


def end(person: Person, sittings: Any) -> None:
    """End sittings: their sessions are gone at once."""
    with transaction.atomic():
        Session.objects.filter(session_key__in=list(sittings.values_list("session_key", flat=True))).delete()
        sittings.delete()


def check_strength(password: str, person: Person, path: str = "$.new") -> None:
    """Raise the problem of a password that is too weak, at the field it was given in."""
    try:
        validate_password(password, person)
    except ValidationError as error:
        message = " ".join(error.messages)
        raise Problem(422, "weak_password", message, [{"path": path, "message": message}]) from None


def change_password(request: HttpRequest, person: Person, old: str, new: str) -> None:
    """A new password; every other sitting ends."""
    if not person.check_password(old):
        raise Problem(
            422, "wrong_password", "The old password is not right.", [{"path": "$.old", "message": "is not right"}]
        )
    check_strength(new, person)
    with transaction.atomic():
        _set(person, new)
        end(person, person.sittings.exclude(session_key=request.session.session_key))
        Sitting.objects.filter(session_key=request.session.session_key).delete()
        _begin(request, person)


def _set(person: Person, password: str) -> None:
    person.set_password(password)
    person.save(update_fields=["password"])
    Act.objects.create(by=person, about=person, what="password_changed")


def lost_password(request: HttpRequest, email: str) -> None:
    """Mail a way to a new password; the answer is the same whether the e-mail is known or not."""
    email = email.strip().lower()
    asking = _asking(request, email)
    _not_too_often(asking)
    _note(asking)
    person = Person.objects.filter(email=email, is_active=True).first()
    if person is None:
        return
    key = urlsafe_base64_encode(force_bytes(person.pk))
    link = f"{settings.ADDRESS}/new-password/{key}/{default_token_generator.make_token(person)}"
    mail(
        person.email,
        "A new password for Warm Draft",
        f"Someone asked for a new password for this e-mail. If it was you, set it here within a day:\n\n{link}\n\n"
        "If not, nothing has changed and nothing has to be done.",
    )


def new_password(key: str, token: str, password: str) -> None:
    """Set the password that a mail's link allows; every sitting ends."""
    try:
        person = Person.objects.get(pk=urlsafe_base64_decode(key).decode(), is_active=True)
    except (Person.DoesNotExist, ValueError, ValidationError):
        person = None
    if person is None or not default_token_generator.check_token(person, token):
        raise Problem(422, "link_is_spent", "This link is used or too old; ask for a new one.")
    check_strength(password, person)
    with transaction.atomic():
        _set(person, password)
        end(person, person.sittings.all())
