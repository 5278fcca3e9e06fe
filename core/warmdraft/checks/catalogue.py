"""Checks as rows of data/readings.toml and data/checks/*.toml, instruments as rows of data/instruments.toml."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cache
from typing import Any, Literal

from warmdraft.airway import reading_dimensions, reading_kinds
from warmdraft.errors import CatalogueError
from warmdraft.faults import catalogue
from warmdraft.tables import rows, table

#: The files of data/checks, in the order of the catalogue.
CHECK_FILES = ("other_instruments", "hood_and_screen", "running", "sound", "behind", "inside", "meter", "logs")
#: How far one has to go for a check, from nothing moved to the machine opened.
ACCESS = ("outside", "behind", "top_off", "open")
#: Results of a look that say nothing of the cause.
NO_EVIDENCE = ("not_possible", "not_tried")
#: The row of a look's table for whatever it does not name.
REST = "rest"
#: A minute of waiting costs this much of a minute of work, since other work fits in (own assumption).
WAITING_COST = 0.1


@dataclass(frozen=True, slots=True, eq=False)  # one object a row
class Check:
    """One row of the catalogue.

    first: what has to be done to get to it, see getting_there.py; observes: the reading kind, for an instrument check;
    results and rows: for a look, P(result) by fault, group or "rest"; heat: taken with the heat on; felt: the flow the
    look fades with, where it is the air that is felt; swap: what is taken out of the air's way for it; meters: the part
    whose verdict is the result; logs: the kinds whose shape over a run is; recorded: the judgement on a recording is;
    heard: it listens to the same noise as others of its kind; stopped: the machine need not run for it; one_motor,
    energy, complaints: it is asked only there.
    """

    name: str
    access: str
    first: tuple[str, ...]
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
    recorded: bool
    heard: bool
    stopped: bool
    one_motor: bool
    energy: str | None
    complaints: frozenset[str]

    @property
    def cost_minutes(self) -> float:
        """Minutes that count when checks are compared, once one is there."""
        return self.minutes + WAITING_COST * self.wait_minutes

    def key_of(self, fault: str) -> str:
        """The key of the row that holds for a fault: its own, else its narrowest group's, else the rest's."""
        if fault in self.rows:
            return fault
        groups = catalogue()[fault].groups
        return next((group for group in ("VENT", "WHEEL", "AIR") if group in self.rows and group in groups), REST)

    def row_of(self, fault: str) -> tuple[float, ...]:
        """P(result) for a fault at its middle severity."""
        return self.rows[self.key_of(fault)]

    @property
    def given_under(self) -> Literal["meter", "logs", "sounds"] | None:
        """The key of a job file whose entries its result is judged from; None where it is said as a finding."""
        return "meter" if self.meters else "logs" if self.logs else "sounds" if self.recorded else None

    def names(self, fault: str) -> bool:
        """Whether the table speaks of this fault at all."""
        return self.key_of(fault) != REST

    def fits(self, energy: str, motors: int, complaints: frozenset[str]) -> bool:
        """Whether it is a question to ask of such a machine with such complaints."""
        wrong_machine = self.energy not in (energy, None) or (self.one_motor and motors != 1)
        return not wrong_machine and (not self.complaints or not complaints or bool(complaints & self.complaints))


def _check(name: str, row: dict[str, Any]) -> Check:
    return Check(
        name=name,
        access=row["access"],
        first=tuple(row.get("first", ())),
        minutes=row["minutes"],
        wait_minutes=row.get("wait_minutes", 0.0),
        instrument=row["with"],
        hazard=row["hazard"],
        qualified=row.get("qualified"),
        observes=row.get("observes"),
        results=tuple(row.get("results", ())),
        rows={key: tuple(float(p) for p in values) for key, values in row.get("p", {}).items()},
        felt=row.get("felt"),
        swap=row.get("swap"),
        heat=row.get("heat", False),
        meters=row.get("meters"),
        logs=tuple(row.get("logs", ())),
        recorded=row.get("recorded", False),
        heard=row.get("heard", False),
        stopped=row.get("stopped", False),
        one_motor=row.get("one_motor", False),
        energy=row.get("energy"),
        complaints=frozenset(row.get("complaints", ())),
    )


@cache
def checks() -> dict[str, Check]:
    """All checks by name: those of readings, then the files in their order. Raises CatalogueError where two are one."""
    of_readings = {name: row["check"] | {"observes": name} for name, row in table("readings").items() if "check" in row}
    found = rows("readings", _check, of_readings)
    for file in CHECK_FILES:
        for name, check in rows(f"checks/{file}", _check).items():
            if name in found:
                raise CatalogueError(f"checks/{file}.toml, {name}: stands twice; give it a name of its own")
            found[name] = check
    return found


def check_names() -> tuple[str, ...]:
    """Names of all checks, in the catalogue's order."""
    return tuple(checks())


def instrument_names() -> tuple[str, ...]:
    """Instruments a reading may name."""
    return tuple(table("instruments"))


def instruments_for(kind: str) -> tuple[str, ...]:
    """Instruments that read a kind; a difference of temperatures is read with what reads temperatures."""
    dimension = reading_dimensions()[kind]
    reads = "temperature" if dimension == "temperature_difference" else dimension
    return tuple(name for name, row in table("instruments").items() if row["reads"] == reads)


def kinds_read_by(instrument: str) -> tuple[str, ...]:
    """Kinds of readings that an instrument's display shows as it is held there, those that are only logged too."""
    reads = table("instruments")[instrument]["reads"]
    return tuple(name for name, kind in reading_kinds().items() if kind.dimension == reads)


#: Nine readings in ten lie within this many standard deviations: the normal quantile at 95 %.
NINE_IN_TEN = 1.645


def reading_sd(kind: str, instrument: str | None) -> tuple[float, float]:
    """One standard deviation of a reading: (share of the reading, absolute part in the kind's canonical unit)."""
    row = reading_kinds()[kind]
    own = table("instruments").get(instrument, {}) if instrument else {}
    if own.get("reads") == row.dimension and "sd" in own:
        return float(own["sd"][0]), float(own["sd"][1])
    if row.sd is None:
        raise CatalogueError(f"readings.toml, {kind}.sd: is missing; what the model weighs has a standard deviation")
    return row.sd


#: Share of the variance of a reading, itself the middle of three, that is its instrument's own and stays however often
#: one reads with it (own assumption).
OWN_ERROR_SHARE = 0.7


def repeated_share(times: int) -> float:
    """What is left of a reading's standard deviation in the mean of so many taken with one instrument, a share."""
    return math.sqrt(OWN_ERROR_SHARE + (1 - OWN_ERROR_SHARE) / times)


def reading_bias(instrument: str | None) -> float:
    """What an instrument shows of what is there, as a share: it may hold up the air it measures."""
    own = table("instruments").get(instrument, {}) if instrument else {}
    return float(own.get("bias", 1.0))
