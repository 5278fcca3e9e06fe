"""The record of a job."""

import io
from datetime import datetime
from typing import Any, Literal
from uuid import UUID

from django.http import Http404, HttpRequest, HttpResponse
from ninja import Field, File, Router, Schema, Status
from ninja.files import UploadedFile
from ninja.params.functions import Query

from jobs.answer.kept import written
from jobs.answer.shown import MachineSeen, PlaceSeen, WorkshopJob
from jobs.facts import reads
from people.signed_in import member_of
from reports.bundle import MOST_SENT, bring_in_bundle, bundle_of
from reports.data import as_data
from reports.history import MachineHistory, Wall, history_of, wall_of
from reports.links import set_link
from reports.models import Link, Record
from reports.paper import OnTheWeb, Size, address_of, html, link_of, paper_in, print_of, qr
from reports.services import HandedOver, as_it_would_stand, hand_over, job_records
from reports.tasks import ask_for_print
from shared.body import Body, Moment
from shared.problems import ApiError, ProblemOut
from shared.replica import from_the_replica
from upkeep.services import require_language
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
from warmdraft.jobfile.stock_schema import MOST_SIGNATURE, SIGNATURE
from warmdraft.paper import customer_languages, language_for
from warmdraft.proof import Decision, ProofCode

router = Router(tags=["reports"])
#: The paper as whoever is signed in sees it.
_SIGNED_IN = OnTheWeb(style="/paper.css", photos="/api/v1/photos/")
_A4: Any = Query("A4")
_JSON: Any = Query("json")


class HandOverIn(Body):
    """Handing over; note: what the customer should know until the next visit."""

    note: str = Field("", max_length=2000)
    #: Why a lead hands it over as it is: without a confirmed cause, past the gate, or without a proof.
    override: str = Field("", max_length=500)
    #: Of the customer's paper; empty: as the place had it last, else the workshop's own.
    language: str = Field("", max_length=35)
    size: Size = "A4"
    #: Whoever took the machine back, and what they drew: an SVG path in a field of 600 by 200.
    name: str = Field("", max_length=120)
    signature: str = Field("", max_length=MOST_SIGNATURE, pattern=f"^({SIGNATURE.pattern})?$")
    #: Whether the record can be read by a private link.
    link: bool = False
    at: Moment


class LinkIn(Body):
    """Whether a record can be read by a private link."""

    on: bool


class LinkOut(Schema):
    """A private link: empty where there is none; qr: its address as an SVG."""

    address: str
    since: datetime | None
    qr: str


class Printing(Schema):
    """The worker is at it: ask again in a moment."""

    printing: bool


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
    #: The customer's language, its paper's size, and the languages it can be had in: code and name.
    language: str
    size: str
    languages: dict[str, str]
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
_COMPARISON = dict.fromkeys(("expected", "keeps", "change", "change_low", "change_high")) | {"was": ""}


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
        "editions": record.job.editions, "language": record.language, "size": record.size,
        "languages": {code: name for code, name in customer_languages().items()
                      if code in (record.snapshot.get("papers") or {})},
        "snapshot": _as_today(record.snapshot),
    }  # fmt: skip


_REFUSED = dict.fromkeys((401, 403, 404, 409, 413, 422, 503), ProblemOut)
_RECORD: dict[int, Any] = {200: RecordOut, **_REFUSED}


@router.put("/jobs/{uuid:job_id}/record/{uuid:record_id}", response=_RECORD)
def put_record(request: HttpRequest, job_id: UUID, record_id: UUID, facts: HandOverIn) -> Any:
    """Hand over: freeze the record."""
    require_language(facts.language)
    said = HandedOver(facts.note, facts.override.strip(), facts.language, facts.size, facts.name.strip(),
                      facts.signature, facts.link)  # fmt: skip
    return _out(hand_over(member_of(request), job_id, record_id, said, facts.at))


@router.get("/jobs/{uuid:job_id}/record/preview", response=_RECORD)
def preview(request: HttpRequest, job_id: UUID) -> Any:
    """The record as it would stand if it was handed over now; nothing is kept."""
    return _out(as_it_would_stand(member_of(request), job_id))


@router.get("/jobs/{uuid:job_id}/record/preview/page", response={200: None, **_REFUSED})
def preview_page(request: HttpRequest, job_id: UUID, language: str = Query("", max_length=35)) -> HttpResponse:
    """The customer's paper as it would stand now; nothing is kept."""
    ahead = as_it_would_stand(member_of(request), job_id)
    return HttpResponse(html(ahead, language or ahead.language, _SIGNED_IN))


@router.get("/jobs/{uuid:job_id}/record", response=_RECORD)
def record(request: HttpRequest, job_id: UUID, edition: int = Query(0, ge=0, le=1000)) -> Any:
    """The record, as it was frozen: the latest edition, or the one that is asked for."""
    return _out(_edition(request, job_id, edition))


def _edition(request: HttpRequest, job_id: UUID, edition: int) -> Record:
    records = job_records(reads.bare_job_of(member_of(request), job_id))
    found = (records.filter(edition=edition) if edition else records).first()
    if found is None:
        raise Http404
    return found


@router.get("/jobs/{uuid:job_id}/record/page", response={200: None, **_REFUSED})
def record_page(
    request: HttpRequest, job_id: UUID, language: str = Query("", max_length=35), edition: int = Query(0, ge=0, le=1000)
) -> HttpResponse:
    """The customer's paper as a page, as the private link shows it."""
    found = _edition(request, job_id, edition)
    _require_a_paper(found)
    return HttpResponse(html(found, language or found.language, _SIGNED_IN, link_of(job_id)))


@router.get("/jobs/{uuid:job_id}/record/pdf", response={200: None, 202: Printing, **_REFUSED})
def record_pdf(
    request: HttpRequest, job_id: UUID, language: str = Query("", max_length=35), size: Size = _A4,
    edition: int = Query(0, ge=0, le=1000),
) -> Any:  # fmt: skip
    """The customer's paper as it was printed; 202 while the worker still prints it."""
    found = _edition(request, job_id, edition)
    _require_a_paper(found)
    asked = language_for(language, found.language)
    made = print_of(found, asked, size)
    if made is None:
        ask_for_print(found, asked, size)
        return Status(202, {"printing": True})
    answer = HttpResponse(bytes(made.pdf), content_type="application/pdf")
    answer.headers["Content-Disposition"] = f'inline; filename="record-{found.edition}-{asked}.pdf"'
    answer.headers["ETag"] = f'"{made.sha256}"'
    return answer


def _require_a_paper(record: Record) -> None:
    if paper_in(record, record.language) is None:
        raise ApiError(409, "no_paper", "This record is of an earlier release; open the job again for a new edition.")


@router.get("/jobs/{uuid:job_id}/record/file", response={200: None, **_REFUSED})
def record_file(
    request: HttpRequest, job_id: UUID, form: Literal["json", "csv"] = _JSON,
    edition: int = Query(0, ge=0, le=1000),
) -> HttpResponse:  # fmt: skip
    """The record as plain data: everything as JSON, or what was measured as CSV."""
    found = _edition(request, job_id, edition)
    data, media = as_data(found, form)
    answer = HttpResponse(data, content_type=media)
    answer.headers["Content-Disposition"] = f'attachment; filename="record-{found.edition}.{form}"'
    return answer


@router.get("/jobs/{uuid:job_id}/bundle", response={200: None, **_REFUSED})
def job_bundle(request: HttpRequest, job_id: UUID) -> HttpResponse:
    """The whole job in one ZIP of plain files: facts, photos, recordings, records."""
    answer = HttpResponse(bundle_of(member_of(request), job_id), content_type="application/zip")
    answer.headers["Content-Disposition"] = f'attachment; filename="job-{job_id}.zip"'
    return answer


@router.post("/jobs/bundle", response={200: WorkshopJob, **_REFUSED})
def import_bundle(request: HttpRequest, file: File[UploadedFile]) -> Any:
    """Such a ZIP back into the workshop."""
    who = member_of(request)
    if (file.size or 0) > MOST_SENT:
        raise ApiError(413, "too_large", f"The ZIP has more than {MOST_SENT // 1_000_000} MB, which is the most.")
    job_id, act = bring_in_bundle(who, io.BytesIO(file.read()))
    return written(who, job_id, act)


def _link_out(link: Link | None) -> dict[str, Any]:
    address = address_of(link) if link else ""
    return {"address": address, "since": link and link.made_at, "qr": qr(address) if link else ""}


@router.get("/jobs/{uuid:job_id}/link", response={200: LinkOut, **_REFUSED})
def get_link(request: HttpRequest, job_id: UUID) -> Any:
    """The private link to a job's record, if there is one."""
    return _link_out(link_of(reads.bare_job_of(member_of(request), job_id).id))


@router.put("/jobs/{uuid:job_id}/link", response={200: LinkOut, **_REFUSED})
def put_link(request: HttpRequest, job_id: UUID, body: LinkIn) -> Any:
    """Give a job's record a private link, or withdraw it: its address is not found from then on."""
    return _link_out(set_link(member_of(request), job_id, body.on))


@router.get("/machines/{uuid:machine_id}/history", response={200: MachineHistory, **_REFUSED})
def machine_history(request: HttpRequest, machine_id: UUID) -> Any:
    """Everything measured, found and done on one machine, and when it is due."""
    who = member_of(request)
    with from_the_replica():
        return history_of(who, machine_id)


@router.get("/places/{uuid:place_id}/wall", response={200: Wall, **_REFUSED})
def place_wall(request: HttpRequest, place_id: UUID) -> Any:
    """All machines of a place, worst first, each with its next date."""
    who = member_of(request)
    with from_the_replica():
        return wall_of(who, place_id)
