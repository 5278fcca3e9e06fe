"""A job file back into the workshop: all of it, ids included, or nothing."""

import uuid
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any, TypeVar
from uuid import UUID

from django.db import IntegrityError, transaction
from django.http import Http404
from django.utils import timezone

from jobs.exchange.own_part import OwnPart, moment_or, own_part
from jobs.facts import opening, reads
from jobs.facts.document import DEALT, job_document
from jobs.facts.inputs import PLATE
from jobs.facts.timeline import record_happening
from jobs.facts.values import JobValues, MachineValues, PlaceValues
from jobs.facts.writes import not_too_many, require_qualified_to_log
from jobs.models import (
    AddedStep,
    Cause,
    Count,
    Dealing,
    Fact,
    Finding,
    Job,
    Log,
    Mark,
    MeterTest,
    Reading,
    Sound,
    WayChoice,
    Work,
)
from machines.layouts import known_name
from people.may import Member
from shared.problems import ApiError
from shared.slots import working
from warmdraft.checks import checks
from warmdraft.errors import DocumentError
from warmdraft.jobfile import Job as CoreJob
from warmdraft.jobfile import JobDocument, parse_json, read_job, upgraded
from warmdraft.jobfile.meter_schema import MeterTestSection
from warmdraft.jobfile.parts import FactSection
from warmdraft.jobfile.schema import ObservationSection, SoundSection, WithdrawnSection
from warmdraft.stock import key_of
from warmdraft.teardown import layout_names
from warmdraft.work import qualification_of

#: Keys of a file that rows hold, or that say what rows say; everything else is kept as it came.
_HELD = frozenset(JobDocument.model_fields) - {"notes", "air", "vent", "plan", "load", "suppose"} | {"x-job"}
#: Keys that are not of the job's own facts: what the workshop that wrote the file knew, and what it had done with it.
_OF_THE_HOUSE = frozenset({"layout", "handed_over"})
#: What of a file's machine is kept with ours as it stands there.
OF_THE_PLATE = ("airway", "heat", "drive", "measured_healthy", "sounds_healthy", PLATE)
#: Keys of a meter test that say what was tested, not who and when.
_METER_KEYS = frozenset(MeterTestSection.model_fields) - {"part"}
#: Keys that say what a recording told.
_TOLD_KEYS = frozenset(SoundSection.model_fields) - frozenset(ObservationSection.model_fields) - {"part", "healthy"}

_Row = TypeVar("_Row", bound=Fact)
_Part = TypeVar("_Part", bound=FactSection)


@dataclass(frozen=True, slots=True)
class Prepared:
    """A file that was read and found sound: in today's shape, as the core reads it, and what is our own in it."""

    parsed: dict[str, Any]
    core: CoreJob
    own: OwnPart


def prepared(who: Member, data: bytes) -> tuple[UUID, Prepared]:
    """Read a file and check all that needs no database; the id of its job."""
    who.require("import_a_job")
    with working:
        given = parse_json(data)
        core = read_job(given)  # names what is wrong by its place in the file as it came
        parsed = upgraded(given)
    own = own_part(parsed.get("x-job"))
    _require_qualified(who, core.document)
    return _id(own.id), Prepared(parsed, core, own)


def _id(said: str | None) -> UUID:
    return UUID(said) if said else uuid.uuid4()


def _all_of(standing: Sequence[_Part] | None, withdrawn: Sequence[_Part] | None) -> list[tuple[_Part, bool]]:
    return [(part, False) for part in standing or ()] + [(part, True) for part in withdrawn or ()]


def _require_qualified(who: Member, document: JobDocument) -> None:
    """What is work for the qualified is brought in only by someone who could have recorded it."""
    back = document.withdrawn or WithdrawnSection()
    for reading, _ in _all_of(document.readings, back.readings):
        who.require_qualified(checks()[reading.kind].qualified)
    for test, _ in _all_of(document.meter, back.meter):
        who.require_qualified(checks()[f"meter_{test.part}"].qualified)
    for log, _ in _all_of(document.logs, back.logs):
        require_qualified_to_log(who, log.kind)
    for mark in document.marks or ():
        if mark.state == "done":
            who.require_qualified(qualification_of(mark.step))


def bring_in(who: Member, job_id: UUID, file: Prepared) -> None:
    """Bring a job in from a file. The same file twice is the same job; a damaged one writes nothing.

    A place or a machine that is known here stays as it is: a file is as old as it is.
    """
    machine = file.core.document.machine
    layout = (machine.layout if machine else None) or ""
    if layout and not known_name(who, layout):
        raise DocumentError(
            "$.machine.layout", f"'{layout}' is no layout here; give one of {', '.join(layout_names())}"
        )
    with transaction.atomic():
        opening.hold_id(job_id)
        if reads.job_exists(job_id):
            _same_or_conflict(who, job_id, file)
            return
        opening.put_job(
            who, job_id, _job(file), _machine(file, layout), _place(file.own), based_on=None, at=timezone.now()
        )
        job = reads.bare_job_of(who, job_id)
        try:
            with transaction.atomic():
                _observations(who, job, file.core.document)
                _hands(who, job, file.core.document)
        except IntegrityError:  # an id of these was taken by somebody else meanwhile
            raise Http404 from None
        record_happening(who, job, "job_imported", timezone.now(), after={"id": str(job_id)})


def _job(file: Prepared) -> JobValues:
    document, own = file.core.document, file.own
    complaints = document.complaints or []
    return JobValues(
        title=(document.title or "")[:200],
        complaints=complaints,
        circumstances=document.circumstances or [],
        told={name: told.model_dump() for name, told in own.told.items() if name in complaints},
        said=own.said,
        booked_for=moment_or(own.booked_for, timezone.now()),
        carried={key: value for key, value in file.parsed.items() if key not in _HELD},
    )


def _machine(file: Prepared, layout: str) -> MachineValues:
    said, machine = file.core.document.machine, file.core.machine
    variant = (said.variant if said else None) or None
    if variant and layout not in layout_names():
        raise DocumentError("$.machine.variant", "machines of this layout do not differ in that; leave it out")
    return MachineValues(
        id=_id(file.own.machine.id),
        name=file.own.machine.name,
        profile=machine.profile,
        layout=layout,
        energy=machine.heat.energy,
        supply=file.core.facts.connection,
        variant=variant,
        age_years=machine.age_years,
        data_plate={k: v for k, v in file.parsed.get("machine", {}).items() if k in OF_THE_PLATE},
        as_known=True,
    )


def _place(own: OwnPart) -> PlaceValues:
    place = own.place
    return PlaceValues(_id(place.id), place.name, place.address, place.contact, as_known=True)


def _same_or_conflict(who: Member, job_id: UUID, file: Prepared) -> None:
    recorded = _comparable(job_document(reads.job_of(who, job_id)))  # 404 where the id is another workshop's
    offered = _comparable(file.parsed)
    if recorded == offered:
        return
    differs = sorted(key for key in {*recorded, *offered} if recorded.get(key) != offered.get(key))
    raise ApiError(
        409,
        "already_here",
        f"This job is here already and differs in {', '.join(differs)}; nothing was changed.",
        [{"path": f"$.{key}", "message": "differs from what is recorded"} for key in differs],
    )


def _comparable(document: dict[str, Any]) -> dict[str, Any]:
    """What of a file is the job's own. Files of 0.5 did not say who marked and counted."""
    facts = {key: part for key, part in document.items() if key not in _OF_THE_HOUSE}
    for key in ("works", "added", "marks", "counts", "ways", "causes", *DEALT.values()):
        if key in facts:
            facts[key] = [{name: said for name, said in row.items() if name != "by"} for row in facts[key]]
    return facts


def _fact(who: Member, job: Job, part: FactSection, now: datetime) -> dict[str, Any]:
    by = part.by or ""
    return {
        "workshop": who.workshop,
        "job": job,
        "by": who.person,
        "by_name": "" if by == who.person.name else by[:120],
        "id": _id(part.id),
        "at": moment_or(part.at, now),
        "from_file": True,
    }


def _observation(who: Member, job: Job, part: ObservationSection, withdrawn: bool, now: datetime) -> dict[str, Any]:
    return _fact(who, job, part, now) | {
        "phase": part.phase or "before",
        "heat_on": bool(part.heat_on),
        "visit": UUID(part.visit) if part.visit else None,
        "withdrawn": withdrawn,
    }


def _extra(part: FactSection, key: str, most: int) -> str:
    return str((part.model_extra or {}).get(key, ""))[:most]


def _said_in_file(part: FactSection) -> dict[str, Any]:
    """What of a fact is its own, as the file says it."""
    return part.model_dump(mode="json", exclude=set(FactSection.model_fields), exclude_none=True)


def _create(model: type[_Row], rows: Sequence[_Row]) -> None:
    """Rows under the ids of a file; 404 for one that is in use elsewhere."""
    not_too_many(model, len(rows))
    if model._default_manager.filter(id__in=[row.id for row in rows]).exists():
        raise Http404
    model._default_manager.bulk_create(rows)


def _observations(who: Member, job: Job, document: JobDocument) -> None:
    back, now = document.withdrawn or WithdrawnSection(), timezone.now()

    def seen(part: ObservationSection, withdrawn: bool) -> dict[str, Any]:
        return _observation(who, job, part, withdrawn, now)

    readings, findings = _all_of(document.readings, back.readings), _all_of(document.findings, back.findings)
    meter, logs = _all_of(document.meter, back.meter), _all_of(document.logs, back.logs)
    _add(Reading, [part for part, _ in readings], [
        Reading(kind=part.kind, value=part.value, unit=part.unit, instrument=part.instrument or "",
                typed=_extra(part, "x-typed", 60), **seen(part, taken_back))
        for part, taken_back in readings
    ])  # fmt: skip
    _add(Finding, [part for part, _ in findings], [
        Finding(check_name=part.check, result=part.result, why=_extra(part, "x-why", 200), **seen(part, taken_back))
        for part, taken_back in findings
    ])  # fmt: skip
    _add(MeterTest, [part for part, _ in meter], [
        MeterTest(part=part.part, typed=_extra(part, "x-typed", 60),
                  test=part.model_dump(include=set(_METER_KEYS), exclude_none=True), **seen(part, taken_back))
        for part, taken_back in meter
    ])  # fmt: skip
    _add(Log, [part for part, _ in logs], [
        Log(kind=part.kind, unit=part.unit, minutes=part.minutes, values=part.values,
            instrument=part.instrument or "", **seen(part, taken_back))
        for part, taken_back in logs
    ])  # fmt: skip
    sounds = _all_of(document.sounds, back.sounds)
    _add(Sound, [part for part, _ in sounds], [
        Sound(part=part.part or "", healthy=bool(part.healthy),
              told=part.model_dump(include=set(_TOLD_KEYS), exclude_none=True), **seen(part, taken_back))
        for part, taken_back in sounds
    ])  # fmt: skip


def _add(model: type[Any], parts: Iterable[ObservationSection], rows: Sequence[Any]) -> None:
    _create(model, rows)
    for row, part in zip(rows, parts, strict=True):
        if part.supersedes:
            model._default_manager.filter(id=row.id).update(supersedes_id=UUID(part.supersedes))


def _hands(who: Member, job: Job, document: JobDocument) -> None:
    """What hands did and people decided: marks, counts, ways, causes."""
    now = timezone.now()

    def fact(part: FactSection) -> dict[str, Any]:
        return _fact(who, job, part, now)

    back = document.withdrawn or WithdrawnSection()
    _create(Work, [
        Work(part=part.part, act=part.act, why=(part.why or "")[:200], withdrawn=taken_back, **fact(part))
        for part, taken_back in _all_of(document.works, back.works)
    ])  # fmt: skip
    _create(AddedStep, [
        AddedStep(operation={"driver": None} | part.operation.model_dump(exclude_none=True), after=part.after or "",
                  withdrawn=taken_back, **fact(part))
        for part, taken_back in _all_of(document.added, back.added)
    ])  # fmt: skip
    _create(Mark, [
        Mark(step=part.step, state=part.state, why=(part.why or "")[:200], **fact(part))
        for part in document.marks or ()
    ])  # fmt: skip
    _create(Count, [
        Count(step=part.step or "", what=part.what, key=part.key, state=part.state,
              count=1 if part.count is None else part.count, note=(part.note or "")[:300], **fact(part))
        for part in document.counts or ()
    ])  # fmt: skip
    _create(WayChoice, [
        WayChoice(also=part.also, avoid=part.avoid or [], through=part.through or [], **fact(part))
        for part in document.ways or ()
    ])  # fmt: skip
    _create(Dealing, [
        Dealing(what=what, document=_said_in_file(part), key=key_of(getattr(part, "number", None) or ""),
                withdrawn=taken_back, **fact(part))
        for what, key in DEALT.items()
        for part, taken_back in _all_of(getattr(document, key), getattr(back, key, None))
    ])  # fmt: skip
    causes = [
        Cause(kind=part.kind, fault=part.fault, severity=part.severity,
              heat_unexplained=bool(part.heat_unexplained), **fact(part))
        for part in document.causes or ()
    ]  # fmt: skip
    if not causes:
        only = {"workshop": who.workshop, "job": job, "by": who.person, "from_file": True, "at": now}
        causes = [
            Cause(kind="confirmed", fault=part.fault, severity=part.severity, **only)
            for part in document.confirmed or ()
        ]
    _create(Cause, causes)
