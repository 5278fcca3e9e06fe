"""Where places are, and how far it is between them, as tables that people keep: CSV."""

from __future__ import annotations

import csv
import io
from dataclasses import dataclass

from warmdraft.errors import DocumentError
from warmdraft.jobfile.day_schema import MOST_MINUTES, MOST_PLACES

#: The columns of each sort of table, in any order; what stands beside them is left alone.
WAYS, PLACES = ("from", "to", "minutes"), ("place", "latitude", "longitude")
#: Lines of a table.
MOST_LINES = MOST_PLACES**2


@dataclass(frozen=True, slots=True)
class WayRow:
    """Minutes from one place to another, by their names; line: where it stands."""

    line: int
    start: str
    end: str
    minutes: float


@dataclass(frozen=True, slots=True)
class PlaceRow:
    """Where a place is, degrees; line: where it stands."""

    line: int
    place: str
    latitude: float
    longitude: float


def read_day_table(text: str) -> list[WayRow] | list[PlaceRow]:
    """A table of ways or of places, told by its columns. Raises DocumentError, with the line.

    >>> read_day_table("from;to;minutes\\nshop;Old mill;12,5")
    [WayRow(line=2, start='shop', end='Old mill', minutes=12.5)]
    >>> read_day_table("place,latitude,longitude\\nOld mill,54.4,-3.02")
    [PlaceRow(line=2, place='Old mill', latitude=54.4, longitude=-3.02)]
    """
    first = text.lstrip("\ufeff").split("\n", 1)[0]
    reader = csv.reader(io.StringIO(text.lstrip("\ufeff"), newline=None), delimiter=";" if ";" in first else ",")
    try:
        rows = [(reader.line_num, [cell.strip() for cell in row]) for row in reader if any(row)]
    except csv.Error as error:
        raise DocumentError("$", f"line {reader.line_num}: {error}; give a table as CSV") from None
    if not rows:
        raise DocumentError("$", f"the table is empty; give the columns {', '.join(WAYS)}, or {', '.join(PLACES)}")
    if len(rows) > MOST_LINES:
        raise DocumentError("$", f"the table has {len(rows)} lines; give at most {MOST_LINES}")
    head = [cell.lower() for cell in rows[0][1]]
    for columns in (WAYS, PLACES):
        if all(name in head for name in columns):
            at = [head.index(name) for name in columns]
            found = [(line, _cells(line, row, at)) for line, row in rows[1:]]
            if columns is WAYS:
                return [WayRow(line, a, b, _number(line, c, "minutes", 0, MOST_MINUTES)) for line, (a, b, c) in found]
            return [
                PlaceRow(line, a, _number(line, b, "latitude", -90, 90), _number(line, c, "longitude", -180, 180))
                for line, (a, b, c) in found
            ]
    raise DocumentError(
        "$", f"line 1 names {', '.join(head)}; give the columns {', '.join(WAYS)}, or {', '.join(PLACES)}"
    )


def _cells(line: int, row: list[str], at: list[int]) -> tuple[str, str, str]:
    if max(at) >= len(row):
        raise DocumentError("$", f"line {line} has {len(row)} cells; give one for each column of the first line")
    first, second, third = (row[number] for number in at)
    return first, second, third


def _number(line: int, text: str, what: str, least: float, most: float) -> float:
    try:
        value = float(text.replace(",", "."))
    except ValueError:
        value = float("nan")
    if not least <= value <= most:
        raise DocumentError("$", f"line {line}: '{text[:30]}' is no {what}; give a number from {least:g} to {most:g}")
    return value
