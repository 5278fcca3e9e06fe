"""Routes of jobs. Every write is an idempotent PUT with an id made by the client, and answers with the whole job."""

import json
from collections.abc import Iterator
from dataclasses import replace
from functools import partial
from typing import Any, Literal
from uuid import UUID

from django.core.serializers.json import DjangoJSONEncoder
from django.http import HttpRequest, HttpResponse, JsonResponse, StreamingHttpResponse
from ninja import Router
from ninja.params.functions import Query
from pydantic_core import to_json

from config.given import Moment
from config.pages import key_of, next_page
from config.problems import Problem, ProblemOut
from config.slots import working
from jobs import importing, live, queries, services, to_core, view
from jobs.answer import job_answer, many_written, written
from jobs.bench_view import ways_json
from jobs.heat_view import HeatOut, heat_json
from jobs.learned import layout_for
from jobs.lists import jobs_page
from jobs.many import one_of_many
from jobs.reading_in import (
    cause_facts,
    check_job,
    check_layout,
    checked_run,
    count_facts,
    finding_facts,
    log_facts,
    meter_facts,
    reading_facts,
)
from jobs.schemas import HappeningOut, HereOut, JobOut, JobRow, ManyAnswers
from jobs.schemas_bench import CountIn, WayIn, WaysOut
from jobs.schemas_in import (
    CauseIn,
    EditionIn,
    FindingIn,
    JobIn,
    LogIn,
    ManyWrites,
    MarkIn,
    MeterIn,
    ReadingIn,
    RunIn,
    WithdrawIn,
)
from jobs.vocabulary import router as vocabulary
from people import services as people_services
from people.signed_in import member_of
from warmdraft.text import unwritable
from warmdraft.words import happened

router = Router(tags=["jobs"])
router.add_router("", vocabulary)

_REFUSED = dict.fromkeys((401, 403, 404, 409, 413, 422, 503), ProblemOut)
_JOB: dict[int, Any] = {200: JobOut, **_REFUSED}


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
    job_id, prepared = importing.prepared(who, request.body)
    return written(who, job_id, lambda: importing.bring_in(who, job_id, prepared))


@router.post("/writes", response={200: ManyAnswers, **_REFUSED})
def many_writes(request: HttpRequest, facts: ManyWrites) -> Any:
    """Writes that waited on a device, in one request: each is kept or refused by itself."""
    who = member_of(request)
    given, changed = many_written(who, [partial(one_of_many, request, one.path, one.body) for one in facts.writes])
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
    found = queries.bare_job_of(who, job_id)
    changes = live.ears.join(found.id, who.person.id)
    if changes is None:
        raise Problem(503, "too_many_streams", "Too many follow live at this moment; ask every two seconds instead.")
    answer = StreamingHttpResponse(
        live.stream(who, found.id, request.session.session_key or "", changes), content_type="text/event-stream"
    )
    answer.headers["Cache-Control"] = "no-cache"
    answer.headers["X-Accel-Buffering"] = "no"
    return answer


@router.get("/jobs/{uuid:job_id}/here", response={200: HereOut, **_REFUSED})
def who_is_here(request: HttpRequest, job_id: UUID, device: UUID | None = None) -> Any:
    """The same as one answer, for who cannot hold a stream open."""
    who = replace(member_of(request), device=device)
    found = queries.bare_job_of(who, job_id)
    return {"version": found.version, "here": live.here(who, found.id)}


@router.put("/jobs/{uuid:job_id}", response=_JOB)
def put_job(request: HttpRequest, job_id: UUID, facts: JobIn) -> Any:
    """Open a job, or change what is said of it."""
    who = member_of(request)
    check_job(facts)
    check_layout(who, facts)
    told = {name: told.dict() for name, told in facts.told.items()}
    given = services.JobFactsGiven(
        facts.title, facts.complaints, facts.circumstances, told, facts.said, facts.booked_for
    )
    machine = services.MachineFacts(**facts.machine.dict())
    place = services.PlaceFacts(**facts.place.dict())
    return written(who, job_id, lambda: services.put_job(who, job_id, given, machine, place, facts.based_on, facts.at))


@router.put("/jobs/{uuid:job_id}/editions/{uuid:edition_id}", response=_JOB)
def put_edition(request: HttpRequest, job_id: UUID, edition_id: UUID, facts: EditionIn) -> Any:
    """Open a job that was handed over again, for a new edition of its record; the old one stays."""
    who = member_of(request)
    return written(who, job_id, lambda: services.open_again(who, job_id, edition_id, facts.why, facts.at))


@router.put("/jobs/{uuid:job_id}/readings/{uuid:reading_id}", response=_JOB)
def put_reading(request: HttpRequest, job_id: UUID, reading_id: UUID, facts: ReadingIn) -> Any:
    """Record a reading; the answer carries the new verdict."""
    who = member_of(request)
    return written(who, job_id, lambda: services.record_reading(who, job_id, reading_id, reading_facts(facts)))


@router.put("/jobs/{uuid:job_id}/findings/{uuid:finding_id}", response=_JOB)
def put_finding(request: HttpRequest, job_id: UUID, finding_id: UUID, facts: FindingIn) -> Any:
    """Record what a look gave, or that it can't be done here."""
    who = member_of(request)
    return written(who, job_id, lambda: services.record_finding(who, job_id, finding_id, finding_facts(facts)))


@router.put("/jobs/{uuid:job_id}/meter/{uuid:test_id}", response=_JOB)
def put_meter(request: HttpRequest, job_id: UUID, test_id: UUID, facts: MeterIn) -> Any:
    """Record what a meter showed; the answer carries its verdict."""
    who = member_of(request)
    return written(who, job_id, lambda: services.record_meter(who, job_id, test_id, meter_facts(facts)))


@router.put("/jobs/{uuid:job_id}/logs/{uuid:log_id}", response=_JOB)
def put_log(request: HttpRequest, job_id: UUID, log_id: UUID, facts: LogIn) -> Any:
    """Record a log over a run; the answer carries its shape."""
    who = member_of(request)
    return written(who, job_id, lambda: services.record_log(who, job_id, log_id, log_facts(facts)))


@router.put("/jobs/{uuid:job_id}/vent", response=_JOB)
def put_run(request: HttpRequest, job_id: UUID, facts: RunIn) -> Any:
    """Put the vent run as it is drawn in place of the one before."""
    who = member_of(request)
    return written(
        who, job_id, lambda: services.draw_run(who, job_id, checked_run(facts.vent), facts.based_on, facts.at)
    )


@router.get("/jobs/{uuid:job_id}/heat", response={200: HeatOut, **_REFUSED})
def heat(
    request: HttpRequest, job_id: UUID, loads_a_week: float = Query(5, ge=0, le=1000),
    price_per_kwh: float = Query(0.3, ge=0, le=1000),
) -> Any:  # fmt: skip
    """How a load dries, healthy beside now: temperatures over time, what trips, what it costs more a year."""
    who = member_of(request)
    job = queries.job_of(who, job_id)
    with working:
        return heat_json(job, who, loads_a_week, price_per_kwh)


@router.put("/jobs/{uuid:job_id}/facts/{uuid:fact_id}/withdrawn", response=_JOB)
def put_withdrawn(request: HttpRequest, job_id: UUID, fact_id: UUID, facts: WithdrawIn) -> Any:
    """Take a reading or finding back, or put it back."""
    who = member_of(request)
    return written(who, job_id, lambda: services.withdraw(who, job_id, fact_id, facts.withdrawn, facts.at))


@router.put("/jobs/{uuid:job_id}/marks/{uuid:mark_id}", response=_JOB)
def put_mark(request: HttpRequest, job_id: UUID, mark_id: UUID, facts: MarkIn) -> Any:
    """Mark a step done, undone or not possible here."""
    who = member_of(request)
    return written(who, job_id, lambda: services.mark_step(who, job_id, mark_id, facts.dict()))


@router.get("/jobs/{uuid:job_id}/ways", response={200: WaysOut, **_REFUSED})
def ways(request: HttpRequest, job_id: UUID) -> Any:
    """Ways in to what the cause asks for, side by side; what else to do while open; what to take from the van."""
    job = queries.job_of(member_of(request), job_id)
    layout = layout_for(job)
    with working:
        return ways_json(job, layout)


@router.put("/jobs/{uuid:job_id}/ways/{uuid:way_id}", response=_JOB)
def put_way(request: HttpRequest, job_id: UUID, way_id: UUID, facts: WayIn) -> Any:
    """Say which way in is wanted, and what besides."""
    who = member_of(request)
    return written(who, job_id, lambda: services.choose_way(who, job_id, way_id, facts.dict()))


@router.put("/jobs/{uuid:job_id}/counts/{uuid:count_id}", response=_JOB)
def put_count(request: HttpRequest, job_id: UUID, count_id: UUID, facts: CountIn) -> Any:
    """Count something at the bench, or say what became of it."""
    who = member_of(request)
    return written(who, job_id, lambda: services.count(who, job_id, count_id, count_facts(facts)))


@router.put("/jobs/{uuid:job_id}/photos/{uuid:photo_id}", response=_JOB)
def put_photo(request: HttpRequest, job_id: UUID, photo_id: UUID, at: Moment, step: str = "") -> Any:
    """Add a photo (the body, as it is: JPEG, PNG or WebP)."""
    who = member_of(request)
    if len(step) > 80 or unwritable(step):
        raise Problem(422, "not_possible", "No step is called so.", [{"path": "$.step", "message": "is no step"}])
    made = services.photo_of(who, job_id, request.body)  # decoded before anything is held
    return written(who, job_id, lambda: services.add_photo(who, job_id, photo_id, made, step, at))


@router.put("/jobs/{uuid:job_id}/causes/{uuid:cause_id}", response=_JOB)
def put_cause(request: HttpRequest, job_id: UUID, cause_id: UUID, facts: CauseIn) -> Any:
    """Say which cause the work goes by, or what it turned out to be."""
    who = member_of(request)
    return written(who, job_id, lambda: services.choose_cause(who, job_id, cause_id, cause_facts(facts)))


@router.get("/people/{uuid:person_id}/kept", response={200: dict[str, Any], **_REFUSED})
def kept_of_person(request: HttpRequest, person_id: UUID) -> StreamingHttpResponse:
    """Everything that is kept about a person: what they are, and what they did on which job. Sent as it is read."""
    who = member_of(request)
    about = json.dumps(people_services.kept_of(who, person_id), cls=DjangoJSONEncoder, ensure_ascii=False, indent=2)

    def told() -> Iterator[str]:
        yield about.removesuffix("\n}") + ',\n  "happenings": ['
        for i, row in enumerate(queries.happenings_by(who, person_id)):
            yield (",\n    " if i else "\n    ") + json.dumps(row, cls=DjangoJSONEncoder, ensure_ascii=False)
        yield "\n  ]\n}"

    answer = StreamingHttpResponse(told(), content_type="application/json")
    answer.headers["Content-Disposition"] = f'attachment; filename="person-{person_id}.json"'
    return answer


@router.get("/jobs/{uuid:job_id}/file", response={200: dict[str, Any], **_REFUSED})
def job_file(request: HttpRequest, job_id: UUID) -> JsonResponse:
    """The job as a file: what `./warm core diagnose` reads."""
    found = queries.job_of(member_of(request), job_id)
    answer = JsonResponse(to_core.job_document(found), json_dumps_params={"indent": 2, "ensure_ascii": False})
    answer.headers["Content-Disposition"] = f'attachment; filename="job-{found.id}.json"'
    return answer


#: Lines of a history on one page.
HISTORY_A_PAGE = 200


@router.get("/jobs/{uuid:job_id}/history", response={200: list[HappeningOut], **_REFUSED})
def history(request: HttpRequest, response: HttpResponse, job_id: UUID, after: str = Query("", max_length=40)) -> Any:
    """What happened on a job: the latest page, in order; the one before it begins where X-Warm-Next says."""
    who = member_of(request)
    found, english = queries.bare_job_of(who, job_id), view.english_of(who)
    rows = queries.history_of(found)
    if after:
        rows = rows.filter(id__lt=key_of(after, int)[0])
    return [
        {
            "what": row.what, "text": happened(english, row.what, row.before, row.after), "by": row.by.name,
            "at": row.at, "received_at": row.received_at, "before": row.before, "after": row.after,
        }
        for row in reversed(next_page(response, rows, HISTORY_A_PAGE, lambda row: (row.id,)))
    ]  # fmt: skip
