"""Facts as clients give them, checked by the core's own rules before a service sees them."""

from typing import Any

from pydantic import ValidationError

from config.problems import Problem
from jobs.schemas_bench import CountIn
from jobs.schemas_in import CauseIn, FindingIn, JobIn, LogIn, MeterIn, ObservationIn, ReadingIn, SpeedsIn
from machines.layouts import known_name, unknown_choice
from people.may import Member
from warmdraft.checks import flow_of_bag, flow_of_centre, flow_of_traverse, reading_dimensions
from warmdraft.errors import DocumentError, UnitError, WarmdraftError
from warmdraft.faults import circumstance_names, complaint_names, fault_names
from warmdraft.jobfile.limits import check_limits
from warmdraft.jobfile.meter_schema import MeterTestPart
from warmdraft.jobfile.other_answers import run_verdict
from warmdraft.jobfile.read import first_wrong
from warmdraft.jobfile.schema import FaultPart, FindingPart, LogPart, ReadingPart
from warmdraft.jobfile.vent_schema import VentPart
from warmdraft.machine import profile_names
from warmdraft.teardown import STATES, layout_names
from warmdraft.trend import LOG_KINDS, read_csv
from warmdraft.units import UNITS, Dimension, parse_typed, to_si


def refuse(path: str, message: str) -> Problem:
    """What was given cannot be used: the field and the sentence."""
    return Problem(422, "not_possible", message, [{"path": path, "message": message}])


def _checked(part: type[Any], values: dict[str, Any], renamed: dict[str, str]) -> None:
    """Hold values against the file format's own rule for such a part."""
    try:
        part.model_validate(values)
    except ValidationError as error:
        wrong: DocumentError = first_wrong(error)
        path = wrong.path
        for name, given_as in renamed.items():
            path = path.replace(f"$.{name}", f"$.{given_as}")
        raise refuse(path, wrong.message) from None


def reading_facts(given: ReadingIn) -> dict[str, Any]:
    """Columns of a reading. "1.03 in" is parsed here; the typed text is kept beside."""
    dimensions = reading_dimensions()
    if given.kind not in dimensions:
        raise refuse("$.kind", f"'{given.kind}' is not a kind of reading; give one of {', '.join(dimensions)}")
    dimension = dimensions[given.kind]
    if given.unit not in UNITS[dimension].names:
        units = ", ".join(UNITS[dimension].names)
        raise refuse("$.unit", f"'{given.unit}' is not {UNITS[dimension].noun}; give one of {units}")
    instrument = given.instrument
    if given.speeds is not None:
        value, unit, instrument = _flow_of(given.speeds, dimension)
    else:
        try:
            value, unit = parse_typed(given.typed, dimension, given.unit)
        except UnitError as error:
            raise refuse("$.typed", str(error)) from None
    part = {"kind": given.kind, "value": value, "unit": unit}
    if instrument:
        part["instrument"] = instrument
    _checked(ReadingPart, part, {"value": "typed", "unit": "typed"})
    return {
        "kind": given.kind, "typed": given.typed, "value": value, "unit": unit, "instrument": instrument,
    } | _observed(given)  # fmt: skip


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


def finding_facts(given: FindingIn) -> dict[str, Any]:
    """Columns of a finding."""
    _checked(FindingPart, {"check": given.check, "result": given.result}, {})
    return {
        "check_name": given.check, "result": given.result, "why": given.why,
    } | _observed(given)  # fmt: skip


def _observed(given: ObservationIn) -> dict[str, Any]:
    return {
        "phase": given.phase, "heat_on": given.heat_on, "visit": given.visit, "supersedes_id": given.supersedes,
        "at": given.at,
    }  # fmt: skip


#: What a display or a needle shows that is no number, as people write it.
_OPEN = {"open", "ol", "o.l", "o.l.", "infinity", "∞"}


def _shown(given: MeterIn) -> Any:
    """What was typed of a meter: a word, or a number with its unit."""
    said = given.typed.strip().lower()
    if said in ("needle_at_infinity", "needle_at_zero"):
        return said
    if said in _OPEN:
        return "needle_at_infinity" if given.instrument == "analogue" else "open"
    either: tuple[Dimension, ...] = ("electrical_resistance", "voltage")
    for dimension in reversed(either) if given.unit == "V" else either:
        try:
            value, unit = parse_typed(given.typed, dimension, given.unit)
        except UnitError:
            continue
        if unit in UNITS[dimension].names:
            return {"value": value, "unit": unit}
    raise refuse("$.typed", f"'{given.typed}' is no reading of a meter; give a number such as '0.4 ohm', or 'open'")


def meter_facts(given: MeterIn) -> dict[str, Any]:
    """Columns of a meter test."""
    test: dict[str, Any] = {"instrument": given.instrument, "part_hot": given.part_hot, "reading": _shown(given)}
    if given.isolated is not None:
        test["isolated"] = given.isolated
    if given.lead_ohm is not None:
        test["lead_resistance"] = {"value": given.lead_ohm, "unit": "ohm"}
    if given.temperature:
        try:
            value, unit = parse_typed(given.temperature, "temperature", "degC")
        except UnitError as error:
            raise refuse("$.temperature", str(error)) from None
        test["temperature"] = {"value": value, "unit": unit}
    if given.rated_power_w is not None:
        test["rated_power"] = {"value": given.rated_power_w, "unit": "W"}
    if given.between is not None:
        test["between"] = given.between
    _checked(MeterTestPart, {"part": given.part} | test, {"reading": "typed", "lead_resistance": "lead_ohm"})
    return {"part": given.part, "typed": given.typed, "test": test} | _observed(given)


def log_facts(given: LogIn) -> dict[str, Any]:
    """Columns of a log. A CSV of several kinds is refused with their names: each is a log of its own."""
    if given.csv is not None:
        try:
            found = [series for series in read_csv(given.csv) if not given.kind or series.kind == given.kind]
        except DocumentError as error:
            raise refuse("$.csv", f"{error.path}: {error.message}") from None
        if len(found) != 1:
            kinds = ", ".join(series.kind for series in found) or f"nothing of {given.kind}"
            raise refuse("$.kind", f"the file holds {kinds}; say which one to take")
        kind, minutes, values = found[0].kind, list(found[0].minutes), list(found[0].values)
        unit = UNITS[LOG_KINDS[kind]].canonical
    else:
        kind, unit, minutes, values = given.kind, given.unit, given.minutes, given.values
    part: dict[str, Any] = {"kind": kind, "unit": unit, "minutes": minutes, "values": values}
    if given.instrument:
        part["instrument"] = given.instrument
    _checked(LogPart, part, {})
    return part | {"instrument": given.instrument} | _observed(given)


def checked_run(vent: dict[str, Any] | None) -> dict[str, Any] | None:
    """A run as drawn, held against the format and against what can be."""
    if vent is None:
        return None
    try:
        check_limits(vent)
        part = VentPart.model_validate(vent)
        run_verdict(part, part.flow.si("flow") if part.flow else 0.07)
    except ValidationError as error:
        wrong = first_wrong(error)
        raise refuse(wrong.path.replace("$", "$.vent", 1), wrong.message) from None
    except DocumentError as error:
        raise refuse("$.vent", error.message) from None
    return vent


def cause_facts(given: CauseIn) -> dict[str, Any]:
    """Columns of a cause."""
    if given.fault not in fault_names():
        raise refuse("$.fault", f"'{given.fault}' is not a fault; give one of {', '.join(fault_names())}")
    part: dict[str, Any] = {"fault": given.fault}
    if given.severity is not None:
        part["severity"] = given.severity
    _checked(FaultPart, part, {})
    return {"kind": given.kind, "fault": given.fault, "severity": given.severity, "at": given.at,
            "heat_unexplained": given.heat_unexplained}  # fmt: skip


def check_job(given: JobIn) -> None:
    """Names of a job that the core has to know."""
    for key, names in (("complaints", complaint_names()), ("circumstances", circumstance_names())):
        for i, name in enumerate(getattr(given, key)):
            if name not in names:
                raise refuse(f"$.{key}[{i}]", f"'{name}' is not known; give one of {', '.join(names)}")
            if name in getattr(given, key)[:i]:
                raise refuse(f"$.{key}[{i}]", f"'{name}' stands twice; name it once")
    for name in given.told:
        if name not in given.complaints:
            raise refuse(f"$.told.{name}", f"'{name}' is not complained of; name it among the complaints too")
    if given.machine.profile not in profile_names():
        names_given = ", ".join(profile_names())
        raise refuse("$.machine.profile", f"'{given.machine.profile}' is not a profile; give one of {names_given}")


def check_layout(who: Member, given: JobIn) -> None:
    """The machine's layout and what is said of its variant."""
    machine = given.machine
    if machine.layout and not known_name(who, machine.layout):
        names = ", ".join(layout_names())
        raise refuse("$.machine.layout", f"'{machine.layout}' is not a layout; give one of {names}")
    unknown = unknown_choice(machine.layout, machine.variant or {})
    if unknown is not None:
        raise refuse(f"$.machine.variant.{unknown}", "machines of this layout do not differ in that; leave it out")


def count_facts(given: CountIn) -> dict[str, Any]:
    """Columns of something counted."""
    if given.state not in STATES[given.what]:
        wanted = ", ".join(STATES[given.what])
        raise refuse("$.state", f"'{given.state}' is nothing to say of a {given.what}; give one of {wanted}")
    return given.dict()
