"""A whole job as one ZIP of plain files, and back: what `./warm core` reads, pictures and recordings as they are kept,
readings and logs as CSV, each edition of its record as data and as print. What each file holds stands in README.txt."""

import hashlib
import io
import json
import zipfile
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from typing import Any, BinaryIO
from uuid import UUID

from django.db import transaction

from files import pictures, recordings
from files.models import Picture, Recording
from jobs.answer.learned import layout_for
from jobs.exchange import bring_in
from jobs.facts import reads, writes
from jobs.facts.document import exported
from jobs.facts.values import ObservationValues, PhotoNoteValues
from jobs.models import Job, Log, Photo, Sound
from people.may import Member
from reports.data import as_data
from reports.models import Print, Record
from shared.problems import ApiError
from warmdraft.stock import csv_lines

#: What a bundle may unfold to, in all and a file, and how many files it may hold.
MOST_BYTES, MOST_A_FILE, MOST_FILES = 80_000_000, 9_000_000, 500
#: What may be sent at once.
MOST_SENT = 60_000_000
JOB, ATTACHED, SUMS = "job.json", "attachments.json", "SHA256SUMS"
_README = """\
This is one job of a workshop, in open formats.

job.json           the job: format warm-draft/job, version 1
attachments.json   which photo and which recording belongs to what
photos/            JPEG
sounds/            as they were recorded
readings.csv       columns time, kind, value, unit, phase
logs/              a series each: columns minutes, value, unit
records/           each edition of its record: JSON, and PDF where it was printed
SHA256SUMS         of every file; check with: sha256sum -c SHA256SUMS

Brought in again, job, photos and recordings are what they were, ids included. Records stay with the workshop that froze
them: they are here to be read.
"""
_SUFFIX = {"audio/wav": "wav", "audio/flac": "flac", "audio/ogg": "ogg", "audio/mpeg": "mp3"}


def bundle_of(who: Member, job_id: UUID) -> bytes:
    """The ZIP of a job of the workshop, or 404."""
    job = reads.job_of(who, job_id)
    files: dict[str, bytes] = {"README.txt": _README.encode()}
    files[JOB] = _json(exported(job, layout_for(job)))
    photos, sounds = list(job.photos.filter(withdrawn=False)), list(job.sounds.exclude(recording=None))
    for picture in Picture.objects.filter(id__in=[photo.picture_id for photo in photos]):
        files[f"photos/{picture.sha256}.jpg"] = picture.content()
    kept = {row.id: row for row in Recording.objects.filter(id__in=[sound.recording_id for sound in sounds])}
    for row in kept.values():
        files[_sound_file(row)] = row.content()
    files[ATTACHED] = _json({
        "photos": [_photo(photo) for photo in photos],
        "sounds": [_sound(sound, kept[sound.recording_id]) for sound in sounds if sound.recording_id in kept],
    })  # fmt: skip
    readings = [(row.at.isoformat(), row.kind, row.value, row.unit, row.phase) for row in job.readings.all()]
    files["readings.csv"] = _csv(("time", "kind", "value", "unit", "phase"), readings)
    for log in job.logs.all():
        files[f"logs/{log.id}.csv"] = _csv(("minutes", "value", "unit"), _series(log))
    for record in Record.objects.filter(job=job).select_related("by"):
        files[f"records/edition-{record.edition}.json"] = as_data(record, "json")[0].encode()
    for made in Print.objects.filter(record__job=job).select_related("record"):
        files[f"records/edition-{made.record.edition}-{made.language}-{made.size}.pdf"] = bytes(made.pdf)
    sums = "".join(f"{hashlib.sha256(data).hexdigest()}  {name}\n" for name, data in sorted(files.items()))
    files[SUMS] = sums.encode()
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
        for name, data in sorted(files.items()):
            packed.writestr(name, data)
    return out.getvalue()


def _json(value: Any) -> bytes:
    return json.dumps(value, ensure_ascii=False, indent=1).encode()


def _csv(head: tuple[str, ...], rows: list[tuple[Any, ...]]) -> bytes:
    return "".join(csv_lines([head, *rows])).encode()


def _series(log: Log) -> list[tuple[Any, ...]]:
    return [(minute, value, log.unit) for minute, value in zip(log.minutes, log.values, strict=True)]


def _sound_file(row: Recording) -> str:
    return f"sounds/{row.sha256}.{_SUFFIX.get(row.media_type, 'bin')}"


def _photo(photo: Photo) -> dict[str, Any]:
    note = photo.notes.last()
    return {
        "id": str(photo.id), "file": f"photos/{photo.picture.sha256}.jpg", "step": photo.step,
        "at": photo.at.isoformat(), "on_record": bool(note and note.on_record), "wires": note.wires if note else [],
    }  # fmt: skip


def _sound(sound: Sound, kept: Recording) -> dict[str, Any]:
    return {
        "id": str(sound.id), "file": _sound_file(kept), "phase": sound.phase, "part": sound.part,
        "healthy": sound.healthy, "at": sound.at.isoformat(),
    }  # fmt: skip


@dataclass(frozen=True)
class Unpacked:
    """A bundle that was opened: its files by name, checked against their sums, and what is attached."""

    files: dict[str, bytes]
    attached: dict[str, list[dict[str, Any]]]


def _no(message: str) -> ApiError:
    return ApiError(422, "damaged_file", message, [{"path": "$", "message": message}])


def unpacked(sent: BinaryIO) -> Unpacked:
    """Open a bundle. Raises ApiError for what is none, is damaged, or unfolds to more than it may."""
    try:
        with zipfile.ZipFile(sent) as packed:
            listed = [row for row in packed.infolist() if not row.is_dir()]
            if len(listed) > MOST_FILES or sum(row.file_size for row in listed) > MOST_BYTES:
                raise _no(
                    f"The ZIP unfolds to more than {MOST_FILES} files or {MOST_BYTES // 1_000_000} MB; send less."
                )
            files = {row.filename: _read(packed, row) for row in listed}
    except (zipfile.BadZipFile, NotImplementedError, RuntimeError, OSError, EOFError) as error:
        raise _no("This is no ZIP of a job, or it is damaged; export it again.") from error
    for need in (JOB, ATTACHED, SUMS):
        if need not in files:
            raise _no(f"The ZIP holds no {need}; export the whole job again.")
    for line in files[SUMS].decode(errors="replace").splitlines():
        told, _, name = line.partition("  ")
        if name in files and hashlib.sha256(files[name]).hexdigest() != told:
            raise _no(f"{name} is not what it was when it was packed; export the job again.")
    try:
        attached = json.loads(files[ATTACHED])
        photos, sounds = attached["photos"], attached["sounds"]
        checked = {
            "photos": [_checked(row, files) for row in photos],
            "sounds": [_checked(row, files) for row in sounds],
        }
    except (ValueError, KeyError, TypeError, AttributeError) as error:
        raise _no(f"{ATTACHED} says nothing that can be used ({error}); export the job again.") from None
    return Unpacked(files, checked)


def _read(packed: zipfile.ZipFile, row: zipfile.ZipInfo) -> bytes:
    """One file, never more of it than it may be, whatever its header says."""
    with packed.open(row) as file:
        data = file.read(MOST_A_FILE + 1)
    if len(data) > MOST_A_FILE:
        raise _no(f"{row.filename[:80]} has more than {MOST_A_FILE // 1_000_000} MB; leave it out.")
    return data


def _checked(row: dict[str, Any], files: dict[str, bytes]) -> dict[str, Any]:
    """Raises ValueError, KeyError or TypeError where an entry cannot be used."""
    UUID(row["id"])
    datetime.fromisoformat(row["at"])
    if row["file"] not in files:
        raise ValueError(f"{str(row['file'])[:80]} is missing")
    return row


def bring_in_bundle(who: Member, sent: BinaryIO) -> tuple[UUID, Callable[[], None]]:
    """Read a bundle; its job's id, and what brings it in: all of it or nothing. The same bundle twice is one job."""
    who.require("import_a_job")
    opened = unpacked(sent)
    job_id, prepared = bring_in.prepared(who, opened.files[JOB])
    # decoded before anything is held, as any other picture is
    made = {row["id"]: pictures.made_of(opened.files[row["file"]]) for row in opened.attached["photos"]}

    def act() -> None:
        with transaction.atomic():
            bring_in.bring_in(who, job_id, prepared)
            job = reads.bare_job_of(who, job_id)
            for row in opened.attached["photos"]:
                _bring_photo(who, job, row, made[row["id"]])
            for row in opened.attached["sounds"]:
                _bring_sound(who, job, row, opened.files[row["file"]])

    return job_id, act


def _bring_photo(who: Member, job: Job, row: dict[str, Any], made: pictures.Made) -> None:
    photo_id, at = UUID(row["id"]), datetime.fromisoformat(row["at"])
    if Photo.objects.filter(id=photo_id, job=job).exists():
        return
    writes.add_photo(who, job.id, photo_id, made, str(row.get("step") or "")[:80], at)
    if row.get("on_record"):
        note = PhotoNoteValues(photo_id=photo_id, on_record=True, wires=[], at=at)
        writes.note_photo(who, job.id, photo_id, note)


def _bring_sound(who: Member, job: Job, row: dict[str, Any], data: bytes) -> None:
    sound_id, at = UUID(row["id"]), datetime.fromisoformat(row["at"])
    known = Sound.objects.filter(id=sound_id, job=job).first()
    if known is None:
        observed = ObservationValues(phase="after" if row.get("phase") == "after" else "before", at=at)
        writes.add_sound(
            who, job.id, sound_id, data, observed, str(row.get("part") or "")[:80], bool(row.get("healthy"))
        )
    elif known.recording_id is None:
        Sound.objects.filter(pk=known.pk).update(recording=recordings.keep(who, data))
