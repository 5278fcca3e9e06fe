"""A whole workshop as a ZIP of open files: a table a model, pictures, recordings and prints as they are, hashes."""

import hashlib
import json
import zipfile
from collections.abc import Iterator
from datetime import datetime
from typing import IO, Any

from django.core import serializers
from django.core.serializers.json import DjangoJSONEncoder
from django.db import connection, transaction
from django.db.models import Model
from django.utils import timezone

from files.models import Content, Picture, Recording
from people.models import Membership, Person, Workshop
from reports.models import Print
from whole.rows import rows_of, taken_out

MANIFEST, PEOPLE, README = "workshop.json", "people.json", "README.txt"
FORMAT, VERSION = "warm-draft/workshop", 1
#: What of a workshop goes along.
SETTINGS = ("name", "time_zone", "currency", "language")
#: Rows read at once.
_PAGE = 1000
_README = """\
This is a whole workshop, in open formats.

workshop.json   the workshop, how many rows each table has, and the SHA-256 of every other file
people.json     who worked in it; no passwords
tables/         a table each, a row a line, as JSON: {"model", "pk", "fields"}
files/          pictures (JPEG), recordings and prints (PDF), each named by the SHA-256 of what is in it

Addresses that open something without signing in (records by link, calendars) are not in it: they are given anew where
it is brought in. Neither are drills, nor what follows from the rest (lists, search).
"""
#: Columns that stand as files of their own.
BINARY: dict[type[Model], str] = {Picture: "data", Recording: "data", Print: "pdf"}


def write_out(workshop: Workshop, target: IO[bytes]) -> dict[str, Any]:
    """Write a workshop out, as it is at one moment. Its manifest."""
    with transaction.atomic(), zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED) as packed:
        if len(connection.savepoint_ids) == 0:
            with connection.cursor() as cursor:  # all of it from one moment, whoever writes meanwhile
                cursor.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ READ ONLY")
        sums: dict[str, str] = {}
        counts: dict[str, int] = {}
        named: set[Any] = set()
        for model in taken_out():
            counts[model._meta.label] = _table(packed, model, workshop, sums, named)
        for model, column in BINARY.items():
            _files(packed, model, column, workshop, sums)
        _add(packed, PEOPLE, _json(_people(workshop, named)), sums)
        _add(packed, README, _README.encode(), sums)
        manifest = {
            "format": FORMAT, "version": VERSION, "id": str(workshop.id), "at": timezone.now().isoformat(),
            **{name: getattr(workshop, name) for name in SETTINGS}, "rows": counts, "sha256": sums,
        }  # fmt: skip
        packed.writestr(MANIFEST, _json(manifest))
    return manifest


class _Exact(DjangoJSONEncoder):
    """Moments to the last digit that is kept: Django's own leave three of six out."""

    def default(self, o: Any) -> Any:
        return o.isoformat() if isinstance(o, datetime) else super().default(o)


def _json(value: Any) -> bytes:
    return json.dumps(value, ensure_ascii=False, indent=1, default=str).encode()


def _add(packed: zipfile.ZipFile, name: str, data: bytes, sums: dict[str, str]) -> None:
    packed.writestr(name, data)
    sums[name] = hashlib.sha256(data).hexdigest()


def columns_of(model: type[Model]) -> list[str]:
    """The fields of a table."""
    return [
        field.name for field in model._meta.concrete_fields if not field.primary_key and field.name != BINARY.get(model)
    ]


def _table(
    packed: zipfile.ZipFile, model: type[Model], workshop: Workshop, sums: dict[str, str], named: set[Any]
) -> int:
    """A model's rows; named: the people they name."""
    name, total, rows = f"tables/{model._meta.label_lower}.jsonl", hashlib.sha256(), 0
    people = [field.attname for field in model._meta.concrete_fields if field.related_model is Person]
    with packed.open(name, "w") as out:
        for page in _pages(model, workshop):
            named |= {getattr(row, field) for row in page for field in people}
            text = serializers.serialize("jsonl", page, cls=_Exact, fields=columns_of(model)).encode()
            total.update(text)
            out.write(text)
            rows += len(page)
    sums[name] = total.hexdigest()
    return rows


def _pages(model: type[Model], workshop: Workshop) -> Iterator[list[Any]]:
    rows, after = rows_of(model, workshop).defer(*filter(None, [BINARY.get(model)])), None
    while True:
        page = list((rows if after is None else rows.filter(pk__gt=after))[:_PAGE])
        if not page:
            return
        after = page[-1].pk
        yield page


def _files(packed: zipfile.ZipFile, model: type[Model], column: str, workshop: Workshop, sums: dict[str, str]) -> None:
    for key in rows_of(model, workshop).values_list("pk", flat=True):
        row = model._default_manager.get(pk=key)
        data = row.content() if isinstance(row, Content) else bytes(getattr(row, column))
        name = f"files/{hashlib.sha256(data).hexdigest()}"
        if name not in sums:
            _add(packed, name, data, sums)


def _people(workshop: Workshop, named: set[Any]) -> list[dict[str, Any]]:
    """Whoever works here, and who is named without: the latter by name alone."""
    members = {row.person_id: row for row in Membership.objects.filter(workshop=workshop).select_related("person")}
    found = []
    for person in Person.objects.filter(id__in={*members, *named} - {None}).order_by("name", "id"):
        row = members.get(person.id)
        said: dict[str, Any] = {"id": str(person.id), "name": person.name}
        if row is not None:
            said |= {"email": person.email, "role": row.role, "qualifications": row.qualifications,
                     "habits": person.habits}  # fmt: skip
        found.append(said)
    return found
