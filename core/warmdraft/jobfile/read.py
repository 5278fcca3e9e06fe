"""From a job document to the core's plain facts, with the first thing that is wrong named by its place."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any, TypeVar, get_args

from pydantic import ValidationError
from pydantic_core import ErrorDetails

from warmdraft.air import AirState
from warmdraft.checks import checks, reading_dimensions
from warmdraft.diagnosis import Case, FindingFact, ReadingFact
from warmdraft.errors import DocumentError, WarmdraftError
from warmdraft.jobfile.parts import Part, Quantity
from warmdraft.jobfile.runs import code_profile_of, run_of
from warmdraft.jobfile.schema import AirPart, FactPart, JobDocument, MachinePart, ReadingPart
from warmdraft.jobfile.vent_schema import VentPart
from warmdraft.machine import DEFAULT_PROFILE, ELEMENTS, Airway, Machine, profile
from warmdraft.meter import judge, supplies
from warmdraft.trend import trend_of
from warmdraft.units import Dimension, to_si
from warmdraft.vent import allowance_of, run_and_hood_drop_pa

_Fact = TypeVar("_Fact", bound=FactPart)
_Document = TypeVar("_Document", bound=Part)

#: The profile of a gas machine nobody has said more of.
GAS_PROFILE = "full-size-gas"
_LIMITS = ("cycling_opens", "cycling_closes", "high_limit_opens", "thermal_fuse_opens", "thermal_cutoff_opens")


@dataclass(frozen=True, slots=True)
class Job:
    """A job as read: the document it came from, and what the core computes with."""

    document: JobDocument
    machine: Machine
    air: AirState
    suppose: tuple[tuple[str, float | None], ...]

    def case(self, phase: str = "before") -> Case:
        """The facts in force of one phase."""
        return Case(
            machine=self.machine,
            air=self.air,
            circumstances=frozenset(self.document.circumstances or ()),
            complaints=frozenset(self.document.complaints or ()),
            readings=tuple(
                ReadingFact(
                    kind=part.kind,
                    value=reading_si(part),
                    heat_on=bool(part.heat_on),
                    instrument=part.instrument,
                    id=part.id,
                )
                for part in self._in_force(self.document.readings, phase)
            ),
            findings=(
                *(FindingFact(part.check, part.result, part.id)
                  for part in self._in_force(self.document.findings, phase)),
                *self._metered(phase),
                *self._logged(phase),
            ),
        )  # fmt: skip

    def _metered(self, phase: str) -> list[FindingFact]:
        """Verdicts on meter tests as findings; what has to be read again says nothing."""
        tests = self._in_force(self.document.meter, phase)
        return [
            FindingFact(f"meter_{part.part}", said, part.id)
            for part in tests
            if (said := AS_FINDING.get(judge(part.test(), self.supply).verdict)) is not None
        ]

    def _logged(self, phase: str) -> list[FindingFact]:
        """Shapes of logs as findings, where one shape is clear."""
        found = []
        for part in self._in_force(self.document.logs, phase):
            trend = trend_of(part.series())
            check = next((name for name, row in checks().items() if part.kind in row.logs), None)
            if check is not None and trend.probability[trend.shape] >= CLEAR_SHAPE:
                found.append(FindingFact(check, trend.shape, part.id))
        return found

    @property
    def supply(self) -> str:
        """The supply the meter's verdicts go by: as said, or as the machine's rating implies."""
        given = self.document.machine.supply if self.document.machine else None
        return given or supply_of(self.machine)

    def _in_force(self, facts: list[_Fact] | None, phase: str) -> list[_Fact]:
        parts = facts or []
        replaced = {part.supersedes for part in parts if part.supersedes}
        return [part for part in parts if (part.phase or "before") == phase and part.id not in replaced]


#: A log whose shape is less sure says nothing (own assumption).
CLEAR_SHAPE = 0.8
#: What a meter's verdict says as a finding; to be repeated says nothing.
AS_FINDING = {"good": "good", "working_as_meant": "good", "suspect": "suspect", "failed": "failed"}


def supply_of(machine: Machine) -> str:
    """The supply whose volts between legs come nearest the machine's rating."""
    rated = machine.heat.supply_voltage_v
    return min(supplies().values(), key=lambda supply: abs(supply.leg_leg_v - rated)).name


def _path(location: tuple[int | str, ...], at: str = "") -> str:
    path = "$"
    for step in (*location, *((at,) if at else ())):
        path += f"[{step}]" if isinstance(step, int) else f".{step}"
    return path


def _short(value: Any) -> str:
    text = repr(value)
    return text if len(text) <= 60 else text[:57] + "..."


_WANTED = {
    "missing": "is missing; give it",
    "model_type": "is not an object; give one in braces",
    "dict_type": "is not an object; give one in braces",
    "list_type": "is not a list; give one in brackets",
    "string_type": "is not text; give some in quotes",
    "bool_type": "is neither true nor false; give one of them",
    "int_type": "is not a whole number; give one",
    "int_from_float": "is not a whole number; give one",
    "float_type": "is not a number; give one",
    "finite_number": "is not a finite number; give one",
    "too_short": "has too few entries; give at least one",
    "string_too_short": "is empty; give some text",
}


def first_wrong(error: ValidationError) -> DocumentError:
    """The first thing pydantic found, in our words."""
    found: ErrorDetails = error.errors()[0]
    context, given = found.get("ctx", {}), found["input"]
    if found["type"] == "warm_draft":
        return DocumentError(_path(found["loc"], context["at"]), context["said"])
    if found["type"] == "missing":
        return DocumentError(_path(found["loc"]), _WANTED["missing"])
    if found["type"] == "literal_error":
        return DocumentError(_path(found["loc"]), f"{_short(given)} is not known; give {context['expected']}")
    wanted = _WANTED.get(found["type"], f"cannot be used: {found['msg']}")
    return DocumentError(_path(found["loc"]), f"{_short(given)} {wanted}")


def read_as(model: type[_Document], value: Any, what: str) -> _Document:
    """Check a parsed JSON value against a format. Raises DocumentError."""
    if not isinstance(value, Mapping):
        wanted = get_args(model.model_fields["format"].annotation)[0]
        raise DocumentError("$", f'{_short(value)} is not {what}; give an object with "format": "{wanted}"')
    try:
        return model.model_validate(value)
    except ValidationError as error:
        raise first_wrong(error) from None


def read_job_document(value: Any) -> JobDocument:
    """Check a parsed JSON value against the format of a job. Raises DocumentError."""
    document = read_as(JobDocument, value, "a job")
    _check_ids(document)
    return document


def _check_ids(document: JobDocument) -> None:
    facts: dict[str, list[FactPart]] = {
        "readings": list(document.readings or ()),
        "findings": list(document.findings or ()),
        "meter": list(document.meter or ()),
        "logs": list(document.logs or ()),
    }
    seen: set[str] = set()
    for key, parts in facts.items():
        for i, part in enumerate(parts):
            if part.id in seen:
                raise DocumentError(f"$.{key}[{i}].id", f"'{part.id}' stands twice; every fact has an id of its own")
            if part.id:
                seen.add(part.id)
    for key, parts in facts.items():
        after = {part.id: part.supersedes for part in parts if part.id}
        for i, part in enumerate(parts):
            if part.supersedes is None:
                continue
            where = f"$.{key}[{i}].supersedes"
            if part.supersedes not in after:
                raise DocumentError(where, f"'{part.supersedes}' is none of the {key}; name one of this file")
            walked: set[str] = set()
            at: str | None = part.supersedes
            while at is not None:
                if at == part.id or at in walked:
                    raise DocumentError(where, "goes round in a circle; a fact can only supersede an earlier one")
                walked.add(at)
                at = after.get(at)
    for key in ("circumstances", "complaints"):
        names = getattr(document, key) or []
        for i, name in enumerate(names):
            if name in names[:i]:
                raise DocumentError(f"$.{key}[{i}]", f"'{name}' stands twice; name it once")
    supposed = [part.fault for part in document.suppose or ()]
    for i, name in enumerate(supposed):
        if name in supposed[:i]:
            raise DocumentError(f"$.suppose[{i}].fault", f"'{name}' stands twice; suppose it once")


def read_job(value: Any) -> Job:
    """A parsed JSON value as a job. Raises DocumentError."""
    document = read_job_document(value)
    try:
        machine = machine_of(document.machine, document.vent)
        air = _air(document.air)
    except DocumentError:
        raise
    except WarmdraftError as error:
        raise DocumentError("$.machine", str(error)) from None
    suppose = tuple((part.fault, part.severity) for part in document.suppose or ())
    return Job(document, machine, air, suppose)


def _air(part: AirPart | None) -> AirState:
    if part is None:
        return AirState()
    given: dict[str, float] = {}
    if part.temperature:
        given["temperature_c"] = part.temperature.si("temperature")
    if part.pressure:
        given["pressure_pa"] = part.pressure.si("pressure")
    if part.relative_humidity is not None:
        given["relative_humidity"] = part.relative_humidity
    return AirState.of_room(**given) if given else AirState()


def _given(part: Part | None, dimensions: Mapping[str, Dimension], names: Mapping[str, str]) -> dict[str, Any]:
    """The keys of a part that were given, as SI, under the core's names."""
    values: dict[str, Any] = {}
    for key, dimension in dimensions.items():
        quantity: Quantity | None = getattr(part, key) if part else None
        if quantity is not None:
            values[names.get(key, key)] = quantity.si(dimension)
    return values


def machine_of(part: MachinePart | None, vent: VentPart | None) -> Machine:
    """A profile with what the document says differently."""
    part = part or MachinePart()
    name = part.profile or (GAS_PROFILE if part.energy == "gas" else DEFAULT_PROFILE)
    base = profile(name)
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


def _airway(base: Machine, part: MachinePart) -> Airway:
    airway = base.airway
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
    return replace(
        airway,
        drops_pa=tuple(drops[element] for element in ELEMENTS),
        fan=replace(airway.fan, **_given(given.fan, fan_dimensions, fan_names)),
        **own,
        **_given(given, {"rated_flow": "flow"}, {"rated_flow": "rated_flow_m3s"}),
    )


def _with_vent(machine: Machine, vent: VentPart) -> Machine:
    """The run's drop, and the hood's where it has one, from its pieces at rated flow."""
    try:
        run = run_of(vent)
        within = allowance_of(run, code_profile_of(vent)).within
        run_drop, hood_drop = run_and_hood_drop_pa(run, machine.airway.rated_flow_m3s)
        drops = dict(zip(ELEMENTS, machine.airway.drops_pa, strict=True))
        if run_drop > 0:
            drops["run"] = run_drop
        if hood_drop:
            drops["hood"] = hood_drop
        airway = replace(
            machine.airway, drops_pa=tuple(drops[element] for element in ELEMENTS), run_within_allowance=within
        )
    except WarmdraftError as error:
        raise DocumentError("$.vent", str(error)) from None
    return replace(machine, airway=airway)


def reading_si(part: ReadingPart) -> float:
    """A reading's number in its kind's canonical unit."""
    return to_si(part.value, part.unit, reading_dimensions()[part.kind])
