"""What better air is worth: a load's minutes and energy before and after, what that saves a year, when it has paid."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal

from warmdraft.diagnosis.evidence import conditions_of
from warmdraft.heat import Load
from warmdraft.proof import promised_flow
from warmdraft.upkeep import WEEKS_A_YEAR
from warmdraft.work.expected import run_at
from warmdraft.work.state import JobState

#: A saving that nobody would notice, kWh a year (own choice).
LEAST_SAVED_KWH = 5.0


@dataclass(frozen=True, slots=True)
class Tariff:
    """loads_per_week; per_kwh: what a kWh of what heats the machine costs, None where nobody said."""

    loads_per_week: float
    per_kwh: Decimal | None
    currency: str

    def kwh_a_year(self, a_load: float) -> float:
        """What so much a load comes to in a year."""
        return a_load * self.loads_per_week * WEEKS_A_YEAR


@dataclass(frozen=True, slots=True)
class Saved:
    """What the work is worth. minutes: of a load, None where it never dries; kwh: saved a year; money: a year."""

    minutes_before: float | None
    minutes_after: float | None
    kwh_a_year: float
    money_a_year: Decimal | None

    def years_to_pay(self, price: Decimal) -> float | None:
        """Years after which a price is paid by what is saved; None where nothing is, or nobody knows what."""
        if self.money_a_year is None or self.money_a_year <= 0:
            return None
        return float(price / self.money_a_year)


def saved_of(state: JobState, tariff: Tariff) -> Saved | None:
    """What the work has saved, by what was read before and after it; None where no reading speaks of both."""
    if not (state.before.readings and state.after.readings):
        return None
    return _saved(state, state.proof.acceptance.flow_m3s[1], tariff)


def saving_of(state: JobState, tariff: Tariff) -> Saved | None:
    """What the work is expected to save, before it is done; None where nothing was read yet."""
    if not state.before.readings:
        return None
    return _saved(state, promised_flow(state.before, state.cause, state.rebuilt)[1], tariff)


def _saved(state: JobState, flow_m3s: float, tariff: Tariff) -> Saved:
    """Energy of a load as the drying model has it, at the flow before and at this one, all else alike."""
    machine, conditions, load = state.facts.machine, conditions_of(state.before), Load()
    before, after = (run_at(machine, flow, conditions, load) for flow in (state.verdict.flow.median, flow_m3s))
    kwh = tariff.kwh_a_year(before.energy_kwh - after.energy_kwh)
    money = None if tariff.per_kwh is None else (Decimal(f"{kwh:.3f}") * tariff.per_kwh).quantize(Decimal(1))
    return Saved(before.minutes, after.minutes, kwh, money)
