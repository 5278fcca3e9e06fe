"""The workshop's parts catalogue: read in whole or not at all, found by any word that is begun, written out again."""

import json
import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Any

from django.db import connection, transaction

from jobs.answer.shown import words_of
from jobs.lists.search import tsquery
from people.may import Member
from people.models import Workshop
from shared.problems import ApiError
from shared.slots import give_connection_back, working
from stock.models import CatalogueItem
from warmdraft.stock import Item, SheetError, document_of, item_of, key_of, read_sheet, sheet_of
from warmdraft.words import Words, search_terms, words_in

#: Numbers in a workshop's catalogue, at most; on a page; that are looked through in order before the index is asked;
#: that the index gives to be put in order.
MOST_NUMBERS, A_PAGE, LOOKED_THROUGH, MOST_FOUND = 200_000, 40, 1_000, 2_000
#: Numbers of a part that are weighed for one job: those for its machine, then those that name no machine.
MOST_WEIGHED = 60
_PIECE = re.compile(r"\d+|[^\W\d_]+")

_INCOMING = """
CREATE TEMPORARY TABLE incoming (key text COLLATE "C" PRIMARY KEY, covers text[], fits text[], words text[],
    document jsonb) ON COMMIT DROP
"""
_INTO = """
INSERT INTO stock_catalogueitem AS known (workshop_id, key, covers, fits, search, document)
SELECT %s, key, covers, fits, array_to_tsvector(words), document FROM incoming
ON CONFLICT (workshop_id, key) DO UPDATE SET covers = excluded.covers, fits = excluded.fits, search = excluded.search,
    document = excluded.document
WHERE known.document IS DISTINCT FROM excluded.document OR known.search IS DISTINCT FROM excluded.search
RETURNING xmax = 0
"""
_GONE = """DELETE FROM stock_catalogueitem known WHERE workshop_id = %s
AND NOT EXISTS (SELECT FROM incoming WHERE incoming.key = known.key)"""
_LATEST = """
SELECT document FROM (
    SELECT key, search, document FROM stock_catalogueitem WHERE workshop_id = %(workshop)s AND key > %(after)s
    ORDER BY key LIMIT %(looked_through)s
) first WHERE search @@ to_tsquery('simple', %(query)s) ORDER BY key LIMIT %(most)s
"""
_ALL = """
SELECT document FROM (
    SELECT key, document FROM stock_catalogueitem
    WHERE workshop_id = %(workshop)s AND search @@ to_tsquery('simple', %(query)s) LIMIT %(most_found)s
) found WHERE key > %(after)s ORDER BY key LIMIT %(most)s
"""


@dataclass(frozen=True, slots=True)
class Brought:
    """What came of a sheet: its numbers, how many of them are new, changed, and how many that it lacks went."""

    numbers: int
    new: int
    changed: int
    removed: int


def bring_in(who: Member, raw: bytes, whole: bool) -> Brought:
    """Take a sheet into the catalogue; whole: what it lacks goes. Raises the problem that names all damaged rows."""
    who.require("keep_the_catalogue")
    try:
        with working:
            items = read_sheet(raw)
            rows = [_row(item, words_of(who)) for item in items]
    except SheetError as error:
        more = f" And {error.more} more." if error.more else ""
        first = error.troubles[0]
        at = f"Line {first.line}{', ' + first.column if first.column else ''}"
        raise ApiError(
            422, "damaged_sheet", f"{at}: {first.message}. Nothing of the sheet was taken.{more}",
            [{"path": f"line {row.line}{', ' + row.column if row.column else ''}", "message": row.message}
             for row in error.troubles],
        ) from None  # fmt: skip
    with transaction.atomic(), connection.cursor() as cursor:
        # one sheet after the other: two at once would wait for each other's rows for ever
        Workshop.objects.select_for_update().only("id").get(id=who.workshop.id)
        cursor.execute(_INCOMING)
        with cursor.copy("COPY incoming FROM STDIN") as copy:
            for row in rows:
                copy.write_row(row)
        cursor.execute(_INTO, [who.workshop.id])
        written = [new for (new,) in cursor.fetchall()]
        removed = 0
        if whole:
            cursor.execute(_GONE, [who.workshop.id])
            removed = cursor.rowcount
        cursor.execute("DROP TABLE incoming")  # another sheet may follow in the same transaction
        _not_too_many(who)
    return Brought(len(items), sum(written), len(written) - sum(written), removed)


def _not_too_many(who: Member) -> None:
    number = CatalogueItem.objects.filter(workshop=who.workshop).count()
    if number > MOST_NUMBERS:
        raise ApiError(
            422, "too_many", f"With it the catalogue would have {number} numbers; it holds {MOST_NUMBERS}. Leave out "
            "what is not sold any more, or bring the sheet in as the whole catalogue.",
        )  # fmt: skip


def _row(item: Item, words: Words) -> tuple[Any, ...]:
    covers = sorted(item.covers)
    said = [item.number, item.key, item.text, item.superseded_by, *(words.thing("part", part) for part in covers),
            *covers, *item.fits, *map(key_of, item.fits), *(offer.supplier for offer in item.offers)]  # fmt: skip
    fits = sorted({key_of(machine) for machine in item.fits})
    # a number is typed with gaps where its letters end
    pieces = [piece for key in (item.key, *fits) for piece in _PIECE.findall(key.lower())]
    return (
        item.key,
        covers,
        fits,
        sorted({*words_in(" ".join(said)), *pieces}),
        json.dumps(document_of(item), ensure_ascii=False),
    )


def found(who: Member, typed: str, after: str, kind: str = "") -> list[Item]:
    """Items by their numbers that say every word typed, begun or what the trade calls the same; one more than a page.

    Bounded however many there are: the first are looked through in order; a word that is rare among them is rare among
    all, and then the index has few rows to give.
    """
    terms = search_terms(typed)
    rows = CatalogueItem.objects.filter(workshop=who.workshop, key__gt=after)
    if kind:
        rows = rows.filter(covers__contains=[kind])
    if not terms or kind:
        if terms:
            rows = rows.extra(where=["search @@ to_tsquery('simple', %s)"], params=[tsquery(terms)])
        return list(map(item_of, rows.order_by("key").values_list("document", flat=True)[: A_PAGE + 1]))
    asked: dict[str, Any] = {"workshop": who.workshop.id, "after": after, "query": tsquery(terms), "most": A_PAGE + 1,
             "looked_through": LOOKED_THROUGH, "most_found": MOST_FOUND}  # fmt: skip
    with connection.cursor() as cursor:
        cursor.execute(_LATEST, asked)
        documents = cursor.fetchall()
        if len(documents) <= A_PAGE:
            cursor.execute(_ALL, asked)
            documents = cursor.fetchall()
    return [item_of(json.loads(document)) for (document,) in documents]


def serving(who: Member, parts: Iterable[str], plate: str, numbers: Iterable[str]) -> list[Item]:
    """Items that may stand in for parts of a machine, with what is sold in their place: those for the machine by its
    plate's number first, then those that name none; and those that were named already."""
    mine = CatalogueItem.objects.filter(workshop=who.workshop)
    found: dict[str, Item] = {}

    def take(documents: Iterable[dict[str, Any]]) -> None:
        for item in map(item_of, documents):
            found.setdefault(item.key, item)

    take(mine.filter(key__in={key_of(number) for number in numbers}).values_list("document", flat=True))
    for part in parts:
        rows = mine.filter(covers__contains=[part]).order_by("key").values_list("document", flat=True)
        if key_of(plate):
            take(rows.filter(fits__contains=[key_of(plate)])[:MOST_WEIGHED])
            take(rows.filter(fits=[])[:MOST_WEIGHED])
        else:
            take(rows[:MOST_WEIGHED])
    for _ in range(5):  # numbers replaced again and again are rare, and a part nobody finds is looked up by hand
        later = {key for item in found.values() if (key := key_of(item.superseded_by)) and key not in found}
        if not later:
            break
        take(mine.filter(key__in=later).values_list("document", flat=True))
    return list(found.values())


def written_out(who: Member) -> Iterator[str]:
    """The catalogue as a sheet, line by line; read in pages, however long it is."""

    def items() -> Iterator[Item]:
        rows = CatalogueItem.objects.filter(workshop=who.workshop).order_by("key")
        after = ""
        while page := list(rows.filter(key__gt=after).values_list("key", "document")[:LOOKED_THROUGH]):
            after = page[-1][0]
            give_connection_back()  # whoever takes it slowly needs none in between
            yield from (item_of(document) for _, document in page)

    return sheet_of(items())
