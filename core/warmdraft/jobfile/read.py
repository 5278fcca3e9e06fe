"""From a job document to the core's plain facts, with the first thing that is wrong named by its place."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

from warmdraft.air import AirState
from warmdraft.airway import reading_dimensions
from warmdraft.diagnosis import OTHER_KIND_SHARE, USUAL_VENT, Case, ReadingFact
from warmdraft.errors import DocumentError, WarmdraftError
from warmdraft.jobfile.facts import facts_of
from warmdraft.jobfile.parts import FactSection, Quantity, Section
from warmdraft.jobfile.runs import code_profile_of, run_of
from warmdraft.jobfile.schema import AirSection, JobDocument, MachineSection, ObservationSection
from warmdraft.jobfile.strict import read_as
from warmdraft.jobfile.upgrade import MOVED, upgraded
from warmdraft.jobfile.vent_schema import VentSection
from warmdraft.machine import DEFAULT_PROFILE, ELEMENTS, Airway, Machine, profile, profile_names
from warmdraft.proof import own_reference
from warmdraft.repair import act_of_step, name_of
from warmdraft.teardown import LINE, name_at, step_of
from warmdraft.units import Dimension, to_si
from warmdraft.vent import with_run
from warmdraft.work import JobFacts, Phase

#: The profile of a gas machine nobody has said more of.
GAS_PROFILE = "full-size-gas"
_LIMITS = ("cycling_opens", "cycling_closes", "high_limit_opens", "thermal_fuse_opens", "thermal_cutoff_opens")


@dataclass(frozen=True, slots=True)
class Job:
    """A job as read: the document it came from, its facts, and what it supposes."""

    document: JobDocument
    facts: JobFacts
    suppose: tuple[tuple[str, float | None], ...]

    @property
    def machine(self) -> Machine:
        """The machine, as its profile and the document say."""
        return self.facts.machine

    def case(self, phase: Phase = "before") -> Case:
        """The facts in force of one phase."""
        return self.facts.case(phase)


def read_job_document(value: Any) -> JobDocument:
    """Check a parsed JSON value against the format of a job, of whatever release. Raises DocumentError."""
    now = upgraded(value)
    try:
        document = read_as(JobDocument, now, "a job")
        _check_ids(document)
    except DocumentError as error:
        raise _where_it_stood(error) if now is not value else error from None
    return document


def _where_it_stood(error: DocumentError) -> DocumentError:
    """The error at its place in the file as it was given."""
    moved = any(error.path.startswith(f"$.{key}") for key in MOVED)
    return DocumentError(error.path.replace("$", "$.x-job", 1), error.message) if moved else error


def _check_ids(document: JobDocument) -> None:
    taken_back = document.withdrawn
    observed: dict[str, list[ObservationSection]] = {
        "readings": list(document.readings or ()),
        "findings": list(document.findings or ()),
        "meter": list(document.meter or ()),
        "logs": list(document.logs or ()),
        "sounds": list(document.sounds or ()),
    }
    withdrawn: dict[str, list[ObservationSection]] = {
        key: list(getattr(taken_back, key, None) or ()) if taken_back else [] for key in observed
    }
    everything: dict[str, Sequence[FactSection]] = {
        **observed,
        **{f"withdrawn.{key}": parts for key, parts in withdrawn.items()},
        "works": document.works or (),
        "withdrawn.works": (taken_back.works or ()) if taken_back else (),
        "added": document.added or (),
        "withdrawn.added": (taken_back.added or ()) if taken_back else (),
        "old_parts": document.old_parts or (),
        "withdrawn.old_parts": (taken_back.old_parts or ()) if taken_back else (),
        "parts": document.parts or (),
        "agreements": document.agreements or (),
        "withdrawn.agreements": (taken_back.agreements or ()) if taken_back else (),
        "lint": document.lint or (),
        "withdrawn.lint": (taken_back.lint or ()) if taken_back else (),
        "marks": document.marks or (),
        "counts": document.counts or (),
        "ways": document.ways or (),
        "causes": document.causes or (),
    }
    seen: set[str] = set()
    for where, facts in everything.items():
        for i, part in enumerate(facts):
            if part.id in seen:
                raise DocumentError(f"$.{where}[{i}].id", f"'{part.id}' stands twice; every fact has an id of its own")
            if part.id:
                seen.add(part.id)
    for key, parts in observed.items():
        _check_chain(key, parts, withdrawn[key])
    for key in ("circumstances", "complaints"):
        names = getattr(document, key) or []
        for i, name in enumerate(names):
            if name in names[:i]:
                raise DocumentError(f"$.{key}[{i}]", f"'{name}' stands twice; name it once")
    _check_works(document)
    supposed = [part.fault for part in document.suppose or ()]
    for i, name in enumerate(supposed):
        if name in supposed[:i]:
            raise DocumentError(f"$.suppose[{i}].fault", f"'{name}' stands twice; suppose it once")


def _check_works(document: JobDocument) -> None:
    """Raise where a line is ordered twice, or where what was declined is marked done."""
    ordered: set[str] = set()
    for i, part in enumerate(document.works or ()):
        name = name_of(part.part, part.act)
        if name in ordered:
            raise DocumentError(f"$.works[{i}]", f"'{part.act}' on '{part.part}' stands twice; order it once")
        ordered.add(name)
    latest = {mark.step: (i, mark.state) for i, mark in enumerate(document.marks or ())}
    for step, (i, state) in latest.items():
        mended = name_at("mend", step)
        act = act_of_step(mended) if mended is not None and state == "done" else None
        line = step_of(LINE, act.name) if act else ""
        _, decided = latest.get(line, (0, "undone"))
        if decided not in ("undone", "taken"):
            raise DocumentError(
                f"$.marks[{i}]",
                f"'{step}' is done, and '{line}' is {decided.replace('_', ' ')}; take one of the two back",
            )


def _check_chain(key: str, parts: list[ObservationSection], withdrawn: list[ObservationSection]) -> None:
    """Raise where a fact supersedes none of its kind, or itself in the end."""
    after = {part.id: part.supersedes for part in (*parts, *withdrawn) if part.id}
    rows = [(f"$.{key}[{i}].supersedes", part) for i, part in enumerate(parts)]
    rows += [(f"$.withdrawn.{key}[{i}].supersedes", part) for i, part in enumerate(withdrawn)]
    for where, part in rows:
        if part.supersedes is None:
            continue
        if part.supersedes not in after:
            raise DocumentError(where, f"'{part.supersedes}' is none of the {key}; name one of this file")
        walked: set[str] = set()
        at: str | None = part.supersedes
        while at is not None:
            if at == part.id or at in walked:
                raise DocumentError(where, "goes round in a circle; a fact can only supersede an earlier one")
            walked.add(at)
            at = after.get(at)


def read_job(value: Any) -> Job:
    """A parsed JSON value as a job. Raises DocumentError."""
    document = read_job_document(value)
    try:
        machine = machine_of(document.machine, document.vent)
        kinds = kinds_of(document.machine, document.vent)
        air = _air(document.air)
        machine = own_reference(machine, _measured_healthy(document.machine), air)
    except DocumentError:
        raise
    except WarmdraftError as error:
        raise DocumentError("$.machine", str(error)) from None
    suppose = tuple((part.fault, part.severity) for part in document.suppose or ())
    return Job(document, facts_of(document, machine, kinds, air), suppose)


def _measured_healthy(part: MachineSection | None) -> tuple[ReadingFact, ...]:
    """What this machine read when it was healthy."""
    rows = part.measured_healthy if part and part.measured_healthy else []
    return tuple(
        ReadingFact(row.kind, to_si(row.value, row.unit, reading_dimensions()[row.kind]), row.heat_on, row.instrument)
        for row in rows
    )


def _air(part: AirSection | None) -> AirState | None:
    if part is None:
        return None
    given: dict[str, float] = {}
    if part.temperature:
        given["temperature_c"] = part.temperature.si("temperature")
    if part.pressure:
        given["pressure_pa"] = part.pressure.si("pressure")
    if part.relative_humidity is not None:
        given["relative_humidity"] = part.relative_humidity
    return AirState.of_room(**given) if given else None


def _given(part: Section | None, dimensions: Mapping[str, Dimension], names: Mapping[str, str]) -> dict[str, Any]:
    """The keys of a part that were given, as SI, under the core's names."""
    values: dict[str, Any] = {}
    for key, dimension in dimensions.items():
        quantity: Quantity | None = getattr(part, key) if part else None
        if quantity is not None:
            values[names.get(key, key)] = quantity.si(dimension)
    return values


def _told_kinds(part: MachineSection) -> list[str]:
    """Profiles that a document names, or the usual one."""
    if part.profile:
        return [part.profile] if isinstance(part.profile, str) else part.profile
    return [GAS_PROFILE if part.energy == "gas" else DEFAULT_PROFILE]


def kinds_of(part: MachineSection | None, vent: VentSection | None) -> tuple[tuple[Machine, float], ...]:
    """Other machines it may be, with their shares: those of a list as likely as the first; where one is named, or none,
    all others of its energy together as often as a kind is mistaken. None where the document describes its airway."""
    part = part or MachineSection()
    if part.airway is not None:
        return ()
    told = _told_kinds(part)
    if len(told) > 1:
        others, share = told[1:], 1 / len(told)
    else:
        energy = machine_of(part, None).heat.energy
        others = [name for name in profile_names() if name != told[0] and profile(name).heat.energy == energy]
        share = OTHER_KIND_SHARE / max(len(others), 1)
    return tuple((machine_of(part.model_copy(update={"profile": name}), vent), share) for name in others)


def machine_of(part: MachineSection | None, vent: VentSection | None) -> Machine:
    """A profile with what the document says differently."""
    part = part or MachineSection()
    base = profile(_told_kinds(part)[0])
    heat = base.heat
    if part.energy and part.energy != heat.energy:  # the same cabinet sold with the other source of heat
        other = profile(GAS_PROFILE if part.energy == "gas" else DEFAULT_PROFILE).heat
        heat = replace(other, limits=heat.limits)
    if part.heat:
        limits = _given(part.heat.limits, dict.fromkeys(_LIMITS, "temperature"), {key: f"{key}_c" for key in _LIMITS})
        own_heat = _given(part.heat, {"power": "power", "supply_voltage": "voltage"},
                          {"power": "power_w", "supply_voltage": "supply_voltage_v"})  # fmt: skip
        heat = replace(heat, limits=replace(heat.limits, **limits), **own_heat)
    drive = base.drive
    if part.drive:
        lengths = ("motor_pulley_diameter", "drum_diameter", "roller_diameter", "idler_diameter", "belt_length")
        wheel = part.drive.wheel
        own = {
            key: getattr(wheel, key) for key in ("vanes", "speed_ratio") if wheel and getattr(wheel, key) is not None
        }
        drive = replace(
            drive,
            **own,
            **_given(part.drive, {"motor_speed": "rotation", **dict.fromkeys(lengths, "length")},
                     {"motor_speed": "motor_speed_rpm", **{key: f"{key}_m" for key in lengths}}),
        )  # fmt: skip
    machine = replace(
        base, heat=heat, drive=drive, layout=part.layout, age_years=part.age_years, airway=_airway(base, part)
    )
    if drive != base.drive and not (part.airway and part.airway.fan and part.airway.fan.wheel_speed):
        fan = replace(machine.airway.fan, wheel_speed_rpm=drive.motor_speed_rpm * drive.speed_ratio)
        machine = replace(machine, airway=replace(machine.airway, fan=fan))
    return _with_vent(machine, vent) if vent else machine


def _airway(base: Machine, part: MachineSection) -> Airway:
    airway = replace(base.airway, unknown=tuple(USUAL_VENT))
    if part.airway is None:
        return airway
    given = part.airway
    drops = dict(zip(ELEMENTS, airway.drops_pa, strict=True))
    drops |= _given(given.drop_at_rated_flow, dict.fromkeys(ELEMENTS, "pressure"), {})
    shares = given.leak_share
    own = {
        f"{seal}_share": getattr(shares, seal)
        for seal in ("drum_seal", "lint_duct_seal")
        if shares and getattr(shares, seal) is not None
    }
    fan_dimensions: dict[str, Dimension] = {
        "shutoff_pressure": "pressure", "free_flow": "flow", "wheel_speed": "rotation",
    }  # fmt: skip
    fan_names = {
        "shutoff_pressure": "shutoff_pressure_pa", "free_flow": "free_flow_m3s", "wheel_speed": "wheel_speed_rpm",
    }  # fmt: skip
    told = given.drop_at_rated_flow
    return replace(
        airway,
        unknown=tuple(element for element in airway.unknown if told is None or getattr(told, element) is None),
        drops_pa=tuple(drops[element] for element in ELEMENTS),
        fan=replace(airway.fan, **_given(given.fan, fan_dimensions, fan_names)),
        **own,
        **_given(given, {"rated_flow": "flow"}, {"rated_flow": "rated_flow_m3s"}),
    )


def _with_vent(machine: Machine, vent: VentSection) -> Machine:
    try:
        return with_run(machine, run_of(vent), code_profile_of(vent))
    except WarmdraftError as error:
        raise DocumentError("$.vent", str(error)) from None
