"""A job file back into the workshop: all of it, ids included, or nothing."""

import uuid
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from django.db import IntegrityError, transaction
from django.http import Http404
from django.utils import timezone
from pydantic import ValidationError

from config.problems import Problem
from config.slots import working
from jobs import queries, services
from jobs.happened import log
from jobs.models import Cause, Count, Finding, Job, Log, Mark, MeterTest, Reading, WayChoice
from jobs.to_core import job_document
from machines.layouts import known_name, unknown_choice
from people.may import Member
from warmdraft.checks import checks
from warmdraft.errors import DocumentError
from warmdraft.faults import fault_names
from warmdraft.jobfile import Job as CoreJob
from warmdraft.jobfile import parse_json, read_job
from warmdraft.jobfile.meter_schema import MeterTestPart
from warmdraft.jobfile.read import first_wrong
from warmdraft.jobfile.schema import FaultPart
from warmdraft.moments import moment_of
from warmdraft.teardown import STATES, layout_names
from warmdraft.work import qualification_of

#: Keys of a file that rows hold; everything else is kept as it came.
_HELD = {
    "format", "version", "title", "machine", "circumstances", "complaints", "readings", "findings", "meter", "logs",
    "confirmed", "x-job",
}  # fmt: skip


#: Keys of a meter test that say what was tested, not who and when.
_METER_KEYS = {name for name in MeterTestPart.model_fields if name != "part"}


class _OwnPart:
    """Reads our own x-job, which the format leaves free, with errors that name the place."""

    def __init__(self, value: Any, path: str) -> None:
        if not isinstance(value, dict):
            raise DocumentError(path, f"{value!r} is not an object; leave the key out or give one")
        self.value, self.path = value, path

    def text(self, key: str, most: int, otherwise: str = "") -> str:
        value = self.value.get(key, otherwise)
        if not isinstance(value, str) or len(value) > most:
            raise DocumentError(f"{self.path}.{key}", f"{value!r} is not a text of at most {most} characters")
        return value

    def uuid(self, key: str) -> UUID:
        if key not in self.value:
            return uuid.uuid4()
        try:
            return UUID(self.text(key, 60))
        except ValueError:
            raise DocumentError(f"{self.path}.{key}", f"{self.value[key]!r} is not a UUID") from None

    def moment(self, key: str) -> datetime:
        if key not in self.value:
            return timezone.now()
        try:
            return moment_of(self.text(key, 60))
        except ValueError as error:
            raise DocumentError(f"{self.path}.{key}", str(error)) from None

    def part(self, key: str) -> "_OwnPart":
        return _OwnPart(self.value.get(key, {}), f"{self.path}.{key}")

    def parts(self, key: str) -> list["_OwnPart"]:
        values = self.value.get(key, [])
        if not isinstance(values, list):
            raise DocumentError(f"{self.path}.{key}", "is not a list; leave it out or give one")
        return [_OwnPart(value, f"{self.path}.{key}[{i}]") for i, value in enumerate(values)]

    def one_of(self, key: str, names: tuple[str, ...], otherwise: str | None = None) -> str:
        value = self.value.get(key, otherwise)
        if value not in names:
            raise DocumentError(f"{self.path}.{key}", f"{value!r} is not known; give one of {', '.join(names)}")
        return str(value)


@dataclass(frozen=True, slots=True)
class Prepared:
    """A file that was read and found sound."""

    parsed: dict[str, Any]
    core: CoreJob
    own: _OwnPart


def prepared(who: Member, data: bytes) -> tuple[UUID, Prepared]:
    """Read a file and check all that needs no database; the id of its job."""
    who.require("import_a_job")
    with working:
        parsed = parse_json(data)
        core = read_job(parsed)
    own = _OwnPart(parsed.get("x-job", {}), "$.x-job")
    _require_qualified(who, parsed, own)
    return own.uuid("id"), Prepared(parsed, core, own)


def _require_qualified(who: Member, parsed: dict[str, Any], own: _OwnPart) -> None:
    """What is work for the qualified is brought in only by someone who could have recorded it."""
    for part in parsed.get("readings", []):
        who.require_qualified(checks()[part["kind"]].qualified)
    for part in parsed.get("meter", []):
        who.require_qualified(checks()[f"meter_{part['part']}"].qualified)
    for part in parsed.get("logs", []):
        services.require_qualified_to_log(who, part["kind"])
    for part in own.parts("marks"):
        if part.value.get("state") == "done":
            who.require_qualified(qualification_of(part.text("step", 80)))


def bring_in(who: Member, job_id: UUID, file: Prepared) -> None:
    """Bring a job in from a file. The same file twice is the same job; a damaged one writes nothing.

    A place or a machine that is known here stays as it is: a file is as old as it is.
    """
    parsed, core, own = file.parsed, file.core, file.own
    machine = core.document.machine
    place_part, machine_part = own.part("place"), own.part("machine")
    layout = (machine.layout if machine else None) or ""
    if layout and not known_name(who, layout):
        raise DocumentError(
            "$.machine.layout", f"'{layout}' is no layout here; give one of {', '.join(layout_names())}"
        )
    with transaction.atomic():
        services.hold_id(job_id)
        if queries.job_exists(job_id):
            _same_or_conflict(who, job_id, parsed)
            return
        services.put_job(
            who,
            job_id,
            services.JobFactsGiven(
                title=(parsed.get("title") or "")[:200],
                complaints=parsed.get("complaints", []),
                circumstances=parsed.get("circumstances", []),
                told=_told(own, parsed.get("complaints", [])),
                said=own.text("said", 4000),
                booked_for=own.moment("booked_for"),
                given={key: value for key, value in parsed.items() if key not in _HELD},
            ),
            services.MachineFacts(
                id=machine_part.uuid("id"),
                name=machine_part.text("name", 120),
                profile=core.machine.profile,
                layout=layout,
                energy=core.machine.heat.energy,
                supply=machine_part.one_of("supply", ("plug", "hard_wired"), "plug"),
                variant=_variant(machine_part, layout),
                age_years=core.machine.age_years,
                data_plate={k: v for k, v in parsed.get("machine", {}).items() if k in ("airway", "heat", "drive")},
                as_known=True,
            ),
            services.PlaceFacts(
                id=place_part.uuid("id"),
                name=place_part.text("name", 120, "From a file"),
                address=place_part.text("address", 200),
                contact=place_part.text("contact", 120),
                as_known=True,
            ),
            None,
            timezone.now(),
        )
        job = queries.bare_job_of(who, job_id)
        try:
            with transaction.atomic():
                _facts(who, job, parsed)
                _marks_and_causes(who, job, own, parsed)
                _bench(who, job, own)
        except IntegrityError:  # an id of these was taken by somebody else meanwhile
            raise Http404 from None
        log(who, job, "job_imported", timezone.now(), after={"id": str(job_id)})


def _same_or_conflict(who: Member, job_id: UUID, parsed: dict[str, Any]) -> None:
    recorded = job_document(queries.job_of(who, job_id))  # 404 where the id is another workshop's
    if recorded == parsed:
        return
    differs = sorted(key for key in {*recorded, *parsed} if recorded.get(key) != parsed.get(key))
    raise Problem(
        409,
        "already_here",
        f"This job is here already and differs in {', '.join(differs)}; nothing was changed.",
        [{"path": f"$.{key}", "message": "differs from what is recorded"} for key in differs],
    )


def _observation(who: Member, job: Job, part: dict[str, Any]) -> dict[str, Any]:
    by = part.get("by", "")
    return {
        "workshop": who.workshop,
        "job": job,
        "by": who.person,
        "by_name": "" if by == who.person.name else by[:120],
        "id": UUID(part["id"]) if "id" in part else uuid.uuid4(),
        "phase": part.get("phase", "before"),
        "heat_on": part.get("heat_on", False),
        "visit": UUID(part["visit"]) if "visit" in part else None,
        "at": moment_of(part["at"]) if "at" in part else timezone.now(),
        "from_file": True,
    }


def _not_in_use(model: type[Any], ids: list[UUID]) -> None:
    """Raise 404 for an id that is in use elsewhere."""
    if model._default_manager.filter(id__in=ids).exists():
        raise Http404


def _facts(who: Member, job: Job, parsed: dict[str, Any]) -> None:
    readings = [
        Reading(
            kind=part["kind"],
            value=part["value"],
            unit=part["unit"],
            instrument=part.get("instrument", ""),
            typed=str(part.get("x-typed", ""))[:60],
            **_observation(who, job, part),
        )
        for part in parsed.get("readings", [])
    ]
    findings = [
        Finding(
            check_name=part["check"],
            result=part["result"],
            why=str(part.get("x-why", ""))[:200],
            **_observation(who, job, part),
        )
        for part in parsed.get("findings", [])
    ]
    meter = [
        MeterTest(
            part=part["part"],
            typed=str(part.get("x-typed", ""))[:60],
            test={key: value for key, value in part.items() if key in _METER_KEYS},
            **_observation(who, job, part),
        )
        for part in parsed.get("meter", [])
    ]
    logs = [
        Log(
            kind=part["kind"], unit=part["unit"], minutes=part["minutes"], values=part["values"],
            instrument=part.get("instrument", ""), **_observation(who, job, part),
        )
        for part in parsed.get("logs", [])
    ]  # fmt: skip
    for model, rows, parts in (
        (Reading, readings, "readings"), (Finding, findings, "findings"), (MeterTest, meter, "meter"),
        (Log, logs, "logs"),
    ):  # fmt: skip
        _not_in_use(model, [row.id for row in rows])
        model._default_manager.bulk_create(rows)  # type: ignore[arg-type]
        for row, part in zip(rows, parsed.get(parts, []), strict=True):
            if "supersedes" in part:
                model._default_manager.filter(id=row.id).update(supersedes_id=UUID(part["supersedes"]))


def _told(own: _OwnPart, complaints: list[str]) -> dict[str, dict[str, str]]:
    told = own.part("told")
    return {
        name: {
            key: told.part(name).text(key, most) for key, most in (("since", 120), ("how_often", 120), ("what", 400))
        }
        for name in complaints
        if name in told.value
    }


def _variant(part: _OwnPart, layout: str) -> dict[str, str] | None:
    told = part.value.get("variant")
    if not told:
        return None
    if (
        not isinstance(told, dict)
        or not all(isinstance(answer, str) for answer in told.values())
        or unknown_choice(layout, told) is not None
    ):
        raise DocumentError(f"{part.path}.variant", "machines of this layout do not differ in that; leave it out")
    return told


def _bench(who: Member, job: Job, own: _OwnPart) -> None:
    common = {"workshop": who.workshop, "job": job, "by": who.person, "from_file": True}
    counts, ways = own.parts("counts"), own.parts("ways")
    services.not_too_many(Count, len(counts))
    services.not_too_many(WayChoice, len(ways))
    _not_in_use(Count, [part.uuid("id") for part in counts])
    _not_in_use(WayChoice, [part.uuid("id") for part in ways])
    for part in counts:
        what = part.one_of("what", tuple(STATES))
        number = part.value.get("count", 1)
        if not isinstance(number, int) or isinstance(number, bool) or not 0 <= number <= 500:
            raise DocumentError(f"{part.path}.count", f"{number!r} is no count; give one from 0 to 500")
        Count.objects.create(
            id=part.uuid("id"), step=part.text("step", 80), what=what, key=part.text("key", 200),
            state=part.one_of("state", STATES[what]), count=number, note=part.text("note", 300), at=part.moment("at"),
            **common,
        )  # fmt: skip
    for part in ways:
        names = {key: part.value.get(key, []) for key in ("also", "avoid", "through")}
        for key, value in names.items():
            if not isinstance(value, list) or len(value) > 200 or not all(isinstance(name, str) for name in value):
                raise DocumentError(f"{part.path}.{key}", "is no list of names; give one, or leave it out")
        WayChoice.objects.create(id=part.uuid("id"), at=part.moment("at"), **names, **common)


def _severity(part: _OwnPart, severity: Any) -> float | None:
    if severity is None:
        return None
    try:
        return FaultPart.model_validate({"fault": part.value.get("fault"), "severity": severity}).severity
    except ValidationError as error:
        raise DocumentError(f"{part.path}.severity", first_wrong(error).message) from None


def _marks_and_causes(who: Member, job: Job, own: _OwnPart, parsed: dict[str, Any]) -> None:
    common = {"workshop": who.workshop, "job": job, "by": who.person, "from_file": True}
    marks, causes = own.parts("marks"), own.parts("causes")
    services.not_too_many(Mark, len(marks))
    services.not_too_many(Cause, len(causes))
    _not_in_use(Mark, [part.uuid("id") for part in marks])
    _not_in_use(Cause, [part.uuid("id") for part in causes])
    for part in marks:
        Mark.objects.create(
            id=part.uuid("id"),
            step=part.text("step", 80),
            state=part.one_of("state", ("done", "undone", "not_possible")),
            why=part.text("why", 200),
            at=part.moment("at"),
            **common,
        )
    for part in causes:
        severity = part.value.get("severity")
        Cause.objects.create(
            id=part.uuid("id"),
            kind=part.one_of("kind", ("working", "proposed", "confirmed")),
            fault=part.one_of("fault", fault_names()),
            heat_unexplained=part.value.get("heat_unexplained") is True,
            severity=_severity(part, severity),
            at=part.moment("at"),
            **common,
        )
    if not causes:
        for confirmed in parsed.get("confirmed", []):
            Cause.objects.create(
                kind="confirmed", fault=confirmed["fault"], severity=confirmed.get("severity"), at=timezone.now(),
                **common,
            )  # fmt: skip
