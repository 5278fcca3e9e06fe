"""Instruments over an open protocol: SCPI lines over TCP, spoken by a VISA library."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from warmdraft.airway import reading_dimensions
from warmdraft.checks import instrument_names, kinds_read_by
from warmdraft.errors import UnitError
from warmdraft.trend import LOG_KINDS
from warmdraft.units import UNITS, Dimension, to_si

#: An instrument that has said nothing for so long has not answered, ms.
PATIENCE_MS = 1500
#: Below this share of charge an instrument's numbers drift.
LOW_BATTERY = 15.0


class InstrumentTrouble(Exception):
    """What went wrong, as a sentence: what was tried, and what to do."""


@dataclass(frozen=True, slots=True)
class Instrument:
    """One that this server is told of: its name, what it is, where it listens, what it reads."""

    name: str
    code: str
    host: str
    port: int
    kinds: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class LiveReading:
    """A number as the instrument gave it, in canonical units; battery in percent where it says so."""

    kind: str
    value: float
    battery: float | None


#: What an instrument is called where the server is told of it, if not by its code in data/instruments.toml.
_CALLED = {"anemometer": "vane_anemometer"}


def dimension_of(kind: str) -> Dimension:
    """Of a reading kind, or of what only a log knows."""
    known = reading_dimensions()
    return known[kind] if kind in known else LOG_KINDS[kind]


def configured(told: str) -> dict[str, Instrument]:
    """From "anemometer=127.0.0.1:5171,…"; an entry that is none is left out."""
    found = {}
    for entry in filter(None, told.split(",")):
        name, _, address = entry.strip().partition("=")
        host, _, port = address.rpartition(":")
        code = _CALLED.get(name, name)
        if code in instrument_names() and host and port.isdigit():
            found[name] = Instrument(name, code, host, int(port), kinds_read_by(code))
    return found


@lru_cache(maxsize=1)
def _manager() -> Any:
    import pyvisa

    return pyvisa.ResourceManager("@py")


def read(instrument: Instrument, kind: str) -> LiveReading:
    """Ask for one reading, by whoever asks this instrument alone. Raises InstrumentTrouble with what to do."""
    import pyvisa.errors

    address = f"TCPIP::{instrument.host}::{instrument.port}::SOCKET"
    words = instrument.name.replace("_", " ")
    try:
        line = _manager().open_resource(
            address, read_termination="\n", write_termination="\n", timeout=PATIENCE_MS, open_timeout=PATIENCE_MS
        )
    except (pyvisa.errors.VisaIOError, OSError):
        raise InstrumentTrouble(f"The {words} does not answer: is it on, and its cable in?") from None
    try:
        answer = line.query(f"MEAS:{kind.upper()}?")
        battery = line.query("SYST:BATT?")
    except (pyvisa.errors.VisaIOError, OSError, UnicodeDecodeError):
        raise InstrumentTrouble(f"The {words} stopped in the middle of an answer; asking again.") from None
    finally:
        line.close()
    return LiveReading(kind, _number(answer, kind, words), _percent(battery))


def _number(answer: str, kind: str, words: str) -> float:
    value, _, unit = answer.strip().partition(",")
    dimension = dimension_of(kind)
    named = {name.lower(): name for name in UNITS[dimension].names}
    try:
        return to_si(float(value), named.get(unit.strip().lower(), unit.strip()), dimension)
    except (ValueError, UnitError):
        said = answer.strip()[:40] or "nothing"
        raise InstrumentTrouble(f"The {words} says “{said}”, which is no {UNITS[dimension].noun[2:]}.") from None


def _percent(answer: str) -> float | None:
    try:
        return float(answer)
    except ValueError:
        return None
