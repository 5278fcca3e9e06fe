"""What got hot because air was missing hangs under its cause; it is never a cause itself."""

from __future__ import annotations

from dataclasses import dataclass

from warmdraft.airway import hot_factor
from warmdraft.checks import checks
from warmdraft.diagnosis.case import Case
from warmdraft.faults import catalogue
from warmdraft.meter import parts

#: A consequence the airway shows by itself.
CYCLING = "high_limit_cycling"


@dataclass(frozen=True, slots=True)
class Consequence:
    """A part that opened, and the fault it opened for; None while no fault at hand explains the heat."""

    part: str
    of: str | None


def opened_one_shots(case: Case) -> tuple[str, ...]:
    """Consequences found by the meter: one-shot parts that failed.

    >>> from warmdraft.diagnosis import FindingFact
    >>> from warmdraft.machine import profile
    >>> failed = (FindingFact('meter_thermal_fuse', 'failed'),)
    >>> opened_one_shots(Case(profile('full-size-electric'), findings=failed))
    ('thermal_fuse_open',)
    """
    found = []
    for finding in case.findings:
        part = checks()[finding.check].meters
        if part is not None and finding.result == "failed" and parts()[part].consequence:
            found.append(parts()[part].consequence or "")
    return tuple(dict.fromkeys(found))


def explains_heat(fault: str) -> bool:
    """Whether a fault lets the machine get too hot.

    >>> explains_heat('hood_blocked'), explains_heat('heat_source_weak')
    (True, False)
    """
    return bool(catalogue()[fault].consequences)


def consequences(case: Case, ranked_faults: tuple[str, ...], implied_rise_k: float | None) -> tuple[Consequence, ...]:
    """What hangs under the likeliest fault that explains it. ranked_faults: likeliest first, those worth naming."""
    cause = next((fault for fault in ranked_faults if explains_heat(fault)), None)
    rows = []
    limit = case.machine.heat.limits.high_limit_opens_c
    seen = any(f.check == "power_watch" and f.result == "short_bursts" for f in case.findings)
    measured = bool(case.readings) and implied_rise_k is not None
    if measured and implied_rise_k is not None:
        seen = seen or case.air.temperature_c + hot_factor("heater_rise") * implied_rise_k >= limit
    if seen:
        rows.append(Consequence(CYCLING, cause))
    rows.extend(Consequence(part, cause) for part in opened_one_shots(case))
    return tuple(rows)
