"""How a load dries on this machine, healthy beside now."""

from typing import Any

from ninja import Schema

from config.quantity import Q
from jobs import to_core
from jobs.models import Job
from jobs.view import english_of
from people.may import Member
from warmdraft.diagnosis.evidence import conditions_of
from warmdraft.faults import supposed_state
from warmdraft.heat import DryingRun, Load, drying_pair

Json = dict[str, Any]
WEEKS_A_YEAR = 52


class MomentOut(Schema):
    """A row of the trace; temperatures in °C, moisture as water over dry mass."""

    minute: float
    box_c: float
    exhaust_c: float
    moisture: float
    heat_on: bool


class TripOut(Schema):
    """A thermostat that opened."""

    limit: str
    minute: float


class DryingOut(Schema):
    """One run of a load."""

    minutes: float | None
    stopped_by: str | None
    energy: Q
    trips: list[TripOut]
    trace: list[MomentOut]


class HeatOut(Schema):
    """A load on this machine, healthy and as the facts imply; what it takes and costs more."""

    healthy: DryingOut
    now: DryingOut | None
    story: list[str]
    high_limit_c: float
    cycling_c: float
    extra_minutes: float | None
    extra_kwh_a_year: float
    extra_cost_a_year: float
    currency: str
    text: str


def _run(run: DryingRun) -> Json:
    return {
        "minutes": run.minutes,
        "stopped_by": run.stopped_by,
        "energy": {"value": run.energy_kwh, "unit": "kWh"},
        "trips": [{"limit": trip.limit, "minute": trip.minute} for trip in run.trips],
        "trace": [{name: getattr(row, name) for name in MomentOut.model_fields} for row in run.trace],
    }


def heat_json(job: Job, who: Member, loads_a_week: float, price_per_kwh: float) -> Json:
    """The pair of runs with its sentence."""
    core = to_core.core_job(job)
    case = to_core.case_for(core, "before", who)
    verdict = to_core.cached_verdict(case)
    given = core.document.load
    load = Load(given.dry_mass.si("mass"), given.moisture) if given else Load()
    supposed = to_core.supposed_of(case, verdict)
    state = supposed_state(core.machine.airway, supposed or ())
    healthy, now = drying_pair(core.machine, state, conditions_of(case), load)
    extra_kwh = (now.energy_kwh - healthy.energy_kwh) * loads_a_week * WEEKS_A_YEAR
    limits = core.machine.heat.limits
    both = healthy.minutes is not None and now.minutes is not None
    return {
        "healthy": _run(healthy),
        "now": _run(now) if supposed is not None else None,
        "story": [fault for fault, _ in supposed or ()],
        "high_limit_c": limits.high_limit_opens_c,
        "cycling_c": limits.cycling_opens_c,
        "extra_minutes": (now.minutes or 0) - (healthy.minutes or 0) if both else None,
        "extra_kwh_a_year": extra_kwh,
        "extra_cost_a_year": extra_kwh * price_per_kwh,
        "currency": who.workshop.currency,
        "text": english_of(who).drying(healthy, now if supposed is not None else None,
                                       f"{extra_kwh * price_per_kwh:.0f} {who.workshop.currency}"),
    }  # fmt: skip
