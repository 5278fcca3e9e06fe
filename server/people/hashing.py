"""Passwords are hashed slowly on purpose: so many at once, and no database connection is held meanwhile."""

import os
import threading

from django.contrib.auth.hashers import check_password, make_password

from config.problems import Problem
from config.slots import give_connection_back
from people.models import Person

_slots = threading.BoundedSemaphore(max(1, (os.cpu_count() or 2) // 2))
#: Who finds no slot within this time is told to come again, s.
PATIENCE = 15.0


class _Slot:
    def __enter__(self) -> None:
        give_connection_back()
        if not _slots.acquire(timeout=PATIENCE):
            raise Problem(503, "busy", "Many are signing in at this moment; try again in a minute.")

    def __exit__(self, *_: object) -> None:
        _slots.release()


def hash_of(password: str) -> str:
    """The hash to keep of a password."""
    with _Slot():
        return make_password(password)


def is_right(person: Person | None, password: str) -> bool:
    """Whether it is this person's password. As long for nobody as for somebody; an old way of hashing is renewed."""
    with _Slot():
        if person is None or not person.is_active or not person.has_usable_password():
            make_password(password)
            return False

        def renew(raw: str) -> None:
            Person.objects.filter(pk=person.pk, password=person.password).update(password=make_password(raw))

        return check_password(password, person.password, renew)
