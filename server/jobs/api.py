"""Routes of jobs. Every write is an idempotent PUT with an id made by the client, and answers with the whole job."""

import json
from collections.abc import Iterator
from dataclasses import replace
from datetime import datetime
from decimal import Decimal
from functools import partial
from typing import Any, Literal
from uuid import UUID

from django.core.serializers.json import DjangoJSONEncoder
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse, StreamingHttpResponse
from ninja import Router, Schema
from ninja.params.functions import Query
from pydantic_core import to_json

from files import recordings
from jobs.answer import shown
from jobs.answer.kept import job_answer, known_now, many_written, written
from jobs.answer.learned import layout_for
from jobs.answer.shown import WorkshopJob
from jobs.exchange import bring_in
from jobs.exchange.many import one_of_many
from jobs.facts import bodies, dealt, inputs, opening, reads, writes
from jobs.facts.document import core_job, exported, job_document
from jobs.facts.later import before_listening
from jobs.facts.values import JobValues, ObservationValues, PlaceValues
from jobs.lists.pages import JobRow, jobs_page
from jobs.live import streams
from jobs.vent import router as vent
from jobs.vocabulary import router as vocabulary
from machines.layouts import layout_of_machine
from people import services as people_services
from people.signed_in import member_of
from shared.body import Moment
from shared.pages import key_of, next_page
from shared.problems import ApiError, ProblemOut
from shared.sent import sent
from shared.slots import working
from warmdraft.answers import (
    BalanceAnswer,
    DrawnAnswer,
    HeatAnswer,
    LintAnswer,
    OutlookAnswer,
    PartRate,
    SealAnswer,
    SoundAnswer,
    WaysAnswer,
    balance_answer,
    drawn_answer,
    expected_answer,
    heat_answer,
    lint_answer,
    rates_answer,
    seal_answer,
    ways_answer,
)
from warmdraft.heat import Load
from warmdraft.text import unwritable
from warmdraft.work import state_of
from warmdraft.work.cost import Tariff

router = Router(tags=["jobs"])
router.add_router("", vocabulary)
router.add_router("", vent)


class HappeningOut(Schema):
    """One line of a job's history: as a sentence, and as what changed."""

    what: str
    text: str
    by: str
    at: datetime
    received_at: datetime
    before: dict[str, Any] | None
    after: dict[str, Any] | None


class KeptOrRefused(Schema):
    """What came of one of many writes; answer: of those that are not about what a job's answer shows."""

    status: int
    problem: ProblemOut | None
    answer: dict[str, Any] | None


class ManyAnswers(Schema):
    """What came of each write, in their order; and each job that was written to, once, as it is now."""

    answers: list[KeptOrRefused]
    jobs: list[WorkshopJob]


class HereOut(Schema):
    """The job's version now, and who else has it open."""

    version: int
    here: list[str]


_REFUSED = dict.fromkeys((401, 403, 404, 409, 413, 422, 503), ProblemOut)
_JOB: dict[int, Any] = {200: WorkshopJob, **_REFUSED}


@router.get("/jobs", response={200: list[JobRow], **_REFUSED})
def jobs(
    request: HttpRequest, response: HttpResponse,
    which: Literal["any", "open", "earlier", "handed_over"] = "any", q: str = Query("", max_length=200),
    after: str = Query("", max_length=120),
) -> Any:  # fmt: skip
    """A page of the workshop's jobs; where the next begins stands in the header X-Warm-Next, to be sent as `after`."""
    return jobs_page(member_of(request), response, which, q, after)


@router.post("/jobs/import", response=_JOB)
def import_job(request: HttpRequest) -> Any:
    """A job file (the body, as it is) back into the workshop."""
    who = member_of(request)
    job_id, prepared = bring_in.prepared(who, request.body)
    return written(who, job_id, lambda: bring_in.bring_in(who, job_id, prepared))


@router.post("/writes", response={200: ManyAnswers, **_REFUSED})
def many_writes(request: HttpRequest, body: bodies.ManyWrites) -> Any:
    """Writes that waited on a device, in one request: each is kept or refused by itself."""
    who = member_of(request)
    given, changed = many_written(who, [partial(one_of_many, request, one.path, one.body) for one in body.writes])
    answers = to_json({"answers": given}, inf_nan_mode="null").removesuffix(b"}")
    return HttpResponse(answers + b',"jobs":[' + b",".join(changed) + b"]}", content_type="application/json")


@router.get("/jobs/{uuid:job_id}", response=_JOB)
def job(request: HttpRequest, job_id: UUID) -> Any:
    """One job with its verdict."""
    who = member_of(request)
    return job_answer(who, job_id)


@router.get("/jobs/{uuid:job_id}/live", response={200: None, **_REFUSED})
def live_stream(request: HttpRequest, job_id: UUID, device: UUID | None = None) -> Any:
    """Changes of a job as they happen, as server-sent events: {"version", "here": names of the others}."""
    who = replace(member_of(request), device=device)
    found = reads.bare_job_of(who, job_id)
    changes = streams.ears.join(found.id, who.person.id)
    if changes is None:
        raise ApiError(503, "too_many_streams", "Too many follow live at this moment; ask every two seconds instead.")
    answer = StreamingHttpResponse(
        streams.stream(who, found.id, request.session.session_key or "", changes), content_type="text/event-stream"
    )
    answer.headers["Cache-Control"] = "no-cache"
    answer.headers["X-Accel-Buffering"] = "no"
    return answer


@router.get("/jobs/{uuid:job_id}/here", response={200: HereOut, **_REFUSED})
def who_is_here(request: HttpRequest, job_id: UUID, device: UUID | None = None) -> Any:
    """The same as one answer, for who cannot hold a stream open."""
    who = replace(member_of(request), device=device)
    found = reads.bare_job_of(who, job_id)
    return {"version": found.version, "here": streams.here(who, found.id)}


@router.put("/jobs/{uuid:job_id}", response=_JOB)
def put_job(request: HttpRequest, job_id: UUID, body: bodies.JobIn) -> Any:
    """Open a job, or change what is said of it."""
    who = member_of(request)
    inputs.check_job(body)
    inputs.check_layout(who, body)
    told = {name: told.dict() for name, told in body.told.items()}
    values = JobValues(body.title, body.complaints, body.circumstances, told, body.said, body.booked_for)
    machine = inputs.machine_values(body.machine)
    place = PlaceValues(**body.place.dict())
    return written(who, job_id, lambda: opening.put_job(who, job_id, values, machine, place, body.based_on, body.at))


@router.put("/jobs/{uuid:job_id}/editions/{uuid:edition_id}", response=_JOB)
def put_edition(request: HttpRequest, job_id: UUID, edition_id: UUID, body: bodies.EditionIn) -> Any:
    """Open a job that was handed over again, for a new edition of its record; the old one stays."""
    who = member_of(request)
    return written(who, job_id, lambda: opening.open_again(who, job_id, edition_id, body.why, body.at))


@router.put("/jobs/{uuid:job_id}/readings/{uuid:reading_id}", response=_JOB)
def put_reading(request: HttpRequest, job_id: UUID, reading_id: UUID, body: bodies.ReadingIn) -> Any:
    """Record a reading; the answer carries the new verdict."""
    who = member_of(request)
    return written(who, job_id, lambda: writes.record_reading(who, job_id, reading_id, inputs.reading_values(body)))


@router.put("/jobs/{uuid:job_id}/findings/{uuid:finding_id}", response=_JOB)
def put_finding(request: HttpRequest, job_id: UUID, finding_id: UUID, body: bodies.FindingIn) -> Any:
    """Record what a look gave, or that it can't be done here."""
    who = member_of(request)
    return written(who, job_id, lambda: writes.record_finding(who, job_id, finding_id, inputs.finding_values(body)))


@router.put("/jobs/{uuid:job_id}/meter/{uuid:test_id}", response=_JOB)
def put_meter(request: HttpRequest, job_id: UUID, test_id: UUID, body: bodies.MeterIn) -> Any:
    """Record what a meter showed; the answer carries its verdict."""
    who = member_of(request)
    return written(who, job_id, lambda: writes.record_meter(who, job_id, test_id, inputs.meter_values(body)))


@router.put("/jobs/{uuid:job_id}/logs/{uuid:log_id}", response=_JOB)
def put_log(request: HttpRequest, job_id: UUID, log_id: UUID, body: bodies.LogIn) -> Any:
    """Record a log over a run; the answer carries its shape."""
    who = member_of(request)
    return written(who, job_id, lambda: writes.record_log(who, job_id, log_id, inputs.log_values(body)))


@router.put("/jobs/{uuid:job_id}/sounds/{uuid:sound_id}", response=_JOB)
def put_sound(
    request: HttpRequest, job_id: UUID, sound_id: UUID, at: Moment, phase: Literal["before", "after"] = "before",
    part: str = Query("", max_length=80), healthy: bool = False, supersedes: UUID | None = None,
) -> Any:  # fmt: skip
    """Add a recording (the body, as it is: WAV, FLAC, OGG or MP3), held at `part`; the worker listens to it. healthy:
    it is of another machine of the kind that runs well, or of this one once it does; what rumbles is held beside it."""
    who = member_of(request)
    if unwritable(part):
        raise ApiError(422, "not_possible", "No place is called so.", [{"path": "$.part", "message": "is no text"}])
    observed = ObservationValues(phase=phase, supersedes_id=supersedes, at=at)
    return written(who, job_id, lambda: writes.add_sound(who, job_id, sound_id, request.body, observed, part, healthy))


@router.get("/jobs/{uuid:job_id}/sounds/{uuid:sound_id}/turn", response={200: shown.TurnAnswer, **_REFUSED})
def turn(request: HttpRequest, job_id: UUID, sound_id: UUID) -> Any:
    """How far listening to a recording has come."""
    who = member_of(request)
    if not reads.bare_job_of(who, job_id).sounds.filter(id=sound_id).exists():
        raise Http404
    return shown.TurnAnswer(before_listening(sound_id))


@router.post("/jobs/{uuid:job_id}/listen", response={200: SoundAnswer, **_REFUSED})
def listen(request: HttpRequest, job_id: UUID) -> Any:
    """What a stretch of sound (the body: a WAV of three to fifteen seconds) tells at this moment; nothing is kept."""
    who = member_of(request)
    job = reads.job_of(who, job_id)
    who.require("work_on_a_job")
    try:
        with recordings.listening:
            answer = recordings.listen(request.body, job_document(job))
    except recordings.Unheard as error:
        raise ApiError(422, "no_sound", str(error), [{"path": "$", "message": str(error)}]) from None
    return {key: value for key, value in answer.items() if key != "curves"}


@router.post("/jobs/{uuid:job_id}/balance", response={200: BalanceAnswer, **_REFUSED})
def balance(request: HttpRequest, job_id: UUID, body: bodies.TrialsIn) -> Any:
    """What takes the unbalance of this job's wheel away, by runs with trial masses; nothing is kept."""
    who = member_of(request)
    drive = core_job(reads.job_of(who, job_id)).machine.drive
    with working:
        return balance_answer(inputs.balance_document(body, drive), shown.words_of(who))


@router.get("/jobs/{uuid:job_id}/rates", response={200: list[PartRate], **_REFUSED})
def rates(
    request: HttpRequest, job_id: UUID, motor_off: float = Query(0, ge=-0.2, le=0.2),
    belt_off: float = Query(0, ge=-0.2, le=0.2), roller_mm: float | None = Query(None, ge=5, le=500),
    idler_mm: float | None = Query(None, ge=5, le=500), pulley_mm: float | None = Query(None, ge=5, le=500),
) -> Any:  # fmt: skip
    """How fast each part of this job's machine turns, Hz; with a motor, a belt or a diameter that is otherwise."""
    who = member_of(request)
    drive = core_job(reads.job_of(who, job_id)).machine.drive
    given = {"roller": roller_mm, "idler": idler_mm, "motor_pulley": pulley_mm}
    told: dict[str, Any] = {f"{part}_diameter_m": mm / 1000 for part, mm in given.items() if mm is not None}
    return rates_answer(replace(drive, **told), motor_off, belt_off, shown.words_of(who))


@router.get("/jobs/{uuid:job_id}/heat", response={200: HeatAnswer, **_REFUSED})
def heat(
    request: HttpRequest, job_id: UUID, loads_a_week: float = Query(5, ge=0, le=1000),
    price_per_kwh: float = Query(0.3, ge=0, le=1000),
) -> Any:  # fmt: skip
    """How a load dries, healthy beside now: temperatures over time, what trips, what it costs more a year."""
    who = member_of(request)
    job = reads.job_of(who, job_id)
    tariff = Tariff(loads_a_week, Decimal(str(price_per_kwh)), who.workshop.currency)
    with working:
        core = core_job(job)
        said = core.document.load
        load = Load(said.dry_mass.si("mass"), said.moisture) if said else Load()
        return sent(heat_answer(state_of(core.facts, shown.viewer_of(who)), load, tariff, shown.words_of(who)))


@router.get("/jobs/{uuid:job_id}/expected", response={200: OutlookAnswer, **_REFUSED})
def expected(request: HttpRequest, job_id: UUID) -> Any:
    """What the work is expected to give: flow and a load's minutes now and after, whether opening is worth it."""
    who = member_of(request)
    facts = known_now(who, job_id).facts
    with working:
        return sent(expected_answer(state_of(facts, shown.viewer_of(who)), shown.words_of(who)))


@router.get("/jobs/{uuid:job_id}/seal", response={200: SealAnswer, **_REFUSED})
def seal(
    request: HttpRequest, job_id: UUID, cuts: Literal["foam", "felt"], across: str = Query(max_length=30),
    down: str = Query("", max_length=30), lap: str = Query("", max_length=30),
) -> Any:  # fmt: skip
    """How long a seal is cut by its edge as typed (down: empty for a round one), and what a gap in it would cost."""
    who = member_of(request)
    facts = known_now(who, job_id).facts
    with working:
        state = state_of(facts, shown.viewer_of(who))
        return sent(seal_answer(state, cuts, across, down, lap, shown.words_of(who)))


@router.put("/jobs/{uuid:job_id}/facts/{uuid:fact_id}/withdrawn", response=_JOB)
def put_withdrawn(request: HttpRequest, job_id: UUID, fact_id: UUID, body: bodies.WithdrawIn) -> Any:
    """Take a reading or finding back, or put it back."""
    who = member_of(request)
    return written(who, job_id, lambda: writes.withdraw(who, job_id, fact_id, body.withdrawn, body.at))


@router.put("/jobs/{uuid:job_id}/works/{uuid:work_id}", response=_JOB)
def put_work(request: HttpRequest, job_id: UUID, work_id: UUID, body: bodies.WorkIn) -> Any:
    """Order an act on a part: a line of works, whatever the cause."""
    who = member_of(request)
    return written(who, job_id, lambda: writes.order_work(who, job_id, work_id, inputs.work_values(body)))


@router.put("/jobs/{uuid:job_id}/old-parts/{uuid:dealing_id}", response=_JOB)
def put_old_part(request: HttpRequest, job_id: UUID, dealing_id: UUID, body: bodies.OldPartIn) -> Any:
    """Say what is printed on a part of the machine; a new one is held beside it."""
    who = member_of(request)
    return written(who, job_id, lambda: writes.deal(who, job_id, dealing_id, dealt.old_part_values(body)))


@router.put("/jobs/{uuid:job_id}/parts/{uuid:dealing_id}", response=_JOB)
def put_part(request: HttpRequest, job_id: UUID, dealing_id: UUID, body: bodies.PartIn) -> Any:
    """Say what became of a part that was meant for this job."""
    who = member_of(request)
    return written(who, job_id, lambda: writes.deal(who, job_id, dealing_id, dealt.part_values(body)))


@router.put("/jobs/{uuid:job_id}/agreements/{uuid:dealing_id}", response=_JOB)
def put_agreement(request: HttpRequest, job_id: UUID, dealing_id: UUID, body: bodies.AgreementIn) -> Any:
    """Write down what the customer agreed to; lines that come later ask again."""
    who = member_of(request)
    return written(who, job_id, lambda: writes.deal(who, job_id, dealing_id, dealt.agreement_values(body)))


@router.put("/jobs/{uuid:job_id}/lint/{uuid:dealing_id}", response=_JOB)
def put_lint(request: HttpRequest, job_id: UUID, dealing_id: UUID, body: bodies.LintIn) -> Any:
    """Say what was found where something was cleaned."""
    who = member_of(request)
    return written(who, job_id, lambda: writes.deal(who, job_id, dealing_id, dealt.lint_values(body)))


@router.get("/jobs/{uuid:job_id}/lint", response={200: LintAnswer, **_REFUSED})
def lint(request: HttpRequest, job_id: UUID, line: str = Query(max_length=80)) -> Any:
    """The scale that lint is graded on where a line cleans, on this job's machine."""
    who = member_of(request)
    facts = known_now(who, job_id).facts
    with working:
        return sent(lint_answer(state_of(facts, shown.viewer_of(who)), line, shown.words_of(who)))


@router.put("/jobs/{uuid:job_id}/added/{uuid:added_id}", response=_JOB)
def put_added(request: HttpRequest, job_id: UUID, added_id: UUID, body: bodies.AddedIn) -> Any:
    """Add an operation that stands in no layout: what came off at this machine, and what it frees."""
    who = member_of(request)
    return written(who, job_id, lambda: writes.add_operation(who, job_id, added_id, inputs.added_values(body)))


@router.put("/jobs/{uuid:job_id}/marks/{uuid:mark_id}", response=_JOB)
def put_mark(request: HttpRequest, job_id: UUID, mark_id: UUID, body: bodies.MarkIn) -> Any:
    """Mark a step done, undone or not possible here; take or decline a line of works."""
    who = member_of(request)
    return written(who, job_id, lambda: writes.mark_step(who, job_id, mark_id, inputs.mark_values(body)))


@router.get("/jobs/{uuid:job_id}/ways", response={200: WaysAnswer, **_REFUSED})
def ways(request: HttpRequest, job_id: UUID) -> Any:
    """Ways in to what the cause asks for, side by side; what else to do while open; what to take from the van."""
    who = member_of(request)
    facts = known_now(who, job_id).facts
    with working:
        return sent(ways_answer(state_of(facts), shown.words_of(who)))


@router.get("/jobs/{uuid:job_id}/drawn", response={200: DrawnAnswer, **_REFUSED})
def drawn(request: HttpRequest, job_id: UUID) -> Any:
    """The machine cut open from the side, and which parts each shape of it stands for."""
    who = member_of(request)
    facts = known_now(who, job_id).facts
    with working:
        return sent(drawn_answer(facts, shown.words_of(who)))


@router.put("/jobs/{uuid:job_id}/ways/{uuid:way_id}", response=_JOB)
def put_way(request: HttpRequest, job_id: UUID, way_id: UUID, body: bodies.WayIn) -> Any:
    """Say which way in is wanted, and what besides."""
    who = member_of(request)
    return written(who, job_id, lambda: writes.choose_way(who, job_id, way_id, inputs.way_values(body)))


@router.put("/jobs/{uuid:job_id}/counts/{uuid:count_id}", response=_JOB)
def put_count(request: HttpRequest, job_id: UUID, count_id: UUID, body: bodies.CountIn) -> Any:
    """Count something at the bench, or say what became of it."""
    who = member_of(request)
    return written(who, job_id, lambda: writes.count(who, job_id, count_id, inputs.count_values(body)))


@router.put("/jobs/{uuid:job_id}/photos/{uuid:photo_id}", response=_JOB)
def put_photo(request: HttpRequest, job_id: UUID, photo_id: UUID, at: Moment, step: str = "") -> Any:
    """Add a photo (the body, as it is: JPEG, PNG or WebP)."""
    who = member_of(request)
    if len(step) > 80 or unwritable(step):
        raise ApiError(422, "not_possible", "No step is called so.", [{"path": "$.step", "message": "is no step"}])
    made = writes.photo_of(who, job_id, request.body)  # decoded before anything is held
    return written(who, job_id, lambda: writes.add_photo(who, job_id, photo_id, made, step, at))


@router.put("/jobs/{uuid:job_id}/photos/{uuid:photo_id}/notes/{uuid:note_id}", response=_JOB)
def put_photo_note(request: HttpRequest, job_id: UUID, photo_id: UUID, note_id: UUID, body: bodies.PhotoNoteIn) -> Any:
    """Say of a photo whether the record shows it, and where on it each wire is."""
    who = member_of(request)
    values = inputs.photo_note_values(photo_id, body)
    return written(who, job_id, lambda: writes.note_photo(who, job_id, note_id, values))


@router.put("/jobs/{uuid:job_id}/causes/{uuid:cause_id}", response=_JOB)
def put_cause(request: HttpRequest, job_id: UUID, cause_id: UUID, body: bodies.CauseIn) -> Any:
    """Say which cause the work goes by, or what it turned out to be."""
    who = member_of(request)
    return written(who, job_id, lambda: writes.choose_cause(who, job_id, cause_id, inputs.cause_values(body)))


@router.get("/people/{uuid:person_id}/kept", response={200: dict[str, Any], **_REFUSED})
def kept_of_person(request: HttpRequest, person_id: UUID) -> StreamingHttpResponse:
    """Everything that is kept about a person: what they are, and what they did on which job. Sent as it is read."""
    who = member_of(request)
    about = json.dumps(people_services.kept_of(who, person_id), cls=DjangoJSONEncoder, ensure_ascii=False, indent=2)

    def told() -> Iterator[str]:
        yield about.removesuffix("\n}") + ',\n  "happenings": ['
        for i, row in enumerate(reads.happenings_by(who, person_id)):
            yield (",\n    " if i else "\n    ") + json.dumps(row, cls=DjangoJSONEncoder, ensure_ascii=False)
        yield "\n  ]\n}"

    answer = StreamingHttpResponse(told(), content_type="application/json")
    answer.headers["Content-Disposition"] = f'attachment; filename="person-{person_id}.json"'
    return answer


@router.get("/jobs/{uuid:job_id}/file", response={200: dict[str, Any], **_REFUSED})
def job_file(request: HttpRequest, job_id: UUID) -> JsonResponse:
    """The job as a file: what `./warm core diagnose` reads."""
    found = reads.job_of(member_of(request), job_id)
    answer = JsonResponse(exported(found, layout_for(found)), json_dumps_params={"indent": 2, "ensure_ascii": False})
    answer.headers["Content-Disposition"] = f'attachment; filename="job-{found.id}.json"'
    return answer


#: Lines of a history on one page.
HISTORY_A_PAGE = 200


@router.get("/jobs/{uuid:job_id}/history", response={200: list[HappeningOut], **_REFUSED})
def history(request: HttpRequest, response: HttpResponse, job_id: UUID, after: str = Query("", max_length=40)) -> Any:
    """What happened on a job: the latest page, in order; the one before it begins where X-Warm-Next says."""
    who = member_of(request)
    found, words = reads.bare_job_of(who, job_id), shown.words_of(who)
    layout = layout_of_machine(found.machine)
    rows = reads.history_of(found)
    if after:
        rows = rows.filter(id__lt=key_of(after, int)[0])
    return [
        {
            "what": row.what, "text": words.happened(row.what, row.before, row.after, layout), "by": row.by.name,
            "at": row.at, "received_at": row.received_at, "before": row.before, "after": row.after,
        }
        for row in reversed(next_page(response, rows, HISTORY_A_PAGE, lambda row: (row.id,)))
    ]  # fmt: skip
