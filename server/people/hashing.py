"""Passwords are hashed slowly on purpose: so many at once, and no database connection is held meanwhile."""

from django.contrib.auth.hashers import check_password, make_password

from people.models import Person
from shared.slots import CORES, Slots

#: Half the cores: whoever works goes on while a whole workshop signs in.
hashing = Slots(max(1, CORES // 2), 15.0, "Many are signing in at this moment; try again in a minute.")


def hash_of(password: str) -> str:
    """The hash to keep of a password."""
    with hashing:
        return make_password(password)


def is_right(person: Person | None, password: str) -> bool:
    """Whether it is this person's password. As long for nobody as for somebody; an old way of hashing is renewed."""
    with hashing:
        if person is None or not person.is_active or not person.has_usable_password():
            make_password(password)
            return False

        def renew(raw: str) -> None:
            Person.objects.filter(pk=person.pk, password=person.password).update(password=make_password(raw))

        return check_password(password, person.password, renew)
