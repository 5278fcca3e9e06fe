"""What can happen to a job: one function each, one transaction, one line in the log.

A write carries the id its client made. The same id with the same facts is the same write and gives the same answer;
the same id with other facts is a conflict and is shown, never settled silently.
"""

from collections.abc import Callable, Iterable
from dataclasses import asdict, dataclass
from datetime import datetime
from typing import Any, TypeVar
from uuid import UUID

from django.db import IntegrityError, connection, models, transaction
from django.db.models import F
from django.http import Http404
from django.utils import timezone

from config.problems import Problem
from files.pictures import Made, keep, made_of
from jobs import queries
from jobs.happened import changed_elsewhere, log
from jobs.models import Cause, Count, Fact, Finding, Job, Log, Mark, MeterTest, Photo, Reading, WayChoice
from jobs.tasks import renew_later
from jobs.to_core import case_of
from machines.models import Machine, Place
from people.may import Member
from warmdraft.checks import checks
from warmdraft.diagnosis import explains_heat, opened_one_shots
from warmdraft.jobfile.limits import MOST_FACTS
from warmdraft.work import qualification_of, safety_acts

_Row = TypeVar("_Row", bound=Fact)


@dataclass(frozen=True, slots=True)
class PlaceFacts:
    """A place as a client gives it; version: of the one it was shown, where it changes something of it."""

    id: UUID
    name: str
    address: str
    contact: str
    version: int | None = None
    as_known: bool = False


@dataclass(frozen=True, slots=True)
class MachineFacts:
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
class JobFactsGiven:
    """A job as a client gives it; given: what a file brings along, None where a client does not show it."""

    title: str
    complaints: list[str]
    circumstances: list[str]
    told: dict[str, dict[str, str]]
    said: str
    booked_for: datetime
    given: dict[str, Any] | None = None


def _plain(row: models.Model, names: Iterable[str]) -> dict[str, Any]:
    return {name: getattr(row, name) for name in names}


def _for_log(facts: dict[str, Any]) -> dict[str, Any]:
    return {key: value if isinstance(value, int | float | bool | list | dict | None) else str(value)
            for key, value in facts.items()}  # fmt: skip


#: What a client that knows no versions may change of a machine that is known.
_ITS_LAYOUT = ("layout", "variant")


def _put_place_or_machine(
    model: type[Place] | type[Machine], who: Member, given: PlaceFacts | MachineFacts, facts: dict[str, Any]
) -> tuple[dict[str, Any], dict[str, Any]]:
    """Create a place or a machine of this workshop, or change what was changed of it; what it was before and is now.

    An id in use elsewhere is not found. Changed only from the version there is: two jobs share a place, and what one
    changed the other would put back without a word.
    """
    row_id, version = given.id, given.version
    hold_id(row_id)
    row: Place | Machine | None = model._default_manager.select_for_update(of=("self",)).filter(id=row_id).first()
    if row is None:
        made = {name: ({} if name == "data_plate" and value is None else value) for name, value in facts.items()}
        model._default_manager.create(id=row_id, workshop=who.workshop, **made)
        return {}, {}
    if row.workshop_id != who.workshop.id:
        raise Http404
    if given.as_known:
        return {}, {}
    offered = {name: value for name, value in facts.items() if value is not None or name == "age_years"}
    if version is None:
        offered = {name: value for name, value in offered.items() if name in _ITS_LAYOUT}
    recorded = _plain(row, offered)
    changed = [
        name for name in offered if (offered[name] or None) != (recorded[name] or None)
    ]  # {} says as much as null
    before, after = ({name: part[name] for name in changed} for part in (recorded, offered))
    if not changed:
        return {}, {}
    if version is not None and version != row.version:
        raise _changed_meanwhile(_for_log(before), _for_log(after))
    model._default_manager.filter(id=row_id).update(**after, version=F("version") + 1)
    return _for_log(before), _for_log(after)


def _changed_meanwhile(recorded: Any, offered: Any) -> Problem:
    return Problem(
        409,
        "changed_meanwhile",
        "Someone changed this job meanwhile; look at both and choose.",
        more={"recorded": recorded, "offered": offered},
    )


def put_job(
    who: Member, job_id: UUID, facts: JobFactsGiven, machine: MachineFacts, place: PlaceFacts, based_on: int | None,
    at: datetime,
) -> None:  # fmt: skip
    """Open a job, or change what is said of it. based_on: the version a change was made from, None for a new job."""
    who.require("work_on_a_job")
    with transaction.atomic():
        # the same new job twice at once: the second waits here, and finds it
        hold_id(job_id)
        job = queries.locked(who, job_id) if queries.job_exists(job_id) else None
        its_machine = _its_facts(machine) | {"place_id": place.id}
        changes = [
            ("place_changed", *_put_place_or_machine(Place, who, place, _its_facts(place))),
            ("machine_changed", *_put_place_or_machine(Machine, who, machine, its_machine)),
        ]  # fmt: skip
        offered = {name: value for name, value in asdict(facts).items() if value is not None}
        if job is None:
            job = Job.objects.create(
                id=job_id, workshop=who.workshop, created_by=who.person, machine_id=machine.id, **offered
            )
            log(who, job, "job_opened", at, after=_for_log(_logged(offered) | {"machine_id": machine.id}))
            based_on = job.version
        else:
            offered |= {"machine_id": machine.id}
            recorded = _plain(job, offered)
            if recorded != offered or any(now for _, _, now in changes):
                _not_handed_over(job)
            if recorded != offered:
                before, after = (_for_log(_logged(part)) for part in (recorded, offered))
                _refuse_if_changed(who, job, based_on, "job_changed", before, after)
                Job.objects.filter(id=job_id).update(**offered)
                log(who, job, "job_changed", at, before=before, after=after)
        for what, was, now in changes:
            if now:
                log(who, job, what, at, before=was, after=now)
                if what == "machine_changed":
                    _make_safe_anew(who, job, was, at)
                renew_later(**({"machine": machine.id} if what == "machine_changed" else {"place": place.id}))


def _logged(facts: dict[str, Any]) -> dict[str, Any]:
    """What of a job's facts goes into the log: what a file brought along stands on the job, once."""
    return {name: value for name, value in facts.items() if name != "given"}


def _its_facts(facts: PlaceFacts | MachineFacts) -> dict[str, Any]:
    return {key: value for key, value in asdict(facts).items() if key not in ("id", "version", "as_known")}


def hold_id(row_id: UUID) -> None:
    """Let nobody else make a row of this id until the transaction ends."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_advisory_xact_lock(%s)", [row_id.int % 2**63])


def _make_safe_anew(who: Member, job: Job, was: dict[str, Any], at: datetime) -> None:
    """A machine that is fed or heated otherwise than was thought is made safe anew, where the acts differ."""
    machine = Machine.objects.get(id=job.machine_id)
    then = safety_acts(was.get("supply", machine.supply), was.get("energy", machine.energy))
    now = safety_acts(machine.supply, machine.energy)
    touched = {step.id for step in then} ^ {step.id for step in now}
    for step in sorted(touched & set(queries.settled_steps(job))):
        facts = {"step": step, "state": "undone", "why": "the machine is fed or heated otherwise", "at": at}
        row = Mark.objects.create(workshop=who.workshop, job=job, by=who.person, **facts)
        log(who, job, "step_undone", at, after=_for_log(facts | {"id": row.id}))


def _refuse_if_changed(who: Member, job: Job, based_on: int | None, what: str, recorded: Any, offered: Any) -> None:
    """Raise the conflict, with both versions, where somebody changed the same thing since."""
    if changed_elsewhere(who, job, based_on, what):
        raise _changed_meanwhile(recorded, offered)


#: Most facts of a kind on one job: as many as its file may hold.
_MOST: dict[type[Fact], int] = {
    Reading: MOST_FACTS["readings"], Finding: MOST_FACTS["findings"], MeterTest: MOST_FACTS["meter"],
    Log: MOST_FACTS["logs"], Mark: 5_000, Count: 5_000, WayChoice: 500, Cause: 500, Photo: 500,
}  # fmt: skip


def not_too_many(model: type[Fact], number: int) -> None:
    """Raise the problem of a job that would hold more facts of a kind than any does."""
    most = _MOST[model]
    if number > most:
        raise Problem(
            422, "too_many", f"A job holds at most {most} of these; hand it over, and open a new one for more work."
        )


def _add_fact(
    model: type[_Row], who: Member, job_id: UUID, fact_id: UUID, facts: dict[str, Any], what: str,
    check: Callable[[Job], None] | None = None,
) -> None:  # fmt: skip
    """Add a fact to a job of the workshop; repeating it is safe, changing it is a conflict."""
    who.require("work_on_a_job")
    with transaction.atomic():
        job = queries.locked(who, job_id)
        row = model._default_manager.filter(id=fact_id).first()
        if row is not None:
            if row.workshop_id != who.workshop.id:
                raise Http404
            recorded = _plain(row, facts)
            if row.job_id == job.id and recorded == facts:
                return
            raise Problem(
                409,
                "already_recorded",
                "This was recorded before with other facts; look at both and choose.",
                more={"recorded": _for_log(recorded), "offered": _for_log(facts)},
            )
        _not_handed_over(job)
        not_too_many(model, model._default_manager.filter(job=job).count() + 1)
        if check is not None:
            check(job)
        try:
            with transaction.atomic():
                model._default_manager.create(id=fact_id, workshop=who.workshop, job=job, by=who.person, **facts)
        except IntegrityError:
            raise Problem(
                409, "superseded_meanwhile", "Someone replaced the same fact meanwhile; look at it and choose."
            ) from None
        log(who, job, what, facts["at"], after=_for_log(_said_of(model, facts) | {"id": fact_id}))


def _said_of(model: type[Fact], facts: dict[str, Any]) -> dict[str, Any]:
    """What of a fact goes into the log: all of it, but of a log only how long it ran; its points stand on the job."""
    if model is not Log:
        return facts
    return {key: value for key, value in facts.items() if key != "values"} | {"minutes": facts["minutes"][-1:]}


def _not_handed_over(job: Job) -> None:
    if job.shut:
        raise Problem(
            409,
            "handed_over",
            "This job is handed over; its record stands. Open it again for a new edition, or a new job for more work.",
        )


def open_again(who: Member, job_id: UUID, edition_id: UUID, why: str, at: datetime) -> None:
    """Open a job that was handed over for a new edition of its record; the one there is stays as it is."""
    who.require("hand_over")
    with transaction.atomic():
        job = queries.locked(who, job_id)
        before = job.happenings.filter(what="opened_again", after__id=str(edition_id))
        if not job.shut:
            if before.exists():
                return
            raise Problem(409, "not_handed_over", "This job is open; there is nothing to open again.")
        if before.exists():
            raise Problem(409, "handed_over", "This job was opened again and has been handed over since.")
        Job.objects.filter(id=job.id).update(shut=False)
        log(who, job, "opened_again", at, after={"id": str(edition_id), "why": why})


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
    """Add a log over a run; what is read live only by someone who is qualified for it."""
    require_qualified_to_log(who, facts["kind"])
    check = _supersedes_within(Log, facts["supersedes_id"])
    _add_fact(Log, who, job_id, log_id, facts, "log_recorded", check)


def draw_run(who: Member, job_id: UUID, vent: dict[str, Any] | None, based_on: int, at: datetime) -> None:
    """Put the vent run as it is drawn in place of the one before; None takes it away."""
    who.require("work_on_a_job")
    with transaction.atomic():
        job = queries.locked(who, job_id)
        _not_handed_over(job)
        before = job.given.get("vent")
        if before == vent:
            return
        _refuse_if_changed(who, job, based_on, "run_drawn", before, vent)
        given = {key: value for key, value in job.given.items() if key != "vent"}
        job.given = given | ({} if vent is None else {"vent": vent})
        job.save(update_fields=["given"])
        log(who, job, "run_drawn", at, before={"vent": before}, after={"vent": vent})


def photo_of(who: Member, job_id: UUID, body: bytes) -> Made:
    """A photo for a job, made safe to keep: before anything is locked, for decoding takes long."""
    who.require("work_on_a_job")
    queries.bare_job_of(who, job_id)  # 404 before the work of decoding
    return made_of(body)


def add_photo(who: Member, job_id: UUID, photo_id: UUID, made: Made, step: str, at: datetime) -> None:
    """Add a photo."""
    with transaction.atomic():
        facts = {"picture_id": keep(who, made).id, "step": step, "at": at}
        _add_fact(Photo, who, job_id, photo_id, facts, "photo_added")


def withdraw(who: Member, job_id: UUID, fact_id: UUID, withdrawn: bool, at: datetime) -> None:
    """Take a reading or finding back, or put it back; the row and its history stay."""
    who.require("work_on_a_job")
    with transaction.atomic():
        job = queries.locked(who, job_id)
        _not_handed_over(job)
        kinds = (job.readings, job.findings, job.metertests, job.logs, job.photos)
        fact = next((found for kind in kinds if (found := kind.filter(id=fact_id).first())), None)
        if fact is None:
            raise Http404
        if fact.withdrawn != withdrawn:
            since = {"withdrawn_at": timezone.now() if withdrawn else None} if isinstance(fact, Photo) else {}
            type(fact)._default_manager.filter(id=fact.id).update(withdrawn=withdrawn, **since)
            what = "fact_withdrawn" if withdrawn else "fact_put_back"
            log(who, job, what, at, after={"id": str(fact_id)})


def require_qualified_to_log(who: Member, kind: str) -> None:
    """Raise the explanation where a log of this kind is work for the qualified: as a reading, or as a log."""
    for name, check in checks().items():
        if name == kind or kind in check.logs:
            who.require_qualified(check.qualified)


def mark_step(who: Member, job_id: UUID, mark_id: UUID, facts: dict[str, Any]) -> None:
    """Mark a step done, undone or not possible.

    Work for the qualified is so by itself, whatever is said of the machine at this moment.
    """
    if facts["state"] == "done":
        who.require_qualified(qualification_of(facts["step"]))
    _add_fact(Mark, who, job_id, mark_id, facts, f"step_{facts['state']}")


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
