"""Opening a job and changing what is said of it: its machine and place, its vent run, a new edition of its record."""

from dataclasses import asdict, replace
from datetime import datetime
from typing import Any, Literal
from uuid import UUID

from django.db import connection, transaction
from django.db.models import F
from django.http import Http404

from jobs.facts import reads
from jobs.facts.document import core_job
from jobs.facts.later import renew_later
from jobs.facts.timeline import changed_elsewhere, record_happening
from jobs.facts.values import JobValues, MachineValues, PlaceValues
from jobs.facts.writes import for_history, not_handed_over, plain, withdraw
from jobs.models import AddedStep, Job, Mark
from machines.layouts import layout_of_machine
from machines.models import Machine, Place
from people.may import Member
from shared.problems import ApiError
from warmdraft.teardown import operation_document
from warmdraft.work import safety_acts

#: What a client that knows no versions may change of a machine that is known.
_ITS_LAYOUT = ("layout", "variant")


def _put_place_or_machine(
    model: type[Place] | type[Machine], who: Member, given: PlaceValues | MachineValues, facts: dict[str, Any]
) -> tuple[dict[str, Any], dict[str, Any]]:
    """Create a place or a machine of this workshop, or change what was changed of it; what it was before and is now.

    An id in use elsewhere is not found. Changed only from the version there is: two jobs share a place, and what one
    changed the other would put back without a word.
    """
    row_id, version = given.id, given.version
    hold_id(row_id)
    row: Place | Machine | None = model._default_manager.select_for_update(of=("self",)).filter(id=row_id).first()
    if row is None:
        made = facts | ({"data_plate": _without_nulls(facts["data_plate"] or {})} if "data_plate" in facts else {})
        model._default_manager.create(id=row_id, workshop=who.workshop, **made)
        return {}, {}
    if row.workshop_id != who.workshop.id:
        raise Http404
    if given.as_known:
        return {}, {}
    offered = {name: value for name, value in facts.items() if value is not None or name == "age_years"}
    if "data_plate" in offered:  # a plate says some of it; the rest stays
        offered["data_plate"] = _without_nulls(row.data_plate | offered["data_plate"])  # type: ignore[union-attr]
    if version is None:
        offered = {name: value for name, value in offered.items() if name in _ITS_LAYOUT}
    recorded = plain(row, offered)
    changed = [
        name for name in offered if (offered[name] or None) != (recorded[name] or None)
    ]  # {} says as much as null
    before, after = ({name: part[name] for name in changed} for part in (recorded, offered))
    if not changed:
        return {}, {}
    if version is not None and version != row.version:
        raise _changed_meanwhile(for_history(before), for_history(after))
    model._default_manager.filter(id=row_id).update(**after, version=F("version") + 1)
    return for_history(before), for_history(after)


def _without_nulls(facts: dict[str, Any]) -> dict[str, Any]:
    return {key: value for key, value in facts.items() if value is not None}


def _changed_meanwhile(recorded: Any, offered: Any) -> ApiError:
    return ApiError(
        409,
        "changed_meanwhile",
        "Someone changed this job meanwhile; look at both and choose.",
        more={"recorded": recorded, "offered": offered},
    )


def put_job(
    who: Member, job_id: UUID, facts: JobValues, machine: MachineValues, place: PlaceValues, based_on: int | None,
    at: datetime,
) -> None:  # fmt: skip
    """Open a job, or change what is said of it. based_on: the version a change was made from, None for a new job."""
    who.require("work_on_a_job")
    with transaction.atomic():
        # the same new job twice at once: the second waits here, and finds it
        hold_id(job_id)
        job = reads.locked(who, job_id) if reads.job_exists(job_id) else None
        before_it = Machine.objects.select_related("workshop").filter(id=machine.id, workshop=who.workshop).first()
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
            record_happening(
                who, job, "job_opened", at, after=for_history(_logged(offered) | {"machine_id": machine.id})
            )
            based_on = job.version
        else:
            offered |= {"machine_id": machine.id}
            recorded = plain(job, offered)
            if recorded != offered or any(now for _, _, now in changes):
                not_handed_over(job)
            if recorded != offered:
                before, after = (for_history(_logged(part)) for part in (recorded, offered))
                _refuse_if_changed(who, job, based_on, "job_changed", before, after)
                Job.objects.filter(id=job_id).update(**offered)
                record_happening(who, job, "job_changed", at, before=before, after=after)
        for what, was, now in changes:
            if now:
                record_happening(who, job, what, at, before=was, after=now)
                if what == "machine_changed":
                    _make_safe_anew(who, job, was, at)
                    if _ITS_WAY & now.keys():
                        _keep_what_is_off(who, job, before_it, at)
                renew_later(**({"machine": machine.id} if what == "machine_changed" else {"place": place.id}))


Drawn = Literal["vent", "plan"]


def _logged(facts: dict[str, Any]) -> dict[str, Any]:
    """What of a job's facts goes into the log: what a file brought along stands on the job, once."""
    return {name: value for name, value in facts.items() if name != "carried"}


def _its_facts(facts: PlaceValues | MachineValues) -> dict[str, Any]:
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
    for step in sorted(touched & set(reads.settled_steps(job))):
        facts = {"step": step, "state": "undone", "why": "the machine is fed or heated otherwise", "at": at}
        row = Mark.objects.create(workshop=who.workshop, job=job, by=who.person, **facts)
        record_happening(who, job, "step_undone", at, after=for_history(facts | {"id": row.id}))


#: What of a machine says how it comes apart.
_ITS_WAY = {"layout", "variant", "energy", "supply"}


def _keep_what_is_off(who: Member, job: Job, before: Machine | None, at: datetime) -> None:
    """What is off by the layout there was stays in the tray by the layout there is, as what came off besides; what was
    kept so, and the layout there is knows, is kept no longer."""
    then = layout_of_machine(before) if before is not None else None
    now = layout_of_machine(Machine.objects.select_related("workshop").get(id=job.machine_id))
    known = {op.id: op for op in now.operations} if now else {}
    facts = core_job(reads.job_of(who, job.id)).facts
    kept = {row.operation.id: row.operation for row in facts.added if not row.withdrawn}
    there = ({op.id: op for op in then.operations} if then else {}) | kept
    back, after = set(facts.marked("close", "done")), ""
    for name in facts.marked("open", "done"):
        if name in there and name not in back:
            same = known.get(name)
            if same is not None and same.fasteners == there[name].fasteners:
                for row in job.addedsteps.filter(operation__id=name, withdrawn=False):
                    withdraw(who, job.id, row.id, True, at)
            elif name not in kept:
                reaches = same.reaches if same is not None else ()  # what it frees, the layout there is knows
                free = replace(there[name], needs=(), close_before=(), shows=(), reaches=reaches)
                AddedStep.objects.create(
                    workshop=who.workshop,
                    job=job,
                    by=who.person,
                    at=at,
                    operation=operation_document(free),
                    after=after,
                )
        after = name


def _refuse_if_changed(who: Member, job: Job, based_on: int | None, what: str, recorded: Any, offered: Any) -> None:
    """Raise the conflict, with both versions, where somebody changed the same thing since."""
    if changed_elsewhere(who, job, based_on, what):
        raise _changed_meanwhile(recorded, offered)


def open_again(who: Member, job_id: UUID, edition_id: UUID, why: str, at: datetime) -> None:
    """Open a job that was handed over for a new edition of its record; the one there is stays as it is."""
    who.require("hand_over")
    with transaction.atomic():
        job = reads.locked(who, job_id)
        before = job.happenings.filter(what="opened_again", after__id=str(edition_id))
        if not job.shut:
            if before.exists():
                return
            raise ApiError(409, "not_handed_over", "This job is open; there is nothing to open again.")
        if before.exists():
            raise ApiError(409, "handed_over", "This job was opened again and has been handed over since.")
        Job.objects.filter(id=job.id).update(shut=False)
        record_happening(who, job, "opened_again", at, after={"id": str(edition_id), "why": why})


#: What is drawn of a job, by the key of its file, and how its history names it.
_DRAWN: dict[Drawn, str] = {"vent": "run_drawn", "plan": "plan_drawn"}


def draw(
    who: Member, job_id: UUID, what: Drawn, drawn: dict[str, Any] | None, based_on: int, at: datetime
) -> None:  # fmt: skip
    """Put the vent run, or the plan of a new one, as it is drawn in place of the one before; None takes it away."""
    who.require("work_on_a_job")
    with transaction.atomic():
        job = reads.locked(who, job_id)
        not_handed_over(job)
        before = job.carried.get(what)
        if before == drawn:
            return
        _refuse_if_changed(who, job, based_on, _DRAWN[what], before, drawn)
        rest = {key: value for key, value in job.carried.items() if key != what}
        job.carried = rest | ({} if drawn is None else {what: drawn})
        job.save(update_fields=["carried"])
        record_happening(who, job, _DRAWN[what], at, before={what: before}, after={what: drawn})
