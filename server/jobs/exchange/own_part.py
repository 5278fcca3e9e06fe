"""What our own files keep beyond the format, under `x-job`; read as strictly as the rest."""

from datetime import datetime
from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from warmdraft.errors import DocumentError
from warmdraft.jobfile import first_wrong
from warmdraft.jobfile.parts import Moment, Uuid
from warmdraft.moments import moment_of


class _Own(BaseModel):
    """Strict of what it knows; what another release kept there besides is left alone."""

    model_config = ConfigDict(strict=True, extra="ignore")


class ToldPart(_Own):
    """What was told of one complaint."""

    since: Annotated[str, Field(max_length=120)] = ""
    how_often: Annotated[str, Field(max_length=120)] = ""
    what: Annotated[str, Field(max_length=400)] = ""


class OwnPlace(_Own):
    """The place of a job."""

    id: Uuid | None = None
    name: Annotated[str, Field(max_length=120)] = "From a file"
    address: Annotated[str, Field(max_length=200)] = ""
    contact: Annotated[str, Field(max_length=120)] = ""


class OwnMachine(_Own):
    """The machine of a job, as its workshop calls it."""

    id: Uuid | None = None
    name: Annotated[str, Field(max_length=120)] = ""


class OwnPart(_Own):
    """All of it; every key may be left out."""

    id: Uuid | None = None
    booked_for: Moment | None = None
    said: Annotated[str, Field(max_length=4000)] = ""
    told: dict[str, ToldPart] = Field(default_factory=dict)
    machine: OwnMachine = Field(default_factory=OwnMachine)
    place: OwnPlace = Field(default_factory=OwnPlace)


def own_part(value: Any) -> OwnPart:
    """The x-job of a file. Raises DocumentError."""
    try:
        return OwnPart.model_validate({} if value is None else value)
    except ValidationError as error:
        wrong = first_wrong(error)
        raise DocumentError(wrong.path.replace("$", "$.x-job", 1), wrong.message) from None


def moment_or(text: str | None, otherwise: datetime) -> datetime:
    """A moment of a file."""
    return otherwise if text is None else moment_of(text)
