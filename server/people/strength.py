"""How strong a password has to be, and how it is hashed."""

from typing import Any

from django.contrib.auth.hashers import Argon2PasswordHasher
from django.core.exceptions import ValidationError

#: Fewer different characters than this are soon tried through. Own assumption.
LEAST_DIFFERENT = 5


class DifferentCharacters:
    """Refuses twelve blanks and "aaaaaaaaaaaa"."""

    def validate(self, password: str, user: Any = None) -> None:
        if len(set(password.strip())) < LEAST_DIFFERENT:
            raise ValidationError(f"Use at least {LEAST_DIFFERENT} different characters.", code="too_alike")

    def get_help_text(self) -> str:
        return f"At least {LEAST_DIFFERENT} different characters."


class Argon2(Argon2PasswordHasher):
    """Argon2id with 19 MiB, two passes, one lane: OWASP Password Storage Cheat Sheet, first of its equal choices."""

    time_cost = 2
    memory_cost = 19_456
    parallelism = 1
