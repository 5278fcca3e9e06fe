"""What clients give: every text in it can be stored."""

from typing import Any

from ninja import Schema
from pydantic import field_validator

from warmdraft.text import unwritable


class Given(Schema):
    """The base of every body: text with a NUL or half a character is refused at its field."""

    @field_validator("*", mode="before")
    @classmethod
    def _can_be_stored(cls, value: Any) -> Any:
        if unwritable(value):
            raise ValueError("holds a NUL or half a character; take it out")
        return value
