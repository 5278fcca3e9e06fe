"""Addresses that whoever has them may read by: given, withdrawn, never given again."""

import secrets
from typing import Any, TypeVar

from django.db import models
from django.utils import timezone

from people.may import Member
from people.models import Person, WorkshopRow


class Token(WorkshopRow):
    """A long random word that opens one thing to whoever has it, until it is withdrawn.

    It is kept as it is: what it opens lies in the same database, and the worker prints it long after it was given.
    """

    token = models.CharField(max_length=64, unique=True)
    by = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    withdrawn_at = models.DateTimeField(null=True)

    class Meta:
        abstract = True


_Token = TypeVar("_Token", bound=Token)


def open_token(model: type[_Token], **of: Any) -> _Token | None:
    """The one that is open now, of what is named or by its token."""
    return model._default_manager.filter(withdrawn_at__isnull=True, **of).first()


def switch(model: type[_Token], who: Member, on: bool, **of: Any) -> tuple[_Token | None, bool]:
    """Give one for what is named, or withdraw the one there is; the one that is open then, and whether that is new.

    Whoever calls holds what it is of: two at once would give two.
    """
    token = open_token(model, **of)
    if on == (token is not None):
        return token, False
    if token is not None:
        model._default_manager.filter(pk=token.pk).update(withdrawn_at=timezone.now())
        return None, True
    return model._default_manager.create(
        **({"workshop": who.workshop} | of), token=secrets.token_urlsafe(32), by=who.person
    ), True
