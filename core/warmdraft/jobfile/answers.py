"""Answers of the verbs as JSON values: quantities with units, shares and scores as plain numbers."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from warmdraft.air import Floats
from warmdraft.airway import NODES, READING_KINDS, predict, profile_rows, solve
from warmdraft.diagnosis import MODEL_VERSION, Case, Verdict, diagnose
from warmdraft.diagnosis.evidence import conditions_of
from warmdraft.errors import DocumentError
from warmdraft.faults import supposed_state
from warmdraft.heat import DryingRun, Load, dry, drying_case
from warmdraft.heat.drying import DRY_MOISTURE
from warmdraft.jobfile.read import Job
from warmdraft.units import UNITS
from warmdraft.words import English, headline, lamps

Json = dict[str, Any]


def quantity(value: float, unit: str) -> Json:
    """A quantity as answers give it."""
    return {"value": float(value), "unit": unit}


def _reading(kind: str, value: float) -> Json | None:
    if value != value:  # NaN: this machine has no such reading
        return None
    return quantity(value, UNITS[READING_KINDS[kind]].canonical)


def airway_answer(job: Job) -> Json:
    """Operating point, profile and predicted readings of a job with its supposed faults, cold convention."""
    conditions = conditions_of(job.case())
    state = supposed_state(job.machine.airway, job.suppose)
    flow = solve(state, job.machine.airway.fan, conditions.density_kg_m3)
    readings = predict(job.machine, state, conditions, flow)[0]
    rows = profile_rows(flow, (0,))
    by_element = {row.element: row for row in rows}
    blower = by_element["blower"]
    return {
        "operating_point": {
            "flow": quantity(blower.flow_m3s, "m3/s"),
            "fan_pressure": quantity(blower.pressure_out_pa - blower.pressure_in_pa, "Pa"),
            "heater_flow": quantity(by_element["inlet"].flow_m3s, "m3/s"),
            "outlet_flow": quantity(by_element["exhaust_pipe"].flow_m3s, "m3/s"),
            "vent_flow": quantity(by_element["run"].flow_m3s, "m3/s"),
        },
        "profile": [
            {
                "element": row.element,
                "flow": quantity(row.flow_m3s, "m3/s"),
                "pressure_in": quantity(row.pressure_in_pa, "Pa"),
                "pressure_out": quantity(row.pressure_out_pa, "Pa"),
            }
            for row in rows
        ],
        "readings": {
            kind: found
            for kind, value in zip(READING_KINDS, readings, strict=True)
            if (found := _reading(kind, value)) is not None
        },
    }


def dry_answer(job: Job) -> tuple[Json, DryingRun]:
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
    return {
        "minutes": run.minutes,
        "stopped_by": run.stopped_by,
        "energy": quantity(run.energy_kwh, "kWh"),
        "heat_energy": quantity(run.heat_kwh, "kWh"),
        "trips": [{"limit": trip.limit, "minute": trip.minute} for trip in run.trips],
    }, run


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


def _line(pressures: Floats | Iterable[float]) -> list[Json]:
    return [{"at": node, "pressure": quantity(p, "Pa")} for node, p in zip(NODES, pressures, strict=True)]


def _severity(severity: tuple[float, float, float] | None) -> Json | None:
    return None if severity is None else dict(zip(("low", "median", "high"), severity, strict=True))


def verdict_answer(case: Case, verdict: Verdict, english: English) -> Json:
    """A verdict as the document both the command line and the web give."""
    line = verdict.draft_line
    point = verdict.operating_point
    return {
        "headline": headline(case, verdict, english),
        "lamps": lamps(case, verdict, english),
        "zones": [{"zone": zone, "probability": p} for zone, p in verdict.zones],
        "elements": [{"element": element, "probability": p} for element, p in verdict.elements],
        "faults": [
            {
                "fault": row.fault,
                "zone": row.zone,
                "element": row.element,
                "probability": row.probability,
                "severity": _severity(row.severity),
                "text": english.fault(row.fault),
                "sure_text": english.sure(row.probability),
                "severity_text": english.severity(row.fault, row.severity),
            }
            for row in verdict.faults
        ],
        "pair_share": verdict.pair_share,
        "pairs": [{"faults": list(faults), "probability": p} for faults, p in verdict.pairs],
        "inseparable": [list(group) for group in verdict.inseparable],
        "operating_point": {
            "flow": quantity(point.flow_m3s, "m3/s"),
            "fan_pressure": quantity(point.fan_pressure_pa, "Pa"),
            "heater_flow": quantity(point.heater_flow_m3s, "m3/s"),
            "outlet_flow": quantity(point.outlet_flow_m3s, "m3/s"),
            "vent_flow": quantity(point.vent_flow_m3s, "m3/s"),
        },
        "readings": {
            kind: {"healthy": _reading(kind, verdict.healthy_readings[kind]), "implied": _reading(kind, implied)}
            for kind, implied in verdict.implied_readings.items()
        },
        "draft_line": {
            "healthy": _line(line.healthy),
            "band_low": _line(line.band_low),
            "band_high": _line(line.band_high),
            "now": [
                {
                    "at": node,
                    "pressure": quantity(line.now[i], "Pa"),
                    "low": quantity(line.now_low[i], "Pa"),
                    "high": quantity(line.now_high[i], "Pa"),
                    "pinned": line.pinned[i],
                }
                for i, node in enumerate(NODES)
            ],
            "stories": [
                {"fault": story.fault, "probability": story.probability, "profile": _line(story.pressure)}
                for story in line.stories
            ],
            "points": [
                {
                    "kind": point.kind,
                    "ids": list(point.ids),
                    "at": point.at,
                    "pressure": quantity(point.pressure, "Pa"),
                    "low": quantity(point.low, "Pa"),
                    "high": quantity(point.high, "Pa"),
                }
                for point in line.points
            ],
        },
        "next_checks": [
            {
                "check": row.check,
                "bits": row.bits,
                "minutes": row.minutes,
                "hands_on_minutes": row.hands_on_minutes,
                "bits_per_minute": row.bits_per_minute,
                "sure_now": row.sure_now,
                "sure_after": row.sure_after,
                "splits": list(row.splits),
                "opens": row.access in ("top_off", "open"),
                "access": row.access,
                "worth_it": row.worth_it,
                "text": english.check(row.check),
            }
            for row in verdict.next_checks
        ],
        "for_and_against": [
            {
                "reading" if row.is_reading else "check": row.evidence,
                "ids": list(row.ids),
                "towards": row.towards,
                "nats": row.nats,
            }
            for row in verdict.for_and_against
        ],
        "misfits": [
            {
                "reading": row.reading,
                "ids": list(row.ids),
                "expected_low": _reading(row.reading, row.expected_low),
                "expected_high": _reading(row.reading, row.expected_high),
            }
            for row in verdict.misfits
        ],
        "consequences": [
            {"part": row.part, "of": row.of, "text": english.consequence(row.part, row.of)}
            for row in verdict.consequences
        ],
        "model_version": MODEL_VERSION,
    }


def diagnose_answer(job: Job, phase: str = "before") -> Json:
    """What the facts in force of a phase say of the cause."""
    case = job.case(phase)
    return verdict_answer(case, diagnose(case), English())
