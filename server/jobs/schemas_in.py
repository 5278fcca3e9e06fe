"""What the API of jobs takes, written by hand, apart from models and from the core's own types."""

from datetime import datetime
from typing import Any, Literal
from uuid import UUID

from ninja import Field

from config.given import Given


class PlaceIn(Given):
    """A place; an id of the workshop's own or a new one made by the client."""

    id: UUID
    name: str = Field(min_length=1, max_length=120)
    address: str = Field("", max_length=200)
    contact: str = Field("", max_length=120)


class MachineIn(Given):
    """A machine; an id of the workshop's own or a new one made by the client."""

    id: UUID
    name: str = Field("", max_length=120)
    profile: str
    layout: str = ""
    energy: Literal["electric", "gas"]
    supply: Literal["plug", "hard_wired"]
    variant: dict[str, str] | None = Field(default=None, max_length=20)
    age_years: float | None = Field(default=None, ge=0, le=100)


class ToldIn(Given):
    """What is told of one complaint."""

    since: str = Field("", max_length=120)
    how_often: str = Field("", max_length=120)
    what: str = Field("", max_length=400)


class JobIn(Given):
    """A job as a client writes it. based_on: the version the change was made from; null for a new job."""

    title: str = Field("", max_length=200)
    complaints: list[str]
    circumstances: list[str] = []
    told: dict[str, ToldIn] = {}
    said: str = Field("", max_length=4000)
    booked_for: datetime
    place: PlaceIn
    machine: MachineIn
    based_on: int | None = None
    at: datetime


class ObservationIn(Given):
    """What readings and findings share."""

    phase: Literal["before", "after"] = "before"
    heat_on: bool = False
    visit: UUID | None = None
    supersedes: UUID | None = None
    at: datetime


class SpeedsIn(Given):
    """Air speeds in a round duct, one in the middle or a traverse; or a bag's seconds to fill. The flow follows."""

    method: Literal["traverse", "centre", "near_bend", "bag"]
    bore: str = Field("4 in", min_length=1, max_length=30)
    unit: Literal["m/s", "ft/min"] = "m/s"
    litres: float = Field(200, ge=20, le=2000)
    values: list[float] = Field(min_length=1, max_length=12)


class ReadingIn(ObservationIn):
    """A reading as it was typed: "1.03", or "1.03 in"; unit: what a bare number is taken in.

    speeds: where a flow was measured as air speeds; then it counts, and typed is only what was noted beside it.
    """

    speeds: SpeedsIn | None = None

    kind: str
    typed: str = Field(min_length=1, max_length=60)
    unit: str
    instrument: str = Field("", max_length=40)


class FindingIn(ObservationIn):
    """The result of a look, or not_possible with why."""

    check: str
    result: str
    why: str = Field("", max_length=200)


class MeterIn(ObservationIn):
    """What a meter showed: "0.4", "12 kohm", "open", "needle_at_infinity"; unit: what a bare number is taken in."""

    part: str
    instrument: Literal["digital", "analogue"]
    isolated: bool | None = None
    part_hot: bool = False
    typed: str = Field(min_length=1, max_length=60)
    unit: Literal["ohm", "kohm", "V"] = "ohm"
    lead_ohm: float | None = Field(default=None, ge=0, le=100)
    temperature: str | None = Field(default=None, max_length=30)
    rated_power_w: float | None = Field(default=None, gt=0, le=100_000)
    between: Literal["leg_leg", "leg_neutral"] | None = None


class LogIn(ObservationIn):
    """A log over a run: points, or the text of a CSV with columns time, kind, value, unit."""

    csv: str | None = Field(default=None, max_length=2_000_000)
    kind: str = ""
    unit: str = ""
    minutes: list[float] = Field(default=[], max_length=20_000)
    values: list[float] = Field(default=[], max_length=20_000)
    instrument: str = Field("", max_length=40)


class RunIn(Given):
    """The vent run as it is drawn, in the keys of warm-draft/vent; null takes it away."""

    vent: dict[str, Any] | None
    based_on: int
    at: datetime


class MarkIn(Given):
    """A step done, undone, or not possible here."""

    step: str = Field(min_length=1, max_length=80)
    state: Literal["done", "undone", "not_possible"]
    why: str = Field("", max_length=200)
    at: datetime


class CauseIn(Given):
    """The cause the work goes by, what one takes it to have been, or what it turned out to be."""

    kind: Literal["working", "proposed", "confirmed"]
    fault: str
    severity: float | None = None
    heat_unexplained: bool = False
    at: datetime


class WithdrawIn(Given):
    """Take a fact back, or put it back."""

    withdrawn: bool
    at: datetime
