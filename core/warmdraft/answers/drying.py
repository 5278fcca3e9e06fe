"""The drying of a load: what it takes, what trips, its trace."""

from __future__ import annotations

from dataclasses import dataclass

from warmdraft.answers.quantity import Quantity, quantity
from warmdraft.diagnosis import conditions_of
from warmdraft.errors import DocumentError
from warmdraft.faults import supposed_state
from warmdraft.heat import DryingRun, Load, dry, drying_case
from warmdraft.heat.drying import DRY_MOISTURE
from warmdraft.jobfile import Job


@dataclass(slots=True)
class TripAnswer:
    """A thermostat or one-shot part that opened."""

    limit: str
    minute: float


@dataclass(slots=True)
class DryAnswer:
    """One run of a load; minutes: null with stopped_by where it never gets dry."""

    minutes: float | None
    stopped_by: str | None
    energy: Quantity
    heat_energy: Quantity
    trips: list[TripAnswer]


def trip_answers(run: DryingRun) -> list[TripAnswer]:
    """What opened, in order."""
    return [TripAnswer(trip.limit, trip.minute) for trip in run.trips]


def dry_answer(job: Job) -> tuple[DryAnswer, DryingRun]:
    """The drying of a job's load with its supposed faults, and the run itself for its trace."""
    if job.document.load is None:
        raise DocumentError("$.load", "is missing; give what is dried, with its dry_mass and moisture")
    conditions = conditions_of(job.case())
    state = supposed_state(job.machine.airway, job.suppose)
    load = Load(job.document.load.dry_mass.si("mass"), job.document.load.moisture)
    if load.moisture <= DRY_MOISTURE:
        raise DocumentError("$.load.moisture", f"{load.moisture:g} is dry already; give more than {DRY_MOISTURE:g}")
    air = job.document.air
    room = {
        "relative_humidity": air.relative_humidity if air else None,
        "pressure_pa": air.pressure.si("pressure") if air and air.pressure else None,
    }
    case = drying_case(job.machine, state, conditions, load, **{k: v for k, v in room.items() if v is not None})
    run = dry(case)
    return DryAnswer(
        run.minutes, run.stopped_by, quantity(run.energy_kwh, "kWh"), quantity(run.heat_kwh, "kWh"), trip_answers(run)
    ), run


def trace_csv(run: DryingRun) -> str:
    """The trace of a run: columns time (min), kind, value, unit, as series come and go everywhere."""
    rows = ["time,kind,value,unit"]
    for at in run.trace:
        for kind, value, unit in (
            ("heater_box_temperature", at.box_c, "degC"), ("load_temperature", at.load_c, "degC"),
            ("exhaust_temperature", at.exhaust_c, "degC"), ("moisture", at.moisture, "1"),
            ("heat_on", float(at.heat_on), "1"),
        ):  # fmt: skip
            rows.append(f"{at.minute:.4f},{kind},{value:.5g},{unit}")
    return "\n".join(rows) + "\n"
