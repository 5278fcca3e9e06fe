"""The answer of the verb `airway`."""

from __future__ import annotations

from dataclasses import dataclass

from warmdraft.airway import READING_KINDS, predict, profile_rows, solve
from warmdraft.answers.quantity import Quantity, quantity, reading_quantity
from warmdraft.answers.verdict import OperatingPointAnswer
from warmdraft.diagnosis import conditions_of
from warmdraft.faults import supposed_state
from warmdraft.jobfile import Job


@dataclass(slots=True)
class ProfileRow:
    """An element of the airway: its flow, and the pressure on either side, gauge."""

    element: str
    flow: Quantity
    pressure_in: Quantity
    pressure_out: Quantity


@dataclass(slots=True)
class AirwayAnswer:
    """Operating point, profile room to outdoors, and every reading that the model predicts."""

    operating_point: OperatingPointAnswer
    profile: list[ProfileRow]
    readings: dict[str, Quantity]


def airway_answer(job: Job) -> AirwayAnswer:
    """Operating point, profile and predicted readings of a job with its supposed faults, cold convention."""
    conditions = conditions_of(job.case())
    state = supposed_state(job.machine.airway, job.suppose)
    flow = solve(state, job.machine.airway.fan, conditions.density_kg_m3)
    readings = predict(job.machine, state, conditions, flow)[0]
    rows = profile_rows(flow, (0,))
    by_element = {row.element: row for row in rows}
    blower = by_element["blower"]
    return AirwayAnswer(
        operating_point=OperatingPointAnswer(
            flow=quantity(blower.flow_m3s, "m3/s"),
            fan_pressure=quantity(blower.pressure_out_pa - blower.pressure_in_pa, "Pa"),
            heater_flow=quantity(by_element["inlet"].flow_m3s, "m3/s"),
            outlet_flow=quantity(by_element["exhaust_pipe"].flow_m3s, "m3/s"),
            vent_flow=quantity(by_element["run"].flow_m3s, "m3/s"),
        ),
        profile=[
            ProfileRow(row.element, quantity(row.flow_m3s, "m3/s"), quantity(row.pressure_in_pa, "Pa"),
                       quantity(row.pressure_out_pa, "Pa"))
            for row in rows
        ],
        readings={
            kind: found
            for kind, value in zip(READING_KINDS, readings, strict=True)
            if (found := reading_quantity(kind, value)) is not None
        },
    )  # fmt: skip
