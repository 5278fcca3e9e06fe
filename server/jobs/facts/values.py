"""Facts as they go into rows: checked by the core's rules, one field a column."""

from dataclasses import dataclass, fields
from datetime import datetime
from typing import Any
from uuid import UUID


@dataclass(frozen=True, slots=True, kw_only=True)
class Values:
    """What every fact has: when it happened."""

    at: datetime

    def columns(self) -> dict[str, Any]:
        """Column -> value."""
        return {field.name: getattr(self, field.name) for field in fields(self)}


@dataclass(frozen=True, slots=True, kw_only=True)
class ObservationValues(Values):
    """What was read or seen; supersedes_id: the fact it stands in for."""

    phase: str = "before"
    heat_on: bool = False
    visit: UUID | None = None
    supersedes_id: UUID | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadingValues(ObservationValues):
    """A number from an instrument, and as it was typed."""

    kind: str
    typed: str
    value: float
    unit: str
    instrument: str


@dataclass(frozen=True, slots=True, kw_only=True)
class FindingValues(ObservationValues):
    """What a look gave."""

    check_name: str
    result: str
    why: str


@dataclass(frozen=True, slots=True, kw_only=True)
class MeterValues(ObservationValues):
    """What a meter showed; test: the file's own part, without the keys that columns hold."""

    part: str
    typed: str
    test: dict[str, Any]


@dataclass(frozen=True, slots=True, kw_only=True)
class LogValues(ObservationValues):
    """A reading over a run."""

    kind: str
    unit: str
    minutes: list[float]
    values: list[float]
    instrument: str


@dataclass(frozen=True, slots=True, kw_only=True)
class SoundValues(ObservationValues):
    """A recording that is kept already."""

    recording_id: UUID
    part: str
    healthy: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class WorkValues(Values):
    """A plain order."""

    part: str
    act: str
    why: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class AddedValues(Values):
    """An operation that stands in no layout."""

    operation: dict[str, Any]
    after: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class MarkValues(Values):
    """What was said of a step, or of a line of works."""

    step: str
    state: str
    why: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class CountValues(Values):
    """Something counted, or said of it."""

    step: str
    what: str
    key: str
    state: str
    count: int
    note: str


@dataclass(frozen=True, slots=True, kw_only=True)
class WayValues(Values):
    """What is wanted of the way in."""

    also: list[str] | None
    avoid: list[str]
    through: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class DealingValues(Values):
    """An old part, a part or an agreement, as in a file; key: a part's number as it is compared."""

    what: str
    document: dict[str, Any]
    key: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class CauseValues(Values):
    """A cause, of one of its kinds."""

    kind: str
    fault: str
    severity: float | None = None
    heat_unexplained: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class PhotoValues(Values):
    """A photo that is kept already; of a step, or of the machine at large."""

    picture_id: UUID
    step: str


@dataclass(frozen=True, slots=True, kw_only=True)
class PhotoNoteValues(Values):
    """What is said of a photo: on the record or not, and where on it each wire is."""

    photo_id: UUID
    on_record: bool
    wires: list[dict[str, Any]]


@dataclass(frozen=True, slots=True)
class PlaceValues:
    """A place as a client gives it; version: of the one it was shown, where it changes something of it."""

    id: UUID
    name: str
    address: str
    contact: str
    version: int | None = None
    as_known: bool = False


@dataclass(frozen=True, slots=True)
class MachineValues:
    """A machine as a client gives it; version: of the one it was shown, where it changes something of it.

    variant, data_plate: None where the client does not show them: then they stay as they are.
    """

    id: UUID
    name: str
    profile: str
    layout: str
    energy: str
    supply: str
    variant: dict[str, str] | None
    age_years: float | None
    data_plate: dict[str, Any] | None = None
    version: int | None = None
    as_known: bool = False


@dataclass(frozen=True, slots=True)
class JobValues:
    """A job as a client gives it; carried: what a file brings along, None where a client does not show it."""

    title: str
    complaints: list[str]
    circumstances: list[str]
    told: dict[str, dict[str, str]]
    said: str
    booked_for: datetime
    carried: dict[str, Any] | None = None
