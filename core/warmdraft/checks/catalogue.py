"""Checks as rows of data/checks/*.toml, instruments as rows of data/instruments.toml."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from warmdraft.airway import READING_KINDS
from warmdraft.errors import CatalogueError
from warmdraft.faults import catalogue
from warmdraft.tables import table
from warmdraft.units import Dimension

#: The files of data/checks, in the order of the catalogue.
FILES = ("readings", "hood_and_screen", "running", "behind", "inside", "meter", "logs")
#: How far one has to go for a check, from nothing moved to the machine opened.
ACCESS = ("outside", "behind", "top_off", "open")
#: What it takes to get there, minutes, once (own assumption, until the plan of the machine at hand says better).
OPENING_MINUTES = {"outside": 0.0, "behind": 0.0, "top_off": 4.0, "open": 15.0}
#: Results of a look that say nothing of the cause.
NO_EVIDENCE = ("not_possible", "not_tried")
#: A minute of waiting costs this much of a minute of work, since other work fits in (own assumption).
WAITING_COST = 0.1


@dataclass(frozen=True, slots=True, eq=False)  # one object a row
class Check:
    """One row of the catalogue.

    observes: the reading kind, for an instrument check; results and rows: for a look, P(result) by fault, group or
    "rest"; heat: taken with the heat on; felt: the flow the look fades with, where it is the air that is felt; swap:
    what is taken out of the air's way for it; meters: the part whose verdict is the result; logs:
    the kinds whose shape over a run is; stopped: the machine need not run for it; energy, complaint:
    it is asked only there.
    """

    name: str
    access: str
    minutes: float
    wait_minutes: float
    instrument: str
    hazard: str
    qualified: str | None
    observes: str | None
    results: tuple[str, ...]
    rows: dict[str, tuple[float, ...]]
    felt: str | None
    swap: str | None
    heat: bool
    meters: str | None
    logs: tuple[str, ...]
    stopped: bool
    energy: str | None
    complaint: str | None

    @property
    def cost_minutes(self) -> float:
        """Minutes that count when checks are compared."""
        return self.minutes + WAITING_COST * self.wait_minutes

    def row_of(self, fault: str) -> tuple[float, ...]:
        """P(result) for a fault at its middle severity: its own row, else its narrowest group's, else the rest's."""
        if fault in self.rows:
            return self.rows[fault]
        for group in ("VENT", "WHEEL", "AIR"):
            if group in self.rows and group in catalogue()[fault].groups:
                return self.rows[group]
        return self.rows["rest"]

    def names(self, fault: str) -> bool:
        """Whether the table speaks of this fault at all."""
        return self.row_of(fault) is not self.rows["rest"]

    def fits(self, energy: str, complaints: frozenset[str]) -> bool:
        """Whether it is a question to ask of such a machine with such complaints."""
        wrong_machine = self.energy is not None and self.energy != energy
        return not wrong_machine and (self.complaint is None or not complaints or self.complaint in complaints)


def _check(name: str, row: dict[str, Any]) -> Check:
    rows = {key: tuple(float(p) for p in values) for key, values in row.get("p", {}).items()}
    results = tuple(row.get("results", ()))
    for key, values in rows.items():
        if len(values) != len(results) or not math.isclose(sum(values), 1, abs_tol=1e-9) or min(values) <= 0:
            raise CatalogueError(f"checks, {name}.p.{key}: {values} are not {len(results)} shares that sum to 1")
        if key not in catalogue() and key not in ("AIR", "VENT", "WHEEL", "rest"):
            raise CatalogueError(f"checks, {name}.p: '{key}' is neither a fault nor a group")
    return Check(
        name=name,
        access=row["access"],
        minutes=row["minutes"],
        wait_minutes=row.get("wait_minutes", 0.0),
        instrument=row["with"],
        hazard=row["hazard"],
        qualified=row.get("qualified"),
        observes=row.get("observes"),
        results=results,
        rows=rows,
        felt=row.get("felt"),
        swap=row.get("swap"),
        heat=row.get("heat", False),
        meters=row.get("meters"),
        logs=tuple(row.get("logs", ())),
        stopped=row.get("stopped", False),
        energy=row.get("energy"),
        complaint=row.get("complaint"),
    )


@lru_cache(maxsize=1)
def checks() -> dict[str, Check]:
    """All checks by name. Raises CatalogueError where a row contradicts itself."""
    found = {}
    for file in FILES:
        for name, row in table(f"checks/{file}").items():
            if name in found:
                raise CatalogueError(f"checks/{file}.toml: '{name}' stands twice")
            found[name] = _check(name, row)
    return found


def check_names() -> tuple[str, ...]:
    """Names of all checks, in the catalogue's order."""
    return tuple(checks())


def reading_dimensions() -> dict[str, Dimension]:
    """Every reading kind a job may hold, with its dimension: what the airway predicts, the conditions, and times."""
    return READING_KINDS | {"supply_voltage": "voltage", "room_temperature": "temperature", "drying_minutes": "time"}


def instrument_names() -> tuple[str, ...]:
    """Instruments a reading may name."""
    return tuple(table("instruments")["instrument"])


def instruments_for(kind: str) -> tuple[str, ...]:
    """Instruments that read a kind; a difference of temperatures is read with what reads temperatures."""
    dimension = reading_dimensions()[kind]
    reads = "temperature" if dimension == "temperature_difference" else dimension
    return tuple(name for name, row in table("instruments")["instrument"].items() if row["reads"] == reads)


def reading_sd(kind: str, instrument: str | None) -> tuple[float, float]:
    """One standard deviation of a reading: (share of the reading, absolute part in the kind's canonical unit)."""
    book = table("instruments")
    own = book["instrument"].get(instrument, {}) if instrument else {}
    share, absolute = own["sd"] if own.get("reads") == READING_KINDS[kind] and "sd" in own else book["kind"][kind]
    return float(share), float(absolute)


def reading_bias(instrument: str | None) -> float:
    """What an instrument shows of what is there, as a share: it may hold up the air it measures."""
    own = table("instruments")["instrument"].get(instrument, {}) if instrument else {}
    return float(own.get("bias", 1.0))
