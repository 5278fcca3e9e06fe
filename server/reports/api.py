"""The record of a job."""

from datetime import datetime
from typing import Any
from uuid import UUID

from django.http import Http404, HttpRequest
from ninja import Field, Router, Schema
from ninja.params.functions import Query

from jobs.answer.shown import MachineSeen, PlaceSeen
from jobs.facts import reads
from people.signed_in import member_of
from reports.models import Record
from reports.services import as_it_would_stand, hand_over, job_records
from shared.body import Body, Moment
from shared.problems import ProblemOut
from warmdraft.answers import (
    CauseAnswer,
    ComparisonAnswer,
    DealtAnswer,
    DraftLineAnswer,
    FaultAnswer,
    FindingAnswer,
    HeadlineAnswer,
    LineAnswer,
    MarkAnswer,
    ReadingAnswer,
    StepAnswer,
    WorkLineAnswer,
)
from warmdraft.proof import Decision, ProofCode

router = Router(tags=["reports"])


class HandOverIn(Body):
    """Handing over; note: what the customer should know until the next visit."""

    note: str = Field("", max_length=2000)
    #: Why a lead hands it over as it is: without a confirmed cause, past the gate, or without a proof.
    override: str = Field("", max_length=500)
    at: Moment


class LeftOut(Schema):
    """How a machine was closed: fasteners that came out, what is missing and why, what was not settled, orders."""

    came: int
    accepted: list[str]
    problems: list[str]
    orders: list[str]


class ProofKept(Schema):
    """What the readings showed when it was handed over; a record of an earlier release knows of no decision."""

    code: ProofCode
    text: str
    rows: list[ComparisonAnswer]
    decision: Decision | None = None
    conformity: float | None = None
    lines: list[LineAnswer] = []


class WireKept(Schema):
    """A wire that was marked on a photo: shares of its width and height, and which it is."""

    x: float
    y: float
    text: str


class PhotoKept(Schema):
    """A photo chosen for the customer: of what, by whom, when."""

    url: str
    width: int
    height: int
    of: str
    by: str
    at: datetime
    wires: list[WireKept]


class SnapshotOut(Schema):
    """What the record froze."""

    title: str
    workshop: str
    technician: str
    complaints: list[str]
    circumstances: list[str]
    said: str
    booked_for: datetime
    place: PlaceSeen
    machine: MachineSeen
    readings: list[ReadingAnswer]
    findings: list[FindingAnswer]
    marks: list[MarkAnswer]
    working_cause: CauseAnswer | None
    confirmed_cause: CauseAnswer | None
    headline: HeadlineAnswer
    faults: list[FaultAnswer]
    draft_line: DraftLineAnswer
    safety: list[StepAnswer]
    open: list[StepAnswer]
    mend: list[StepAnswer]
    close: list[StepAnswer]
    left: LeftOut | None
    proof: ProofKept
    #: The list of works as it stood; a record of an earlier release has none.
    works: list[WorkLineAnswer] = []
    photos: list[PhotoKept] = []
    #: What was found, fitted and agreed; a record of an earlier release knows nothing of it.
    dealt: DealtAnswer | None = None
    #: The words of its codes as they were; a record of an earlier release kept none.
    words: dict[str, dict[str, str]] = {}
    override: str = ""


class RecordOut(Schema):
    """The record of a job."""

    id: UUID
    at: datetime
    by: str
    note: str
    sha256: str
    model_version: str
    #: Counts from 1; editions: how many there are.
    edition: int
    editions: int
    snapshot: SnapshotOut


#: What parts of a record say today that those frozen by an earlier release do not.
_STEP = {
    "driver_also": [],
    "same_driver": False,
    "operation": None,
    "check": [],
    "latch": None,
    "gear": [],
    "people": 1,
    "tools": [],
    "line": None,
    "act": None,
    "check_name": None,
    "after": False,
    "seat": None,
    "fails": "",
    "goes_back": [],
    "cuts": None,
    "lint": False,
    "drawn": False,
}
_FAULT = {"told": True}
_CAUSE = {"heat_unexplained": False}
_MACHINE: dict[str, Any] = {"variant": {}, "plate": {}}
_COMPARISON = dict.fromkeys(("expected", "change", "change_low", "change_high")) | {"was": ""}


def _as_today(snapshot: dict[str, Any]) -> dict[str, Any]:
    """A frozen snapshot in today's shape; what is stored stays as it is, and so does its hash."""
    rows: dict[str, Any] = {
        stage: [_STEP | step for step in snapshot[stage]] for stage in ("safety", "open", "mend", "close")
    }
    causes = {name: snapshot[name] and _CAUSE | snapshot[name] for name in ("working_cause", "confirmed_cause")}
    rows["faults"] = [_FAULT | fault for fault in snapshot["faults"]]
    compared = [_COMPARISON | row for row in snapshot["proof"]["rows"]]
    rows["proof"] = snapshot["proof"] | {"rows": compared}
    return {"left": None} | snapshot | rows | causes | {"machine": _MACHINE | snapshot["machine"]}


def _out(record: Record) -> dict[str, Any]:
    return {
        "id": record.id, "at": record.at, "by": record.by.name, "note": record.note, "sha256": record.sha256,
        "model_version": record.model_version, "edition": record.edition,
        "editions": record.job.editions, "snapshot": _as_today(record.snapshot),
    }  # fmt: skip


_REFUSED = dict.fromkeys((401, 403, 404, 409, 413, 422, 503), ProblemOut)
_RECORD: dict[int, Any] = {200: RecordOut, **_REFUSED}


@router.put("/jobs/{uuid:job_id}/record/{uuid:record_id}", response=_RECORD)
def put_record(request: HttpRequest, job_id: UUID, record_id: UUID, facts: HandOverIn) -> Any:
    """Hand over: freeze the record."""
    return _out(hand_over(member_of(request), job_id, record_id, facts.note, facts.at, facts.override.strip()))


@router.get("/jobs/{uuid:job_id}/record/preview", response=_RECORD)
def preview(request: HttpRequest, job_id: UUID) -> Any:
    """The record as it would stand if it was handed over now; nothing is kept."""
    return _out(as_it_would_stand(member_of(request), job_id))


@router.get("/jobs/{uuid:job_id}/record", response=_RECORD)
def record(request: HttpRequest, job_id: UUID, edition: int = Query(0, ge=0, le=1000)) -> Any:
    """The record, as it was frozen: the latest edition, or the one that is asked for."""
    records = job_records(reads.bare_job_of(member_of(request), job_id))
    found = (records.filter(edition=edition) if edition else records).first()
    if found is None:
        raise Http404
    return _out(found)
