"""Work of the worker that is about people: mails. The queue holds ids; words and tokens are made when one is sent."""

import logging
from uuid import UUID

from django.conf import settings
from django.contrib.auth.tokens import default_token_generator
from django.core.mail import send_mail
from django.utils.encoding import force_bytes
from django.utils.http import urlsafe_base64_encode

from people.models import Invitation, Person
from shared.queues import MAIL, task

log = logging.getLogger("warm.mail")


def mail(kind: str, about: UUID) -> None:
    """Queue a mail with the transaction that asks for it: nothing is sent where that rolls back."""
    post.defer(kind=kind, about=str(about))


@task("post", MAIL)
def post(kind: str, about: str) -> None:
    """Make one mail and send it; nothing where there is nobody to send it to any more."""
    made = _MAKES[kind](about)
    if made is None:
        return
    send(kind, *made)


def send(kind: str, to: str, subject: str, text: str) -> None:
    """Send a mail; the task that does is tried again where it cannot be sent."""
    try:
        send_mail(subject, text, None, [to])
    except Exception as error:
        # what a mail server says of an address stands in no log: the error goes on without its words
        log.error("mail not sent", extra={"kind": kind, "error": type(error).__name__})
        raise RuntimeError(f"{kind} mail not sent: {type(error).__name__}") from None


def _invitation(about: str) -> tuple[str, str, str] | None:
    from people.services import is_open, new_token

    row = Invitation.objects.select_related("workshop", "by").filter(pk=about).first()
    if row is None or not is_open(row):
        return None
    return (
        row.email,
        f"{row.workshop.name} asks you in",
        f"{row.by.name} asks you to work in {row.workshop.name} with Warm Draft, as {row.role}. "
        f"Join within a week:\n\n{settings.ADDRESS}/join/{new_token(row)}\n",
    )


def _password_link(about: str) -> tuple[Person, str] | None:
    person = Person.objects.filter(pk=about, is_active=True).first()
    if person is None:
        return None
    key = urlsafe_base64_encode(force_bytes(person.pk))
    return person, f"{settings.ADDRESS}/new-password/{key}/{default_token_generator.make_token(person)}"


def _lost_password(about: str) -> tuple[str, str, str] | None:
    found = _password_link(about)
    return found and (
        found[0].email,
        "A new password for Warm Draft",
        f"Someone asked for a new password for this e-mail. If it was you, set it here within a day:\n\n{found[1]}\n\n"
        "If not, nothing has changed and nothing has to be done.",
    )


def _first_password(about: str) -> tuple[str, str, str] | None:
    found = _password_link(about)
    return found and (
        found[0].email,
        "Your workshop on Warm Draft",
        f"A workshop is made that you lead. Set your password here within a day, then sign in:\n\n{found[1]}\n\n"
        "Who has one already goes on with it.",
    )


_MAKES = {"invitation": _invitation, "lost_password": _lost_password, "first_password": _first_password}
