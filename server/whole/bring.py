"""A whole workshop in from its ZIP: all of it or nothing, into an installation that does not have it yet."""

import hashlib
import json
import uuid
import zipfile
import zlib
from collections import defaultdict
from collections.abc import Iterator
from contextlib import contextmanager
from itertools import islice
from typing import IO, Any

from django.core import serializers
from django.core.exceptions import ValidationError
from django.core.serializers.base import DeserializationError
from django.db import IntegrityError, connection, transaction
from django.db.models import BigAutoField, Model

from files import objects
from files.models import Content
from people.models import Membership, Person, Role, Workshop
from people.services import no_address
from warmdraft.errors import DocumentError
from whole.out import BINARY, FORMAT, MANIFEST, PEOPLE, SETTINGS, VERSION
from whole.rows import models_of_workshops, taken_out

#: What a file may unfold to; how many files there may be.
MOST_BYTES, MOST_FILES = 200_000_000_000, 5_000_000
#: Rows kept at once; of those that stand for a file, which may be large.
_PAGE, _PAGE_OF_FILES = 500, 20


def bring_in(source: IO[bytes]) -> Workshop:
    """Bring a workshop in. Raises DocumentError with what is wrong, and then nothing is kept."""
    try:
        with zipfile.ZipFile(source) as packed:
            manifest = _manifest(packed)
            with transaction.atomic():
                return _Bringing(packed, manifest).all()
    except (zipfile.BadZipFile, zlib.error, EOFError, NotImplementedError, RuntimeError):
        raise DocumentError("$", "this is no ZIP, or it is damaged; take the file as it was written out") from None
    except (ValueError, KeyError, TypeError, AttributeError):
        raise DocumentError("$", "something in it is not as it was written out; take the file as it was") from None
    except (DeserializationError, ValidationError, IntegrityError) as error:
        raise DocumentError("$", f"a row cannot be kept: {str(error)[:300]}") from None


def _manifest(packed: zipfile.ZipFile) -> dict[str, Any]:
    members = {info.filename: info for info in packed.infolist()}
    if len(members) > MOST_FILES or sum(info.file_size for info in members.values()) > MOST_BYTES:
        raise DocumentError("$", "this unfolds to more than a workshop has")
    if MANIFEST not in members:
        raise DocumentError("$", f"there is no {MANIFEST} in it; take the file as it was written out")
    try:
        manifest = json.loads(packed.read(MANIFEST))
        kind, version, sums = manifest["format"], manifest["version"], dict(manifest["sha256"])
    except (ValueError, KeyError, TypeError):
        raise DocumentError("$", f"{MANIFEST} cannot be read") from None
    if kind != FORMAT or version != VERSION:
        raise DocumentError("$.format", f"this is {kind} {version}; give {FORMAT} {VERSION}")
    for name, sha256 in sums.items():
        if name not in members:
            raise DocumentError("$.sha256", f"{name} is missing from it")
        if _digest(packed, name) != sha256:
            raise DocumentError("$.sha256", f"{name} is not what was written out: its hash differs")
    return dict(manifest)


def _digest(packed: zipfile.ZipFile, name: str) -> str:
    total = hashlib.sha256()
    with packed.open(name) as part:
        while chunk := part.read(1 << 20):
            total.update(chunk)
    return total.hexdigest()


class _Bringing:
    """One workshop on its way in.

    ids: by model, the rows that are in by now: nothing may name another's; highest: place in the order of facts.
    """

    def __init__(self, packed: zipfile.ZipFile, manifest: dict[str, Any]) -> None:
        self.packed, self.manifest = packed, manifest
        self.ids: dict[type[Model], set[Any]] = defaultdict(set)
        self._named_of_its_own: dict[type[Model], set[Any]] = defaultdict(set)
        self.people: dict[str, uuid.UUID] = {}
        self.highest = 1

    def all(self) -> Workshop:
        workshop_id = uuid.UUID(self.manifest["id"])
        if Workshop.objects.filter(id=workshop_id).exists():
            raise DocumentError("$.id", "this workshop is here already; nothing was changed")
        self.workshop = Workshop.objects.create(
            id=workshop_id, **{name: self.manifest[name] for name in SETTINGS if name in self.manifest}
        )
        self._people()
        unknown = self.manifest["rows"].keys() - {model._meta.label for model in models_of_workshops()}
        if unknown:
            raise DocumentError("$.rows", f"{', '.join(sorted(unknown))} are of a later release; bring it in there")
        for model in taken_out():
            self._table(model)
        with connection.cursor() as cursor:  # what is recorded from now on comes after what came along
            cursor.execute(
                "SELECT setval('jobs_fact_seq', greatest((SELECT last_value FROM jobs_fact_seq), %s))",
                [self.highest],
            )
        return self.workshop

    def _people(self) -> None:
        for said in json.loads(self.packed.read(PEOPLE)):
            email = said.get("email")
            person = Person.objects.filter(email=email).first() if email else None
            if person is None:
                taken = Person.objects.filter(id=said["id"]).exists()
                fresh = uuid.uuid4() if taken else uuid.UUID(said["id"])
                person = Person(
                    id=fresh, email=email or no_address(fresh), name=said["name"],
                    habits=said.get("habits", {}), is_active=bool(email),
                )  # fmt: skip
                person.set_unusable_password()
                person.save()
            self.people[said["id"]] = person.id
            if email:
                if said["role"] not in Role.values:
                    raise DocumentError(f"${PEOPLE}", f"'{said['role']}' is no role")
                Membership.objects.create(
                    person=person, workshop=self.workshop, role=said["role"], qualifications=said["qualifications"]
                )

    def _table(self, model: type[Model]) -> None:
        name = f"tables/{model._meta.label_lower}.jsonl"
        if name not in self.packed.NameToInfo:
            return
        most = _PAGE_OF_FILES if model in BINARY else _PAGE
        with _as_they_were(model), self.packed.open(name) as lines:
            rows = self._rows(model, lines)
            while page := list(islice(rows, most)):
                self.ids[model] |= {row.pk for row in page}
                for row in page:
                    if isinstance(row, Content) and objects.store() is not None:
                        objects.put(row.key, row.content())
                        row.data = None
                model._default_manager.bulk_create(page)
        stray = self._named_of_its_own.pop(model, set()) - self.ids[model]
        if stray:
            raise DocumentError(f"${model._meta.label_lower}", f"a row names {stray.pop()}, which is not in it")

    def _rows(self, model: type[Model], lines: IO[bytes]) -> Iterator[Model]:
        for found in serializers.deserialize("jsonl", (line.decode() for line in lines)):
            row = found.object
            if type(row) is not model:
                raise DocumentError(f"${model._meta.label_lower}", f"holds a row of {row._meta.label}")
            for field in model._meta.concrete_fields:
                if field.is_relation:
                    setattr(row, field.attname, self._named(model, field, getattr(row, field.attname)))
            if isinstance(model._meta.pk, BigAutoField):
                row.pk = None  # counted anew here
            if model in BINARY:
                setattr(row, BINARY[model], self.packed.read(f"files/{getattr(row, 'sha256', '')}"))
            self.highest = max(self.highest, getattr(row, "seq", None) or 1)
            yield row

    def _named(self, model: type[Model], field: Any, named: Any) -> Any:
        """What a row names: this workshop, its people, and what came with it; nothing else."""
        if named is None:
            return None
        if field.related_model is Person:
            if str(named) not in self.people:
                raise DocumentError(f"${PEOPLE}", f"a row names {named}, who is not in it")
            return self.people[str(named)]
        if field.related_model is model:  # a row that may come later
            self._named_of_its_own[model].add(named)
            return named
        known = {self.workshop.id} if field.related_model is Workshop else self.ids[field.related_model]
        if named not in known:
            raise DocumentError(f"${model._meta.label_lower}", f"a row names a {field.name} that is not in it")
        return named


@contextmanager
def _as_they_were(model: type[Model]) -> Iterator[None]:
    """Moments that a row is given when it is made stay what they were. For a process that does nothing else."""
    kept = [field for field in model._meta.concrete_fields if getattr(field, "auto_now_add", False)
            or getattr(field, "auto_now", False)]  # fmt: skip
    flags = [(field, field.auto_now, field.auto_now_add) for field in kept]  # type: ignore[attr-defined]
    for field in kept:
        field.auto_now = field.auto_now_add = False  # type: ignore[attr-defined]
    try:
        yield
    finally:
        for field, now, add in flags:
            field.auto_now, field.auto_now_add = now, add  # type: ignore[attr-defined]
