"""Facts as clients give them, checked by the core's own rules before a service sees them."""

from collections.abc import Callable
from typing import Any
from uuid import UUID

from pydantic import ValidationError

from jobs.facts.bodies import (
    AddedIn,
    CauseIn,
    CountIn,
    FindingIn,
    JobIn,
    LogIn,
    MachineIn,
    MarkIn,
    MeterIn,
    ObservationIn,
    PhotoNoteIn,
    PlateIn,
    ReadingIn,
    SpeedsIn,
    TrialsIn,
    WayIn,
    WorkIn,
)
from jobs.facts.values import (
    AddedValues,
    CauseValues,
    CountValues,
    FindingValues,
    LogValues,
    MachineValues,
    MarkValues,
    MeterValues,
    PhotoNoteValues,
    ReadingValues,
    WayValues,
    WorkValues,
)
from machines.layouts import known_name, unknown_choice
from people.may import Member
from shared.problems import ApiError
from warmdraft.airway import reading_dimensions
from warmdraft.checks import flow_of_bag, flow_of_centre, flow_of_traverse
from warmdraft.errors import DocumentError, UnitError, VentError, WarmdraftError
from warmdraft.faults import circumstance_names, complaint_names, fault_names
from warmdraft.jobfile import drawn_run, first_wrong
from warmdraft.jobfile.hands_schema import AddedSection, MarkSection, WorkSection
from warmdraft.jobfile.limits import check_limits
from warmdraft.jobfile.meter_schema import MeterTestSection
from warmdraft.jobfile.plan_schema import PlanSection
from warmdraft.jobfile.schema import FaultSection, FindingSection, HeatSection, LogSection, ReadingSection
from warmdraft.jobfile.vent_schema import VentSection
from warmdraft.machine import Drive, profile_names
from warmdraft.teardown import STATES, key_of, layout_names, modern_step
from warmdraft.trend import LOG_KINDS, read_csv
from warmdraft.units import UNITS, Dimension, parse_typed, to_si
from warmdraft.vent import judge_run


def refuse(path: str, message: str) -> ApiError:
    """What was body cannot be used: the field and the sentence."""
    return ApiError(422, "not_possible", message, [{"path": path, "message": message}])


def checked(part: type[Any], values: dict[str, Any], renamed: dict[str, str]) -> None:
    """Hold values against the file format's own rule for such a part."""
    try:
        part.model_validate(values)
    except ValidationError as error:
        wrong: DocumentError = first_wrong(error)
        path = wrong.path
        for name, key_in_body in renamed.items():
            path = path.replace(f"$.{name}", f"$.{key_in_body}")
        raise refuse(path, wrong.message) from None


def reading_values(body: ReadingIn) -> ReadingValues:
    """Columns of a reading. "1.03 in" is parsed here; the typed text is kept beside."""
    dimensions = reading_dimensions()
    if body.kind not in dimensions:
        raise refuse("$.kind", f"'{body.kind}' is not a kind of reading; give one of {', '.join(dimensions)}")
    dimension = dimensions[body.kind]
    if body.unit not in UNITS[dimension].names:
        units = ", ".join(UNITS[dimension].names)
        raise refuse("$.unit", f"'{body.unit}' is not {UNITS[dimension].noun}; give one of {units}")
    instrument = body.instrument
    if body.speeds is not None:
        value, unit, instrument = _flow_of(body.speeds, dimension)
    else:
        try:
            value, unit = parse_typed(body.typed, dimension, body.unit)
        except UnitError as error:
            raise refuse("$.typed", str(error)) from None
    part = {"kind": body.kind, "value": value, "unit": unit}
    if instrument:
        part["instrument"] = instrument
    checked(ReadingSection, part, {"value": "typed", "unit": "typed"})
    return ReadingValues(
        kind=body.kind, typed=body.typed, value=value, unit=unit, instrument=instrument, **_observed(body)
    )


#: The instrument that a way of taking speeds amounts to.
_AS_INSTRUMENT = {
    "traverse": "anemometer_traverse", "centre": "anemometer_centre", "near_bend": "anemometer_near_bend",
    "bag": "bag_and_watch",
}  # fmt: skip


def _flow_of(speeds: SpeedsIn, dimension: Dimension) -> tuple[float, str, str]:
    """Flow from air speeds: value, unit, instrument."""
    if dimension != "flow":
        raise refuse("$.speeds", "speeds give a flow; leave them out of a reading that is none")
    if min(speeds.values) <= 0:
        raise refuse("$.speeds.values", f"{min(speeds.values):g} is nothing that air does; give what was read")
    if speeds.method == "bag":
        return flow_of_bag(speeds.values, speeds.litres), "m3/s", _AS_INSTRUMENT["bag"]
    try:
        bore, unit = parse_typed(speeds.bore, "length", "in")
        bore_m = to_si(bore, unit, "length")
        metres_a_second = [to_si(value, speeds.unit, "air_speed") for value in speeds.values]
        if not 0.02 <= bore_m <= 0.5:
            raise UnitError(f"'{speeds.bore}' is no bore of a dryer's duct; give one such as '4 in'")
    except UnitError as error:
        raise refuse("$.speeds", str(error)) from None
    try:
        if speeds.method == "traverse":
            flow = flow_of_traverse(metres_a_second, bore_m)
        else:
            flow = flow_of_centre(sum(metres_a_second) / len(metres_a_second), bore_m)
    except WarmdraftError as error:
        raise refuse("$.speeds.values", str(error)) from None
    return flow, "m3/s", _AS_INSTRUMENT[speeds.method]


def finding_values(body: FindingIn) -> FindingValues:
    """Columns of a finding."""
    checked(FindingSection, {"check": body.check, "result": body.result}, {})
    return FindingValues(check_name=body.check, result=body.result, why=body.why, **_observed(body))


def _observed(body: ObservationIn) -> dict[str, Any]:
    return {
        "phase": body.phase, "heat_on": body.heat_on, "visit": body.visit, "supersedes_id": body.supersedes,
        "at": body.at,
    }  # fmt: skip


#: What a display or a needle shows that is no number, as people write it.
_OPEN = {"open", "ol", "o.l", "o.l.", "infinity", "∞"}


def _shown(body: MeterIn) -> Any:
    """What was typed of a meter: a word, or a number with its unit."""
    said = body.typed.strip().lower()
    if said in ("needle_at_infinity", "needle_at_zero"):
        return said
    if said in _OPEN:
        return "needle_at_infinity" if body.instrument == "analogue" else "open"
    either: tuple[Dimension, ...] = ("electrical_resistance", "voltage")
    for dimension in reversed(either) if body.unit == "V" else either:
        try:
            value, unit = parse_typed(body.typed, dimension, body.unit)
        except UnitError:
            continue
        if unit in UNITS[dimension].names:
            return {"value": value, "unit": unit}
    raise refuse("$.typed", f"'{body.typed}' is no reading of a meter; give a number such as '0.4 ohm', or 'open'")


def meter_values(body: MeterIn) -> MeterValues:
    """Columns of a meter test."""
    test: dict[str, Any] = {"instrument": body.instrument, "part_hot": body.part_hot, "reading": _shown(body)}
    if body.isolated is not None:
        test["isolated"] = body.isolated
    if body.lead_ohm is not None:
        test["lead_resistance"] = {"value": body.lead_ohm, "unit": "ohm"}
    if body.temperature:
        try:
            value, unit = parse_typed(body.temperature, "temperature", "degC")
        except UnitError as error:
            raise refuse("$.temperature", str(error)) from None
        test["temperature"] = {"value": value, "unit": unit}
    if body.rated_power_w is not None:
        test["rated_power"] = {"value": body.rated_power_w, "unit": "W"}
    if body.between is not None:
        test["between"] = body.between
    checked(MeterTestSection, {"part": body.part} | test, {"reading": "typed", "lead_resistance": "lead_ohm"})
    return MeterValues(part=body.part, typed=body.typed, test=test, **_observed(body))


def log_values(body: LogIn) -> LogValues:
    """Columns of a log. A CSV of several kinds is refused with their names: each is a log of its own."""
    if body.csv is not None:
        try:
            found = [series for series in read_csv(body.csv) if not body.kind or series.kind == body.kind]
        except DocumentError as error:
            raise refuse("$.csv", f"{error.path}: {error.message}") from None
        if len(found) != 1:
            kinds = ", ".join(series.kind for series in found) or f"nothing of {body.kind}"
            raise refuse("$.kind", f"the file holds {kinds}; say which one to take")
        kind, minutes, values = found[0].kind, list(found[0].minutes), list(found[0].values)
        unit = UNITS[LOG_KINDS[kind]].canonical
    else:
        kind, unit, minutes, values = body.kind, body.unit, body.minutes, body.values
    part: dict[str, Any] = {"kind": kind, "unit": unit, "minutes": minutes, "values": values}
    if body.instrument:
        part["instrument"] = body.instrument
    checked(LogSection, part, {})
    return LogValues(
        kind=kind, unit=unit, minutes=minutes, values=values, instrument=body.instrument, **_observed(body)
    )


#: A flow to try a run at that says none, m³/s.
_ANY_FLOW_M3S = 0.07


def checked_run(vent: dict[str, Any] | None) -> dict[str, Any] | None:
    """A run as drawn, held against the format and against what can be."""

    def tried(given: dict[str, Any]) -> None:
        drawn = drawn_run(VentSection.model_validate(given))
        judge_run(drawn.run, drawn.flow_m3s or _ANY_FLOW_M3S, drawn.code_profile, drawn.air_temperature_c)

    return _checked_drawing("$.vent", vent, tried)


def checked_plan(plan: dict[str, Any] | None) -> dict[str, Any] | None:
    """The plan of a new run as drawn, held against its shape."""
    return _checked_drawing("$.plan", plan, lambda given: PlanSection.model_validate(given).new_run())


def _checked_drawing(
    place: str, drawn: dict[str, Any] | None, tried: Callable[[dict[str, Any]], object]
) -> dict[str, Any] | None:  # fmt: skip
    if drawn is None:
        return None
    try:
        check_limits(drawn)
        tried(drawn)
    except ValidationError as error:
        wrong = first_wrong(error)
        raise refuse(wrong.path.replace("$", place, 1), wrong.message) from None
    except (DocumentError, VentError) as error:
        raise refuse(place, getattr(error, "message", str(error))) from None
    return drawn


def cause_values(body: CauseIn) -> CauseValues:
    """Columns of a cause."""
    if body.fault not in fault_names():
        raise refuse("$.fault", f"'{body.fault}' is not a fault; give one of {', '.join(fault_names())}")
    part: dict[str, Any] = {"fault": body.fault}
    if body.severity is not None:
        part["severity"] = body.severity
    checked(FaultSection, part, {})
    return CauseValues(
        kind=body.kind, fault=body.fault, severity=body.severity, heat_unexplained=body.heat_unexplained, at=body.at
    )


def check_job(body: JobIn) -> None:
    """Names of a job that the core has to know."""
    for key, names in (("complaints", complaint_names()), ("circumstances", circumstance_names())):
        for i, name in enumerate(getattr(body, key)):
            if name not in names:
                raise refuse(f"$.{key}[{i}]", f"'{name}' is not known; give one of {', '.join(names)}")
            if name in getattr(body, key)[:i]:
                raise refuse(f"$.{key}[{i}]", f"'{name}' stands twice; name it once")
    for name in body.told:
        if name not in body.complaints:
            raise refuse(f"$.told.{name}", f"'{name}' is not complained of; name it among the complaints too")
    if body.machine.profile not in profile_names():
        names_given = ", ".join(profile_names())
        raise refuse("$.machine.profile", f"'{body.machine.profile}' is not a profile; give one of {names_given}")


def check_layout(who: Member, body: JobIn) -> None:
    """The machine's layout and what is said of its variant."""
    machine = body.machine
    if machine.layout and not known_name(who, machine.layout):
        names = ", ".join(layout_names())
        raise refuse("$.machine.layout", f"'{machine.layout}' is not a layout; give one of {names}")
    unknown = unknown_choice(machine.layout, machine.variant or {})
    if unknown is not None:
        raise refuse(f"$.machine.variant.{unknown}", "machines of this layout do not differ in that; leave it out")


#: Where a rating plate stands in a machine's part of a file: what is only typed, and what the machine is reckoned by.
PLATE = "x-plate"


def machine_values(body: MachineIn) -> MachineValues:
    """A machine as a client gives it; what its rating plate says goes with what differs from its profile."""
    given = body.dict() | {"data_plate": None if body.plate is None else _plate(body.plate)}
    del given["plate"]
    return MachineValues(**given)


def _plate(plate: PlateIn) -> dict[str, Any]:
    heat = {}
    if plate.heater_watts is not None:
        heat["power"] = {"value": plate.heater_watts, "unit": "W"}
    if plate.volts is not None:
        heat["supply_voltage"] = {"value": plate.volts, "unit": "V"}
    checked(HeatSection, heat, {"power": "machine.plate.heater_watts", "supply_voltage": "machine.plate.volts"})
    typed = {"number": plate.number.strip(), "amps": plate.amps}
    # null takes back what stood there
    return {PLATE: {key: said for key, said in typed.items() if said} or None, "heat": heat or None}


def mark_values(body: MarkIn) -> MarkValues:
    """Columns of a mark."""
    checked(MarkSection, given({"step": body.step, "state": body.state, "why": body.why}), {})
    return MarkValues(step=body.step, state=body.state, why=body.why, at=body.at)


def added_values(body: AddedIn) -> AddedValues:
    """Columns of an operation that stands in no layout."""
    try:
        check_limits(body.operation)
    except DocumentError as error:
        raise refuse(error.path.replace("$", "$.operation", 1), error.message) from None
    part: dict[str, Any] = {"operation": body.operation} | given({"after": body.after})
    checked(AddedSection, part, {})
    return AddedValues(operation=body.operation, after=body.after, at=body.at)


def work_values(body: WorkIn) -> WorkValues:
    """Columns of an order."""
    checked(WorkSection, given({"part": body.part, "act": body.act, "why": body.why}), {})
    return WorkValues(part=body.part, act=body.act, why=body.why, at=body.at)


def balance_document(body: TrialsIn, drive: Drive) -> dict[str, Any]:
    """Runs with trial masses as the core reads them; speed and vanes as of this drive, where they are not counted."""
    return {
        "format": "warm-draft/balance", "version": 1,
        "vanes": body.vanes or drive.vanes,
        "radius": {"value": body.radius_mm, "unit": "mm"},
        "speed": {"value": drive.motor_speed_rpm * drive.speed_ratio, "unit": "rpm"},
        "runs": [
            {"mass": {"value": run.grams, "unit": "g"}, "vane": run.vane, "amplitude": run.amplitude,
             "phase_deg": run.phase_deg}
            for run in body.runs
        ],
    }  # fmt: skip


def photo_note_values(photo_id: UUID, body: PhotoNoteIn) -> PhotoNoteValues:
    """Columns of what is said of a photo; each wire is at one place of it."""
    keys = [mark.key for mark in body.wires]
    twice = next((i for i, key in enumerate(keys) if key in keys[:i]), None)
    if twice is not None:
        raise refuse(f"$.wires[{twice}].key", f"'{keys[twice]}' is marked already; give each wire once")
    return PhotoNoteValues(
        photo_id=photo_id, on_record=body.on_record, wires=[mark.dict() for mark in body.wires], at=body.at
    )


def given(part: dict[str, str]) -> dict[str, str]:
    """Without what says nothing."""
    return {key: value for key, value in part.items() if value}


def count_values(body: CountIn) -> CountValues:
    """Columns of something counted; a client of an earlier release names things by words instead of codes."""
    if body.state not in STATES[body.what]:
        wanted = ", ".join(STATES[body.what])
        raise refuse("$.state", f"'{body.state}' is nothing to say of a {body.what}; give one of {wanted}")
    return CountValues(
        step=modern_step(body.step), what=body.what, key=key_of(body.what, body.key), state=body.state,
        count=body.count, note=body.note, at=body.at,
    )  # fmt: skip


def way_values(body: WayIn) -> WayValues:
    """Columns of what is wanted of the way in."""
    return WayValues(also=body.also, avoid=body.avoid, through=body.through, at=body.at)
