"""What the API of jobs takes, written by hand, apart from models and from the core's own types."""

from typing import Annotated, Any, Literal
from uuid import UUID

from ninja import Field

from shared.body import Body, Moment
from warmdraft.work import PartState


class PlaceIn(Body):
    """A place; an id of the workshop's own or a new one made by the client.

    version: of the place that was shown, where something of it is changed. as_known: it is only named; should it be
    known, it stays as it is. A client of an earlier release says neither: then too.
    """

    id: UUID
    name: str = Field(min_length=1, max_length=120)
    address: str = Field("", max_length=200)
    contact: str = Field("", max_length=120)
    version: int | None = None
    as_known: bool = False


class PlateIn(Body):
    """The rating plate as it is read: the maker's number as typed, volts, watts of the heater, amps in all."""

    number: str = Field("", max_length=60)
    volts: float | None = Field(None, gt=0, le=1000)
    heater_watts: float | None = Field(None, gt=0, le=100_000)
    amps: float | None = Field(None, gt=0, le=1000)


class MachineIn(Body):
    """A machine; an id of the workshop's own or a new one made by the client.

    version: of the machine that was shown, where something of it is changed. as_known: it is only named; should it be
    known, it stays as it is. A client of an earlier release says neither: then a known machine's layout may change.
    plate: null where it is not shown; then what is known of it stays.
    """

    id: UUID
    name: str = Field("", max_length=120)
    profile: str = Field(max_length=60)
    layout: str = Field("", max_length=60)
    energy: Literal["electric", "gas"]
    supply: Literal["plug", "hard_wired"]
    variant: dict[str, str] | None = Field(default=None, max_length=20)
    age_years: float | None = Field(default=None, ge=0, le=100)
    plate: PlateIn | None = None
    version: int | None = None
    as_known: bool = False


class ToldIn(Body):
    """What is told of one complaint."""

    since: str = Field("", max_length=120)
    how_often: str = Field("", max_length=120)
    what: str = Field("", max_length=400)


class JobIn(Body):
    """A job as a client writes it. based_on: the version the change was made from; null for a new job."""

    title: str = Field("", max_length=200)
    complaints: list[str] = Field(max_length=50)
    circumstances: list[str] = Field([], max_length=50)
    told: dict[str, ToldIn] = Field({}, max_length=50)
    said: str = Field("", max_length=4000)
    booked_for: Moment
    place: PlaceIn
    machine: MachineIn
    based_on: int | None = None
    at: Moment


class ObservationIn(Body):
    """What readings and findings share."""

    phase: Literal["before", "after"] = "before"
    heat_on: bool = False
    visit: UUID | None = None
    supersedes: UUID | None = None
    at: Moment


class SpeedsIn(Body):
    """Air speeds in a round duct, one in the middle or a traverse; or a bag's seconds to fill. The flow follows."""

    method: Literal["traverse", "centre", "near_bend", "bag"]
    bore: str = Field("4 in", min_length=1, max_length=30)
    unit: Literal["m/s", "ft/min"] = "m/s"
    litres: float = Field(200, ge=20, le=2000)
    values: list[Annotated[float, Field(ge=-1e6, le=1e6)]] = Field(min_length=1, max_length=12)


class ReadingIn(ObservationIn):
    """A reading as it was typed: "1.03", or "1.03 in"; unit: what a bare number is taken in.

    speeds: where a flow was measured as air speeds; then it counts, and typed is only what was noted beside it.
    """

    speeds: SpeedsIn | None = None

    kind: str = Field(max_length=40)
    typed: str = Field(min_length=1, max_length=60)
    unit: str = Field(max_length=12)
    instrument: str = Field("", max_length=40)


class TrialIn(Body):
    """A run of the wheel: a trial mass in grams on a vane, none for the first; how strongly it shakes, in one unit."""

    grams: float = Field(0, ge=0, le=1000)
    vane: int | None = Field(None, ge=0, le=199)
    amplitude: float = Field(ge=0, le=1e9)
    phase_deg: float | None = Field(None, ge=-3600, le=3600)


class TrialsIn(Body):
    """Runs with trial masses, at a radius in mm; how many vanes there are where that is counted."""

    radius_mm: float = Field(gt=0, le=1000)
    vanes: int | None = Field(None, ge=3, le=200)
    runs: list[TrialIn] = Field(min_length=1, max_length=100)


class FindingIn(ObservationIn):
    """The result of a look, or not_possible with why."""

    check: str = Field(max_length=40)
    result: str = Field(max_length=40)
    why: str = Field("", max_length=200)


class MeterIn(ObservationIn):
    """What a meter showed: "0.4", "12 kohm", "open", "needle_at_infinity"; unit: what a bare number is taken in."""

    part: str = Field(max_length=40)
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
    kind: str = Field("", max_length=40)
    unit: str = Field("", max_length=12)
    minutes: list[float] = Field(default=[], max_length=20_000)
    values: list[float] = Field(default=[], max_length=20_000)
    instrument: str = Field("", max_length=40)


class RunIn(Body):
    """The vent run as it is drawn, in the keys of warm-draft/vent; null takes it away."""

    vent: dict[str, Any] | None
    based_on: int
    at: Moment


class PlanIn(Body):
    """The plan of a new run as it is drawn, in the keys of a job's plan; null takes it away."""

    plan: dict[str, Any] | None
    based_on: int
    at: Moment


class WorkIn(Body):
    """A plain order: an act on a part."""

    part: str = Field(max_length=40)
    act: str = Field(max_length=10)
    why: str = Field("", max_length=200)
    at: Moment


class OldPartIn(Body):
    """A part of the machine by what is printed on it, each mark as typed: "250 °F", "25 A"."""

    kind: str = Field(max_length=40)
    marks: dict[Annotated[str, Field(max_length=20)], Annotated[str, Field(max_length=200)]] = Field(max_length=20)
    at: Moment


class PartIn(Body):
    """What became of a part that was meant for this job: ordered, packed, used, or left after all."""

    part: str = Field(max_length=40)
    state: PartState
    number: str = Field("", max_length=60)
    count: int = Field(1, ge=1, le=999)
    price: str | None = Field(None, max_length=20)
    store: str = Field("", max_length=60)
    at: Moment


class LintIn(Body):
    """What was found where something was cleaned: a grade of the scale, grams, what else lay there."""

    act: str = Field(max_length=80)
    grade: int | None = None
    grams: float | None = None
    objects: str = Field("", max_length=200)
    at: Moment


class AgreementIn(Body):
    """What the customer agreed to: acts, for a sum; signature: an SVG path, empty where it was only said."""

    lines: list[Annotated[str, Field(max_length=80)]] = Field(max_length=200)
    total: str = Field(max_length=20)
    currency: str = Field(max_length=3)
    name: str = Field("", max_length=120)
    signature: str = Field("", max_length=20_000)
    at: Moment


class AddedIn(Body):
    """An operation that stands in no layout, in the keys of `warm-draft/layout`; after: the one it came off after."""

    operation: dict[str, Any]
    after: str = Field("", max_length=80)
    at: Moment


class WireMarkIn(Body):
    """Where a wire is on a photo: shares of its width and height, from the upper left; key: as the bench names it."""

    key: str = Field(min_length=1, max_length=80)
    x: float = Field(ge=0, le=1)
    y: float = Field(ge=0, le=1)


class PhotoNoteIn(Body):
    """What is said of a photo: on the customer's record or not, and where on it each wire is."""

    on_record: bool
    wires: list[WireMarkIn] = Field(default_factory=list, max_length=40)
    at: Moment


class MarkIn(Body):
    """A step done, undone, or not possible here; a line of works taken, declined, not needed or not possible."""

    step: str = Field(min_length=1, max_length=80)
    state: Literal["done", "undone", "not_possible", "not_there", "taken", "declined", "not_needed"]
    why: str = Field("", max_length=200)
    at: Moment


class CauseIn(Body):
    """The cause the work goes by, what one takes it to have been, or what it turned out to be."""

    kind: Literal["working", "proposed", "confirmed"]
    fault: str = Field(max_length=40)
    severity: float | None = None
    heat_unexplained: bool = False
    at: Moment


class WithdrawIn(Body):
    """Take a fact back, or put it back."""

    withdrawn: bool
    at: Moment


class EditionIn(Body):
    """Why a job that was handed over is opened again."""

    why: str = Field(min_length=1, max_length=500)
    at: Moment


class OneWrite(Body):
    """One of many writes: what would have been a PUT of its own."""

    path: str = Field(max_length=300)
    body: dict[str, Any]


class ManyWrites(Body):
    """Writes that waited on a device, in the order they were made."""

    writes: list[OneWrite] = Field(min_length=1, max_length=50)


class CountIn(Body):
    """Something counted or said at the bench. step: where it came off, or empty for the tools."""

    step: str = Field("", max_length=80)
    what: Literal["fastener", "wire", "part", "tool"]
    key: str = Field(min_length=1, max_length=200)
    state: str = Field(min_length=1, max_length=12)
    count: int = Field(1, ge=0, le=500)
    note: str = Field("", max_length=300)
    at: Moment


_Name = Annotated[str, Field(max_length=200)]


class WayIn(Body):
    """What is wanted of the way in: operations to keep out or in. also: parts taken along, of an earlier release."""

    also: list[_Name] | None = Field(None, max_length=60)
    avoid: list[_Name] = Field([], max_length=200)
    through: list[_Name] = Field([], max_length=200)
    at: Moment
