"""How a load dries on this machine, healthy beside now, and what the difference costs."""

from __future__ import annotations

from dataclasses import dataclass

from warmdraft.answers.drying import TripAnswer, trip_answers
from warmdraft.answers.quantity import Quantity, quantity
from warmdraft.diagnosis import conditions_of, likeliest_story
from warmdraft.faults import supposed_state
from warmdraft.heat import DryingRun, Load, drying_pair
from warmdraft.words import Words
from warmdraft.work import JobState
from warmdraft.work.cost import Tariff


@dataclass(slots=True)
class MomentAnswer:
    """A row of the trace; temperatures in °C, moisture as water over dry mass."""

    minute: float
    box_c: float
    exhaust_c: float
    moisture: float
    heat_on: bool


@dataclass(slots=True)
class DryingAnswer:
    """One run of a load; minutes: null with stopped_by where it never gets dry."""

    minutes: float | None
    stopped_by: str | None
    energy: Quantity
    trips: list[TripAnswer]
    trace: list[MomentAnswer]


@dataclass(slots=True)
class HeatAnswer:
    """A load on this machine, healthy and as the facts imply (null while nothing is known); what it takes and costs.

    load: what is dried, dry; story: faults that `now` supposes.
    """

    load: Quantity
    healthy: DryingAnswer
    now: DryingAnswer | None
    story: list[str]
    high_limit_c: float
    cycling_c: float
    extra_minutes: float | None
    extra_kwh_a_year: float
    extra_cost_a_year: float
    currency: str
    text: str


def _run(run: DryingRun) -> DryingAnswer:
    return DryingAnswer(
        minutes=run.minutes,
        stopped_by=run.stopped_by,
        energy=quantity(run.energy_kwh, "kWh"),
        trips=trip_answers(run),
        trace=[MomentAnswer(at.minute, at.box_c, at.exhaust_c, at.moisture, at.heat_on) for at in run.trace],
    )


def heat_answer(state: JobState, load: Load, tariff: Tariff, words: Words) -> HeatAnswer:
    """The pair of runs with its sentence."""
    machine, story = state.facts.machine, likeliest_story(state.before, state.verdict)
    supposed = supposed_state(machine.airway, story or ())
    healthy, now = drying_pair(machine, supposed, conditions_of(state.before), load)
    extra_kwh = tariff.kwh_a_year(now.energy_kwh - healthy.energy_kwh)
    extra_cost = extra_kwh * float(tariff.per_kwh or 0)
    both = healthy.minutes is not None and now.minutes is not None
    known = now if story is not None else None
    return HeatAnswer(
        load=quantity(load.dry_mass_kg, "kg"),
        healthy=_run(healthy),
        now=_run(known) if known is not None else None,
        story=[fault for fault, _ in story or ()],
        high_limit_c=machine.heat.limits.high_limit_opens_c,
        cycling_c=machine.heat.limits.cycling_opens_c,
        extra_minutes=(now.minutes or 0) - (healthy.minutes or 0) if both else None,
        extra_kwh_a_year=extra_kwh,
        extra_cost_a_year=extra_cost,
        currency=tariff.currency,
        text=words.drying(healthy, known, f"{extra_cost:.0f} {tariff.currency}"),
    )
