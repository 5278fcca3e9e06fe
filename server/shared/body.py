"""What clients give: every text in it can be stored, every moment lies where calendars hold it."""

from datetime import datetime
from typing import Annotated, Any

from ninja import Schema
from pydantic import AfterValidator, AwareDatetime, BeforeValidator, field_validator

from warmdraft.moments import WANTED, as_utc
from warmdraft.text import unwritable


def _told(value: Any) -> Any:
    if not isinstance(value, str | datetime) or (isinstance(value, str) and ":" not in value):
        raise ValueError(f"is no moment; {WANTED}")
    return value


#: A moment as clients give it: with its offset, within the bounds that files have too; in UTC from here on.
Moment = Annotated[AwareDatetime, BeforeValidator(_told), AfterValidator(as_utc)]


class Body(Schema):
    """The base of every body: text with a NUL or half a character is refused at its field."""

    @field_validator("*", mode="before")
    @classmethod
    def _can_be_stored(cls, value: Any) -> Any:
        if unwritable(value):
            raise ValueError("holds a NUL or half a character; take it out")
        return value
