"""The door: signing in and out, slowly for those who guess; sittings seen and ended; passwords changed and lost."""

import hashlib
import secrets
from datetime import timedelta
from typing import Any
from uuid import uuid4

from django.conf import settings
from django.contrib.auth import login, logout
from django.contrib.auth.password_validation import validate_password
from django.contrib.auth.tokens import default_token_generator
from django.contrib.sessions.models import Session
from django.core.exceptions import ValidationError
from django.core.signing import BadSignature
from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from django.utils.http import urlsafe_base64_decode

from people.hashing import hash_of, is_right
from people.models import Act, Attempt, Person, Sitting
from people.signals import sittings_ended
from people.tasks import mail
from shared.problems import ApiError

#: Tries are counted over this window. Own assumption, as are the numbers below.
WINDOW = timedelta(minutes=15)
#: Wrong passwords of one e-mail from one address, or from a device its person is known on; of anybody from one address.
#: An address waits, never a person: from anywhere else the right password opens the door.
MOST_AT_AN_EMAIL, MOST_OF_AN_ADDRESS = 8, 60
#: Mails asked for: for one e-mail (more are quietly not sent), from one address.
MOST_MAILS, MOST_MAILS_OF_AN_ADDRESS = 3, 20
#: Guesses of a password from within a sitting, or at one invitation.
MOST_GUESSES = 8
#: A sitting's "last seen" is written at most this often.
SEEN_EVERY = timedelta(minutes=10)
#: A device its person once signed in on carries this.
KNOWN, KNOWN_FOR = "warm-known", timedelta(days=365)


def _hidden(*parts: str) -> str:
    return hashlib.sha256(" ".join((settings.SECRET_KEY, *parts)).encode()).hexdigest()


def _address(request: HttpRequest) -> str:
    address = str(request.META.get("REMOTE_ADDR", ""))
    if settings.HTTPS:  # behind a proxy that sets it
        address = request.META.get("HTTP_X_FORWARDED_FOR", address).split(",")[-1].strip()
    return address


def _known_device(request: HttpRequest, email: str) -> str | None:
    """What this browser is known by where this very person has signed in on it before."""
    try:
        told = request.get_signed_cookie(KNOWN, max_age=KNOWN_FOR)
    except (KeyError, BadSignature):
        return None
    device, _, whose = (told or "").partition(" ")
    return device if whose == _hidden("email", email) else None


class Tries:
    """Tries counted before they are made, so that many at once count too; taken back where they were right."""

    def __init__(self, about: str, counted: dict[str, int]) -> None:
        since = timezone.now() - WINDOW
        rows = Attempt.objects.bulk_create(Attempt(who_sha256=who, about_sha256=about) for who in counted)
        self._ids = [row.pk for row in rows]
        for who, most in counted.items():
            if Attempt.objects.filter(who_sha256=who, at__gt=since).count() > most:
                self.take_back()  # who is told to wait is not made to wait longer by asking
                raise ApiError(429, "slow_down", "Too many tries from here; wait a quarter of an hour.")

    def take_back(self) -> None:
        """These count for nothing."""
        Attempt.objects.filter(pk__in=self._ids).delete()


def guessing(request: HttpRequest, what: str, whose: str) -> Tries:
    """Count a guess of a password that somebody inside, or with an invitation, makes."""
    return Tries("", {_hidden(what, whose): MOST_GUESSES, _hidden("address", _address(request)): MOST_OF_AN_ADDRESS})


def enter(request: HttpRequest, email: str, password: str) -> Person:
    """Sign in. Raises the same problem, after the same time, whether the e-mail or the password is wrong."""
    email = email.strip().lower()
    about, address, device = _hidden("email", email), _address(request), _known_device(request, email)
    if device:
        tries = Tries(about, {_hidden("device", device): MOST_AT_AN_EMAIL})
    else:
        pair = _hidden("email from address", email, address)
        tries = Tries(about, {pair: MOST_AT_AN_EMAIL, _hidden("address", address): MOST_OF_AN_ADDRESS})
    person = Person.objects.filter(email=email).first()
    if not is_right(person, password) or person is None:
        raise ApiError(401, "wrong_sign_in", "No one has this e-mail and password; check both and try again.")
    if person.for_looking_round and settings.HTTPS:
        raise ApiError(
            403, "demo_is_closed", "Its password is printed for everybody: the demo opens on this machine only."
        )
    tries.take_back()
    begin(request, person)
    return person


def begin(request: HttpRequest, person: Person) -> None:
    """Open a sitting for somebody whose password was right."""
    login(request, person, backend="django.contrib.auth.backends.ModelBackend")
    browser = request.headers.get("User-Agent", "")[:120]
    # signing in where one is signed in goes on in the same session
    Sitting.objects.update_or_create(
        session_key=request.session.session_key or "", defaults={"person": person, "browser": browser}
    )


def know_device(request: HttpRequest, answer: HttpResponse) -> None:
    """Let the browser carry that this person has signed in on it."""
    if not isinstance(request.user, Person):
        return
    device = _known_device(request, request.user.email) or secrets.token_urlsafe(12)
    answer.set_signed_cookie(
        KNOWN, f"{device} {_hidden('email', request.user.email)}", max_age=KNOWN_FOR, httponly=True, samesite="Lax",
        secure=settings.HTTPS,
    )  # fmt: skip


def leave(request: HttpRequest) -> None:
    """Sign out."""
    with transaction.atomic():
        Sitting.objects.filter(session_key=request.session.session_key).delete()
        sittings_ended.send(sender=leave, person=request.user)
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
        sittings_ended.send(sender=end, person=person)


def check_strength(password: str, person: Person, path: str = "$.new") -> None:
    """Raise the problem of a password that is too weak, at the field it was given in."""
    try:
        validate_password(password, person)
    except ValidationError as error:
        message = " ".join(error.messages)
        raise ApiError(422, "weak_password", message, [{"path": path, "message": message}]) from None


def change_password(request: HttpRequest, person: Person, old: str, new: str) -> None:
    """A new password; every other sitting ends."""
    tries = guessing(request, "old password", str(person.pk))
    if not is_right(person, old):
        raise ApiError(
            422, "wrong_password", "The old password is not right.", [{"path": "$.old", "message": "is not right"}]
        )
    tries.take_back()
    check_strength(new, person)
    hashed = hash_of(new)
    with transaction.atomic():
        _set(person, hashed)
        end(person, person.sittings.exclude(session_key=request.session.session_key))
        Sitting.objects.filter(session_key=request.session.session_key).delete()
        begin(request, person)


def _set(person: Person, hashed: str) -> None:
    person.password = hashed
    person.save(update_fields=["password"])
    Attempt.objects.filter(about_sha256=_hidden("email", person.email)).delete()
    Act.objects.create(by=person, about=person, what="password_changed")


def lost_password(request: HttpRequest, email: str) -> None:
    """Mail a way to a new password. The answer is the same, after the same time, whether the e-mail is known or not."""
    email = email.strip().lower()
    Tries("", {_hidden("lost from address", _address(request)): MOST_MAILS_OF_AN_ADDRESS})
    with transaction.atomic():
        asked = _hidden("lost", email)
        Attempt.objects.create(who_sha256=asked)
        if Attempt.objects.filter(who_sha256=asked, at__gt=timezone.now() - WINDOW).count() > MOST_MAILS:
            return
        person = Person.objects.filter(email=email, is_active=True).values_list("id", flat=True).first()
        mail("lost_password", person or uuid4())  # nobody's id is as long in the queue as somebody's


def new_password(key: str, token: str, password: str) -> None:
    """Set the password that a mail's link allows; every sitting ends."""
    try:
        person = Person.objects.get(pk=urlsafe_base64_decode(key).decode(), is_active=True)
    except (Person.DoesNotExist, ValueError, ValidationError):
        person = None
    if person is None or not default_token_generator.check_token(person, token):
        raise ApiError(422, "link_is_spent", "This link is used or too old; ask for a new one.")
    check_strength(password, person)
    hashed = hash_of(password)
    with transaction.atomic():
        person = Person.objects.select_for_update().get(pk=person.pk)
        if not default_token_generator.check_token(person, token):  # by another window meanwhile
            raise ApiError(422, "link_is_spent", "This link is used or too old; ask for a new one.")
        _set(person, hashed)
        end(person, person.sittings.all())
