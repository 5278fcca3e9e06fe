"""Facts as clients give them, checked by the core's own rules before a service sees them."""

from typing import Any

from pydantic import ValidationError

from config.problems import Problem
from jobs.schemas_in import CauseIn, FindingIn, JobIn, ReadingIn
from warmdraft.checks import reading_dimensions
from warmdraft.errors import DocumentError, UnitError
from warmdraft.faults import circumstance_names, complaint_names, fault_names
from warmdraft.jobfile.read import first_wrong
from warmdraft.jobfile.schema import FaultPart, FindingPart, ReadingPart
from warmdraft.machine import profile_names
from warmdraft.teardown import layout_names
from warmdraft.units import UNITS, parse_typed


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
    try:
        value, unit = parse_typed(given.typed, dimension, given.unit)
    except UnitError as error:
        raise refuse("$.typed", str(error)) from None
    part = {"kind": given.kind, "value": value, "unit": unit}
    if given.instrument:
        part["instrument"] = given.instrument
    _checked(ReadingPart, part, {"value": "typed", "unit": "typed"})
    return {
        "kind": given.kind, "typed": given.typed, "value": value, "unit": unit, "instrument": given.instrument,
        "phase": given.phase, "heat_on": given.heat_on, "visit": given.visit, "supersedes_id": given.supersedes,
        "at": given.at,
    }  # fmt: skip


def finding_facts(given: FindingIn) -> dict[str, Any]:
    """Columns of a finding."""
    _checked(FindingPart, {"check": given.check, "result": given.result}, {})
    return {
        "check_name": given.check, "result": given.result, "why": given.why, "phase": given.phase,
        "heat_on": given.heat_on, "visit": given.visit, "supersedes_id": given.supersedes, "at": given.at,
    }  # fmt: skip


def cause_facts(given: CauseIn) -> dict[str, Any]:
    """Columns of a cause."""
    if given.fault not in fault_names():
        raise refuse("$.fault", f"'{given.fault}' is not a fault; give one of {', '.join(fault_names())}")
    part: dict[str, Any] = {"fault": given.fault}
    if given.severity is not None:
        part["severity"] = given.severity
    _checked(FaultPart, part, {})
    return {"kind": given.kind, "fault": given.fault, "severity": given.severity, "at": given.at}


def check_job(given: JobIn) -> None:
    """Names of a job that the core has to know."""
    for key, names in (("complaints", complaint_names()), ("circumstances", circumstance_names())):
        for i, name in enumerate(getattr(given, key)):
            if name not in names:
                raise refuse(f"$.{key}[{i}]", f"'{name}' is not known; give one of {', '.join(names)}")
            if name in getattr(given, key)[:i]:
                raise refuse(f"$.{key}[{i}]", f"'{name}' stands twice; name it once")
    if given.machine.profile not in profile_names():
        names_given = ", ".join(profile_names())
        raise refuse("$.machine.profile", f"'{given.machine.profile}' is not a profile; give one of {names_given}")
    if given.machine.layout and given.machine.layout not in layout_names():
        names_given = ", ".join(layout_names())
        raise refuse("$.machine.layout", f"'{given.machine.layout}' is not a layout; give one of {names_given}")
