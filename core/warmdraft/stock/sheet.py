"""A parts catalogue as CSV: one row for each number and supplier, read whole or not at all.

Every damaged row is named by its line and column, so that a sheet is mended in one go.
"""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, fields, replace
from decimal import Decimal, InvalidOperation
from itertools import chain

from warmdraft.mending import PROPERTIES, Part
from warmdraft.stock.item import Item, Offer, key_of
from warmdraft.stock.marks import MARKED, marks_typed
from warmdraft.tables import table
from warmdraft.text import unwritable

COLUMNS = (
    "number", "kind", "text", "original", "contains", "fits", "superseded_by", "supplier", "price", "days", *PROPERTIES,
)  # fmt: skip
_NEEDED = ("number", "kind")
#: A sheet, bytes; a number, a text of it, characters; lists within a field; rows.
MOST_BYTES, MOST_NUMBER, MOST_FIELD, MOST_LISTED, MOST_ROWS = 40_000_000, 60, 200, 200, 200_000
#: Troubles that are told: who has more of them has one cause for most.
MOST_TOLD = 50
_MOST_PRICE = Decimal(1_000_000)
_YES_NO = {"yes": True, "no": False, "": None}
#: What a spreadsheet would take for a formula, at the beginning of a field.
_FORMULA = ("=", "+", "-", "@", "\t", "\r")


@dataclass(frozen=True, slots=True)
class Trouble:
    """What is wrong in a sheet. line: as an editor counts, from 1; column: its name, empty for the whole row."""

    line: int
    column: str
    message: str


class SheetError(ValueError):
    """A sheet cannot be read; troubles: each by its line and column; more: how many are not told."""

    def __init__(self, troubles: list[Trouble], more: int = 0) -> None:
        self.troubles, self.more = troubles, more
        super().__init__("; ".join(f"line {row.line}, {row.column or 'row'}: {row.message}" for row in troubles))


def read_sheet(raw: bytes) -> list[Item]:
    """Read a catalogue: each number once, with all its offers, in the order it first stands.

    Raises SheetError, which names all that is wrong by line and column.

    >>> sheet = b"number,kind,supplier,price\\nWX-1,belt,North,12.50\\nWX1,belt,South,11.90\\n"
    >>> [offer.supplier for offer in read_sheet(sheet)[0].offers]
    ['North', 'South']
    """
    text = _decoded(raw)
    rows = _rows(text)
    header, columns = next(rows, (1, []))
    names = _header(header, columns)
    found: dict[str, tuple[int, Item]] = {}
    troubles: list[Trouble] = []
    told = 0
    try:
        for line, cells in rows:
            try:
                _take(found, line, _item(line, names, cells))
            except SheetError as error:
                told += len(error.troubles)
                troubles.extend(error.troubles[: MOST_TOLD - len(troubles)])
    except SheetError as error:  # it is no CSV from here on
        told += 1
        troubles.extend(error.troubles)
    troubles.extend(_circles(found)[: MOST_TOLD - len(troubles)])
    if troubles:
        raise SheetError(troubles, max(0, told - len(troubles)))
    if not found:
        raise SheetError([Trouble(header, "", "no row follows the names of the columns; give one a part")])
    return [item for _, item in found.values()]


def _decoded(raw: bytes) -> str:
    if len(raw) > MOST_BYTES:
        raise SheetError([Trouble(1, "", f"has {len(raw)} bytes; give at most {MOST_BYTES}")])
    try:
        text = raw.decode("utf-16" if raw[:2] in (b"\xff\xfe", b"\xfe\xff") else "utf-8-sig")
    except UnicodeDecodeError as error:
        line = raw.count(b"\n", 0, error.start) + 1
        raise SheetError([Trouble(line, "", "is not UTF-8; save it as CSV in UTF-8")]) from None
    if unwritable(text):
        line = next(i for i, said in enumerate(text.split("\n"), 1) if unwritable(said))
        raise SheetError([Trouble(line, "", "holds signs that are no text; save it as CSV in UTF-8")])
    return text


def _rows(text: str) -> Iterator[tuple[int, list[str]]]:
    """Rows with the line each begins at; empty ones are left out. A semicolon parts fields where no comma does."""
    first = text.partition("\n")[0]
    reader = csv.reader(io.StringIO(text), delimiter=";" if first.count(";") > first.count(",") else ",", strict=True)
    line = 1
    while True:
        try:
            cells = next(reader)
        except StopIteration:
            return
        except csv.Error as error:
            said = f"is no row of a CSV ({error}); look for a quotation mark that opens or ends where it should not"
            raise SheetError([Trouble(line, "", said)]) from None
        if line > MOST_ROWS:
            raise SheetError([Trouble(line, "", f"is beyond {MOST_ROWS} lines; send it in several files")])
        if any(map(str.strip, cells)):
            yield line, cells
        line = reader.line_num + 1


def _header(line: int, columns: list[str]) -> list[str]:
    names = [name.strip().casefold() for name in columns]
    said = ", ".join(COLUMNS)
    troubles = [
        Trouble(line, name or f"column {i + 1}", f"is no column; give some of {said}")
        for i, name in enumerate(names)
        if name not in COLUMNS
    ]
    troubles += [Trouble(line, name, "stands twice; name each column once") for name in sorted(set(names))
                 if names.count(name) > 1 and name in COLUMNS]  # fmt: skip
    troubles += [Trouble(line, name, "is missing; every part has one") for name in _NEEDED if name not in names]
    if troubles:
        raise SheetError(troubles[:MOST_TOLD], max(0, len(troubles) - MOST_TOLD))
    return names


class _Row:
    """One row as it is read; troubles: what is wrong with it."""

    def __init__(self, line: int, cells: Mapping[str, str]) -> None:
        self.line, self.cells = line, cells
        self.troubles: list[Trouble] = []

    def wrong(self, column: str, message: str) -> None:
        self.troubles.append(Trouble(self.line, column, message))

    def text(self, column: str, most: int = MOST_FIELD) -> str:
        said = self.cells.get(column, "").strip()
        if said.startswith("'") and said[1:2] in _FORMULA:
            said = said[1:]  # as it is written for spreadsheets
        if len(said) > most:
            self.wrong(column, f"has {len(said)} characters; give at most {most}")
        return said

    def listed(self, column: str) -> tuple[str, ...]:
        rows = tuple(filter(None, (part.strip() for part in self.cells.get(column, "").split("|"))))
        if len(rows) > MOST_LISTED:
            self.wrong(column, f"lists {len(rows)}; give at most {MOST_LISTED}")
        for row in rows:
            if len(row) > MOST_NUMBER:
                self.wrong(column, f"'{row[:20]}…' is no number; part the numbers by |")
        return rows

    def price(self) -> Decimal | None:
        said = self.text("price")
        if not said:
            return None
        try:
            price = Decimal(said)
        except InvalidOperation:
            price = Decimal(-1)
        if not (price.is_finite() and 0 <= price <= _MOST_PRICE):
            self.wrong("price", f"'{said[:30]}' is no price; give a number with a decimal point, such as 12.50")
            return None
        if isinstance(exponent := price.as_tuple().exponent, int) and exponent < -4:
            self.wrong("price", f"'{said[:30]}' has more than four decimals; round it")
        return price

    def whole(self, column: str, most: int) -> int | None:
        said = self.text(column)
        if said and not (said.isascii() and said.isdigit() and int(said) <= most):
            self.wrong(column, f"'{said[:30]}' is no whole number from 0 to {most}")
            return None
        return int(said) if said else None


def _marks(row: _Row, kind: str) -> Part | None:
    marks, wrong = marks_typed(kind, {name: row.text(name) for name in PROPERTIES if name in row.cells})
    for name, message in wrong.items():
        row.wrong(name, message)
    return marks


def _item(line: int, names: list[str], cells: list[str]) -> Item:
    if len(cells) > len(names):
        raise SheetError([Trouble(line, "", f"has {len(cells)} fields, and there are {len(names)} columns")])
    row = _Row(line, dict(zip(names, cells, strict=False)))
    kinds = table("hardware")["part"]
    number, kind = row.text("number", MOST_NUMBER), row.text("kind")
    if not key_of(number):
        row.wrong("number", "is empty; every part has a number")
    if kind not in kinds:
        row.wrong("kind", f"'{kind[:30]}' is no part; give one of {', '.join(kinds)}")
    original = row.text("original").casefold()
    if original not in _YES_NO:
        row.wrong("original", f"'{original[:30]}' is neither yes nor no")
    contains = row.listed("contains")
    for other in contains:
        if other not in kinds:
            row.wrong("contains", f"'{other[:30]}' is no part; give some of {', '.join(kinds)}")
    superseded = row.text("superseded_by", MOST_NUMBER)
    if superseded and key_of(superseded) == key_of(number):
        row.wrong("superseded_by", "a part is not sold in its own place; leave it empty")
    supplier, price, days = row.text("supplier", MOST_NUMBER), row.price(), row.whole("days", 1000)
    if supplier and price is None and not row.cells.get("price", "").strip():
        row.wrong("price", f"'{supplier}' asks for no price; give it, or leave the supplier out")
    if price is not None and not supplier:
        row.wrong("supplier", "a price stands without a supplier; name them")
    offers = (Offer(supplier, price, days),) if supplier and price is not None else ()
    item = Item(
        number, kind, row.text("text"), _YES_NO.get(original), _marks(row, kind), contains, row.listed("fits"),
        superseded, offers,
    )  # fmt: skip
    if row.troubles:
        raise SheetError(row.troubles)
    return item


def _take(found: dict[str, tuple[int, Item]], line: int, item: Item) -> None:
    """One more row of a number adds an offer; it may not say otherwise of the part itself."""
    if item.key not in found:
        found[item.key] = (line, item)
        return
    first, known = found[item.key]
    for column in ("kind", "text", "original", "marks", "contains", "fits", "superseded_by"):
        if getattr(item, column) != getattr(known, column):
            said = "marks" if column == "marks" else column
            raise SheetError(
                [Trouble(line, said, f"says otherwise of {item.number} than line {first}; make them agree")]
            )
    if any(offer.supplier.casefold() == old.supplier.casefold() for offer in item.offers for old in known.offers):
        raise SheetError(
            [Trouble(line, "supplier", f"{item.number} stands for them in line {first} or after it already")]
        )
    if not item.offers:
        raise SheetError([Trouble(line, "number", f"{item.number} stands in line {first} already")])
    found[item.key] = (first, replace(known, offers=known.offers + item.offers))


def _circles(found: Mapping[str, tuple[int, Item]]) -> list[Trouble]:
    """Numbers that stand in each other's place: nothing would be left to buy."""
    sound: set[str] = set()
    troubles = []
    for key, (line, _) in found.items():
        walked: list[str] = []
        at = key
        while at in found and at not in sound and at not in walked:
            walked.append(at)
            at = key_of(found[at][1].superseded_by)
        if at in walked and at not in sound:
            troubles.append(Trouble(line, "superseded_by", "the numbers in each other's place form a circle; end it"))
        sound.update(walked)
    return troubles


def sheet_of(items: Iterable[Item]) -> Iterator[str]:
    """A catalogue as lines of CSV, each with its end: `read_sheet` reads the same back."""
    return csv_lines(chain([COLUMNS], (row for item in items for row in _rows_of(item))))


def csv_lines(rows: Iterable[Iterable[str | float]]) -> Iterator[str]:
    """Rows as lines of CSV. A text that a spreadsheet would take for a formula stands behind an apostrophe.

    >>> list(csv_lines([["a", "=1+1", -1.5]]))
    ["a,'=1+1,-1.5\\n"]
    """
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    for row in rows:
        out.seek(0)
        out.truncate()
        writer.writerow([f"'{cell}" if isinstance(cell, str) and cell.startswith(_FORMULA) else cell for cell in row])
        yield out.getvalue()


def _rows_of(item: Item) -> Iterator[list[str]]:
    own = {
        "number": item.number, "kind": item.kind, "text": item.text, "contains": "|".join(item.contains),
        "original": "" if item.original is None else "yes" if item.original else "no",
        "fits": "|".join(item.fits), "superseded_by": item.superseded_by, **_printed(item.marks),
    }  # fmt: skip
    for offer in item.offers or (None,):
        bought = {} if offer is None else {
            "supplier": offer.supplier, "price": str(offer.price),
            "days": "" if offer.days is None else str(offer.days),
        }  # fmt: skip
        yield [(own | bought).get(column, "") for column in COLUMNS]


def _printed(marks: Part | None) -> dict[str, str]:
    if marks is None:
        return {}
    found = {}
    for field in fields(marks):
        value = getattr(marks, field.name)
        if field.name == "kind" or value is None:
            continue
        found[field.name] = f"{value!r} {MARKED[field.name][1]}" if field.name in MARKED else str(value)
    return found
