"""A series of readings over a run, and its CSV: columns time (minutes, or with a unit), kind, value, unit."""

from __future__ import annotations

import csv
import io
import math
from dataclasses import dataclass

from warmdraft.errors import DocumentError, UnitError
from warmdraft.units import Dimension, to_si

#: Kinds that may be logged, with their dimension.
LOG_KINDS: dict[str, Dimension] = {
    "outlet_flow": "flow", "hood_flow": "flow", "vent_off_flow": "flow", "blower_speed": "rotation",
    "heater_current": "current", "exhaust_temperature": "temperature", "heater_box_temperature": "temperature",
    "outlet_static_pressure": "pressure", "blower_inlet_suction": "pressure", "screen_duct_suction": "pressure",
    "wall_static_pressure": "pressure", "hood_static_pressure": "pressure", "room_temperature": "temperature",
}  # fmt: skip
#: A series shorter than this, or longer, is no run's log.
LEAST_POINTS, MOST_POINTS = 6, 20_000
_COLUMNS = ["time", "kind", "value", "unit"]


@dataclass(frozen=True, slots=True)
class Series:
    """One kind over a run: minutes rising, values in the kind's canonical unit."""

    kind: str
    minutes: tuple[float, ...]
    values: tuple[float, ...]


def _minutes(text: str, line: int) -> float:
    text = text.strip()
    try:
        if ":" in text:  # h:mm:ss or mm:ss
            parts = [float(part) for part in text.split(":")]
            seconds = sum(part * 60.0**place for place, part in enumerate(reversed(parts)))
            return float(seconds / 60)
        number = float(text.replace(",", "."))
    except ValueError:
        raise DocumentError(f"line {line}", f"'{text}' is not a time; give minutes, or h:mm:ss") from None
    if not math.isfinite(number):
        raise DocumentError(f"line {line}", f"'{text}' is not a finite time; give minutes")
    return number


def read_csv(text: str) -> list[Series]:
    """Series by kind, each sorted by time. Raises DocumentError with the line that is wrong."""
    rows = csv.reader(io.StringIO(text.lstrip("\ufeff")))
    header = [name.strip().lower() for name in next(rows, [])]
    if header != _COLUMNS:
        raise DocumentError("line 1", f"the columns are {', '.join(header) or 'missing'}; give {', '.join(_COLUMNS)}")
    points: dict[str, list[tuple[float, float]]] = {}
    for line, row in enumerate(rows, start=2):
        if not any(cell.strip() for cell in row):
            continue
        if len(row) != len(_COLUMNS):
            raise DocumentError(f"line {line}", f"has {len(row)} columns; give {len(_COLUMNS)}")
        time, kind, value, unit = (cell.strip() for cell in row)
        if kind not in LOG_KINDS:
            raise DocumentError(f"line {line}", f"'{kind}' is no kind to log; give one of {', '.join(LOG_KINDS)}")
        try:
            number = to_si(float(value.replace(",", ".")), unit, LOG_KINDS[kind])
        except UnitError as error:
            raise DocumentError(f"line {line}", str(error)) from None
        except ValueError:
            raise DocumentError(f"line {line}", f"'{value}' is not a number; give one") from None
        points.setdefault(kind, []).append((_minutes(time, line), number))
    found = []
    for kind, pairs in points.items():
        if not LEAST_POINTS <= len(pairs) <= MOST_POINTS:
            raise DocumentError("$", f"{len(pairs)} points of {kind}; a log has {LEAST_POINTS} to {MOST_POINTS}")
        pairs.sort()
        minutes, values = zip(*pairs, strict=True)
        if minutes[0] == minutes[-1]:
            raise DocumentError("$", f"all points of {kind} are of one moment; give the run's times")
        found.append(Series(kind, minutes, values))
    if not found:
        raise DocumentError("$", "holds no points; give a row for each")
    return found
