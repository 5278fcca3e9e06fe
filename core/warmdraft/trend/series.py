"""A series of readings over a run, and its CSV: columns time (minutes, or with a unit), kind, value, unit."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterator
from dataclasses import dataclass

from warmdraft.airway import reading_kinds
from warmdraft.errors import DocumentError, UnitError
from warmdraft.units import Dimension, to_si

#: Kinds that may be logged, with their dimension.
LOG_KINDS: dict[str, Dimension] = {name: kind.dimension for name, kind in reading_kinds().items() if kind.logged}
#: A series shorter than this, or longer, is no run's log.
LEAST_POINTS, MOST_POINTS = 6, 20_000
#: A run of over two months is none, min.
MOST_MINUTES = 100_000.0
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
            if len(parts) > 3:
                raise ValueError
            seconds = sum(part * 60.0**place for place, part in enumerate(reversed(parts)))
            return float(seconds / 60)
        number = float(text.replace(",", "."))
    except (ValueError, OverflowError):
        raise DocumentError(f"line {line}", f"'{_short(text)}' is not a time; give minutes, or h:mm:ss") from None
    if not 0 <= number <= MOST_MINUTES:  # written this way round: what is not a number is refused too
        raise DocumentError(
            f"line {line}", f"'{_short(text)}' lies outside 0 to {MOST_MINUTES:g} minutes; give minutes from the start"
        )
    return number


def _short(text: str) -> str:
    return text if len(text) <= 40 else f"{text[:40]}…"


def _rows(text: str) -> Iterator[tuple[int, list[str]]]:
    """Rows with their line, in whatever way the lines end. Raises DocumentError with the line that is wrong."""
    text = text.lstrip("\ufeff")
    # semicolons are usual where a comma is the decimal sign
    divided_by = ";" if ";" in text[: text.find("\n") if "\n" in text else None] else ","
    reader = csv.reader(io.StringIO(text, newline=None), delimiter=divided_by)
    line = 1
    while True:
        try:
            row = next(reader)
        except StopIteration:
            return
        except csv.Error as error:
            raise DocumentError(f"line {line}", f"is no row of a CSV ({error}); save the file as CSV anew") from None
        yield line, row
        line += 1


def read_csv(text: str) -> list[Series]:
    r"""Series by kind, each sorted by time. Raises DocumentError with the line that is wrong.

    text: lines below a header; values come out in canonical units.

    >>> rows = ''.join(f'{minute},outlet_flow,{60 - minute},L/s\n' for minute in range(6))
    >>> (series,) = read_csv('time,kind,value,unit\n' + rows)
    >>> series.kind, round(float(series.values[-1]), 3)  # m³/s
    ('outlet_flow', 0.055)
    """
    rows = _rows(text)
    header = [name.strip().lower() for name in next(rows, (1, []))[1]]
    if header != _COLUMNS:
        raise DocumentError(
            "line 1", f"the columns are {_short(', '.join(header)) or 'missing'}; give {', '.join(_COLUMNS)}"
        )
    points: dict[str, list[tuple[float, float]]] = {}
    for line, row in rows:
        if not any(cell.strip() for cell in row):
            continue
        if len(row) != len(_COLUMNS):
            raise DocumentError(f"line {line}", f"has {len(row)} columns; give {len(_COLUMNS)}")
        time, kind, value, unit = (cell.strip() for cell in row)
        if kind not in LOG_KINDS:
            raise DocumentError(
                f"line {line}", f"'{_short(kind)}' is no kind to log; give one of {', '.join(LOG_KINDS)}"
            )
        try:
            number = to_si(float(value.replace(",", ".")), unit, LOG_KINDS[kind])
        except UnitError as error:
            raise DocumentError(f"line {line}", str(error)) from None
        except ValueError:
            raise DocumentError(f"line {line}", f"'{_short(value)}' is not a number; give one") from None
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
