"""What can happen to a job: one function each, one transaction, one line in the log.

A write carries the id its client made. The same id with the same facts is the same write and gives the same answer;
the same id with other facts is a conflict and is shown, never settled silently.
"""

from collections.abc import Callable
from dataclasses import asdict, dataclass
from datetime import datetime
from typing import Any, TypeVar
from uuid import UUID

from django.db import IntegrityError, models, transaction
from django.http import Http404

from config.problems import Problem
from files.pictures import keep, made_of
from jobs import queries
from jobs.happened import changed_elsewhere, log
from jobs.models import Cause, Count, Fact, Finding, Job, Log, Mark, MeterTest, Photo, Reading, WayChoice
from jobs.to_core import case_of
from machines.models import Machine, Place
from people.may import Member
from warmdraft.checks import checks
from warmdraft.diagnosis import explains_heat, opened_one_shots
from warmdraft.work import safety_acts

_Row = TypeVar("_Row", bound=Fact)


@dataclass(frozen=True, slots=True)
class PlaceFacts:
    """A place as a client gives it."""

    id: UUID
    name: str
    address: str
    contact: str


@dataclass(frozen=True, slots=True)
class MachineFacts:
    """A machine as a client gives it."""

    id: UUID
    name: str
    profile: str
    layout: str
    energy: str
    supply: str
    variant: dict[str, str] | None
    age_years: float | None
    data_plate: dict[str, Any]


@dataclass(frozen=True, slots=True)
class JobFactsGiven:
    """A job as a client gives it."""

    title: str
    complaints: list[str]
    circumstances: list[str]
    told: dict[str, dict[str, str]]
    said: str
    booked_for: datetime
    given: dict[str, Any]


def given_of(who: Member, job_id: UUID) -> dict[str, Any]:
    """What a job's file brought along: kept when the job is changed."""
    row = Job.objects.filter(id=job_id, workshop=who.workshop).only("given").first()
    return row.given if row else {}


def data_plate_of(who: Member, machine_id: UUID) -> dict[str, Any]:
    """A machine's own figures: kept when a client that does not show them writes the machine."""
    row = Machine.objects.filter(id=machine_id, workshop=who.workshop).only("data_plate").first()
    return row.data_plate if row else {}


def variant_of(who: Member, machine_id: UUID) -> dict[str, str] | None:
    """In what a machine differs from others of its layout: kept when a client that does not show it writes."""
    row = Machine.objects.filter(id=machine_id, workshop=who.workshop).only("variant").first()
    return row.variant if row else None


def _plain(row: models.Model, names: list[str]) -> dict[str, Any]:
    return {name: getattr(row, name) for name in names}


def _for_log(facts: dict[str, Any]) -> dict[str, Any]:
    return {key: value if isinstance(value, int | float | bool | list | dict | None) else str(value)
            for key, value in facts.items()}  # fmt: skip


def _put_workshop_row(model: type[Any], who: Member, row_id: UUID, facts: dict[str, Any]) -> Any:
    """Create or update a place or a machine of this workshop; an id in use elsewhere is not found."""
    row = model.objects.filter(id=row_id).first()
    if row is not None and row.workshop_id != who.workshop.id:
        raise Http404
    if row is None:
        return model.objects.create(id=row_id, workshop=who.workshop, **facts)
    for name, value in facts.items():
        setattr(row, name, value)
    row.save()
    return row


def put_job(
    who: Member, job_id: UUID, facts: JobFactsGiven, machine: MachineFacts, place: PlaceFacts, based_on: int | None,
    at: datetime,
) -> None:  # fmt: skip
    """Open a job, or change what is said of it. based_on: the version a change was made from, None for a new job."""
    who.require("work_on_a_job")
    with transaction.atomic():
        existing = Job.objects.select_for_update().filter(id=job_id).first()
        if existing is not None and existing.workshop_id != who.workshop.id:
            raise Http404
        offered = asdict(facts) | {"machine_id": machine.id}
        if existing is not None:
            recorded = _plain(existing, list(offered))
            if recorded == offered and _same_machine(existing.machine, machine, place):
                return
            _refuse_if_changed(who, existing, based_on, "job_changed", _for_log(recorded), _for_log(offered))
        place_row: Place = _put_workshop_row(Place, who, place.id, _without_id(asdict(place)))
        machine_facts = _without_id(asdict(machine)) | {"place": place_row}
        _put_workshop_row(Machine, who, machine.id, machine_facts)
        if existing is None:
            job = Job.objects.create(
                id=job_id, workshop=who.workshop, created_by=who.person, machine_id=machine.id, **asdict(facts)
            )
            log(who, job, "job_opened", at, after=_for_log(offered))
        else:
            Job.objects.filter(id=job_id).update(**offered)
            log(who, existing, "job_changed", at, before=_for_log(recorded), after=_for_log(offered))


def _refuse_if_changed(who: Member, job: Job, based_on: int | None, what: str, recorded: Any, offered: Any) -> None:
    """Raise the conflict, with both versions, where somebody changed the same thing since."""
    if changed_elsewhere(who, job, based_on, what):
        raise Problem(
            409,
            "changed_meanwhile",
            "Someone changed this job meanwhile; look at both and choose.",
            more={"recorded": recorded, "offered": offered},
        )


def _same_machine(row: Machine, machine: MachineFacts, place: PlaceFacts) -> bool:
    names = [name for name in asdict(machine) if name != "id"]
    place_names = [name for name in asdict(place) if name != "id"]
    return (
        row.id == machine.id
        and _plain(row, names) == _without_id(asdict(machine))
        and row.place_id == place.id
        and _plain(row.place, place_names) == _without_id(asdict(place))
    )


def _without_id(facts: dict[str, Any]) -> dict[str, Any]:
    return {key: value for key, value in facts.items() if key != "id"}


def _add_fact(
    model: type[_Row], who: Member, job_id: UUID, fact_id: UUID, facts: dict[str, Any], what: str,
    check: Callable[[Job], None] | None = None,
) -> None:  # fmt: skip
    """Add a fact to a job of the workshop; repeating it is safe, changing it is a conflict."""
    who.require("work_on_a_job")
    job = queries.bare_job_of(who, job_id)
    with transaction.atomic():
        queries.lock(job.id)
        row = model._default_manager.filter(id=fact_id).first()
        if row is not None:
            if row.workshop_id != who.workshop.id:
                raise Http404
            recorded = _plain(row, list(facts))
            if row.job_id == job.id and recorded == facts:
                return
            raise Problem(
                409,
                "already_recorded",
                "This was recorded before with other facts; look at both and choose.",
                more={"recorded": _for_log(recorded), "offered": _for_log(facts)},
            )
        _not_handed_over(job)
        if check is not None:
            check(job)
        try:
            with transaction.atomic():
                model._default_manager.create(id=fact_id, workshop=who.workshop, job=job, by=who.person, **facts)
        except IntegrityError:
            raise Problem(
                409, "superseded_meanwhile", "Someone replaced the same fact meanwhile; look at it and choose."
            ) from None
        log(who, job, what, facts["at"], after=_for_log(facts | {"id": fact_id}))


def _not_handed_over(job: Job) -> None:
    if hasattr(job, "record"):
        raise Problem(409, "handed_over", "This job is handed over; its record stands. Open a new job for more work.")


def _supersedes_within(model: type[Any], supersedes: UUID | None) -> Callable[[Job], None]:
    def check(job: Job) -> None:
        if supersedes is not None and not model.objects.filter(id=supersedes, job=job).exists():
            raise Problem(
                422, "unknown_fact", "What this replaces is no fact of this job; reload and try again.",
                [{"path": "$.supersedes", "message": "is no fact of this job"}],
            )  # fmt: skip

    return check


def record_reading(who: Member, job_id: UUID, reading_id: UUID, facts: dict[str, Any]) -> None:
    """Add a reading; one that needs a qualification only by someone who has it."""
    who.require_qualified(checks()[facts["kind"]].qualified)
    check = _supersedes_within(Reading, facts["supersedes_id"])
    _add_fact(Reading, who, job_id, reading_id, facts, "reading_recorded", check)


def record_finding(who: Member, job_id: UUID, finding_id: UUID, facts: dict[str, Any]) -> None:
    """Add the result of a look, or that it cannot be done here."""
    check = _supersedes_within(Finding, facts["supersedes_id"])
    _add_fact(Finding, who, job_id, finding_id, facts, "finding_recorded", check)


def record_meter(who: Member, job_id: UUID, test_id: UUID, facts: dict[str, Any]) -> None:
    """Add what a meter showed; live work only by someone who is qualified for it."""
    who.require_qualified(checks()[f"meter_{facts['part']}"].qualified)
    check = _supersedes_within(MeterTest, facts["supersedes_id"])
    _add_fact(MeterTest, who, job_id, test_id, facts, "meter_recorded", check)


def record_log(who: Member, job_id: UUID, log_id: UUID, facts: dict[str, Any]) -> None:
    """Add a log over a run."""
    check = _supersedes_within(Log, facts["supersedes_id"])
    _add_fact(Log, who, job_id, log_id, facts, "log_recorded", check)


def draw_run(who: Member, job_id: UUID, vent: dict[str, Any] | None, based_on: int, at: datetime) -> None:
    """Put the vent run as it is drawn in place of the one before; None takes it away."""
    who.require("work_on_a_job")
    job = queries.bare_job_of(who, job_id)
    with transaction.atomic():
        queries.lock(job.id)
        job.refresh_from_db()
        _not_handed_over(job)
        before = job.given.get("vent")
        if before == vent:
            return
        _refuse_if_changed(who, job, based_on, "run_drawn", before, vent)
        given = {key: value for key, value in job.given.items() if key != "vent"}
        job.given = given | ({} if vent is None else {"vent": vent})
        job.save(update_fields=["given"])
        log(who, job, "run_drawn", at, before={"vent": before}, after={"vent": vent})


def add_photo(who: Member, job_id: UUID, photo_id: UUID, body: bytes, step: str, at: datetime) -> None:
    """Add a photo, made safe to keep."""
    who.require("work_on_a_job")
    queries.bare_job_of(who, job_id)  # 404 before the work of decoding
    made = made_of(body)
    with transaction.atomic():
        facts = {"picture_id": keep(who, made).id, "step": step, "at": at}
        _add_fact(Photo, who, job_id, photo_id, facts, "photo_added")


def withdraw(who: Member, job_id: UUID, fact_id: UUID, withdrawn: bool, at: datetime) -> None:
    """Take a reading or finding back, or put it back; the row and its history stay."""
    who.require("work_on_a_job")
    job = queries.bare_job_of(who, job_id)
    with transaction.atomic():
        queries.lock(job.id)
        _not_handed_over(job)
        kinds = (job.readings, job.findings, job.metertests, job.logs, job.photos)
        fact = next((found for kind in kinds if (found := kind.filter(id=fact_id).first())), None)
        if fact is None:
            raise Http404
        if fact.withdrawn != withdrawn:
            fact.withdrawn = withdrawn
            fact.save(update_fields=["withdrawn"])
            what = "fact_withdrawn" if withdrawn else "fact_put_back"
            log(who, job, what, at, after={"id": str(fact_id)})


def mark_step(who: Member, job_id: UUID, mark_id: UUID, facts: dict[str, Any]) -> None:
    """Mark a step done, undone or not possible; live work only by the qualified."""

    def check(job: Job) -> None:
        acts = {step.id: step for step in safety_acts(job.machine.supply, job.machine.energy)}
        step = acts.get(facts["step"])
        if step is not None and facts["state"] == "done":
            who.require_qualified(step.qualified)

    _add_fact(Mark, who, job_id, mark_id, facts, f"step_{facts['state']}", check)


def count(who: Member, job_id: UUID, count_id: UUID, facts: dict[str, Any]) -> None:
    """Count something at the bench, or say what became of it."""
    _add_fact(Count, who, job_id, count_id, facts, "counted")


def choose_way(who: Member, job_id: UUID, way_id: UUID, facts: dict[str, Any]) -> None:
    """Say what is wanted of the way in."""
    _add_fact(WayChoice, who, job_id, way_id, facts, "way_chosen")


def choose_cause(who: Member, job_id: UUID, cause_id: UUID, facts: dict[str, Any]) -> None:
    """Say which cause the work goes by, what one takes it to have been, or what it turned out to be."""
    acts = {"proposed": "propose_a_cause", "confirmed": "confirm_a_cause"}
    who.require(acts.get(facts["kind"], "work_on_a_job"))

    def check(job: Job) -> None:
        opened = opened_one_shots(case_of(queries.job_of(who, job.id), "before"))
        if opened and not explains_heat(facts["fault"]) and not facts["heat_unexplained"]:
            raise Problem(
                422,
                "victim_not_cause",
                "A thermal fuse or cut-off has blown, and this cause makes no machine too hot. Choose what did, or go "
                "on with “cause of the heat not found”; that sentence then stands on the record.",
                [{"path": "$.fault", "message": "does not say why it got too hot"}],
            )

    _add_fact(Cause, who, job_id, cause_id, facts, f"cause_{facts['kind']}", check)
