"""What a recording of a job tells, once somebody has listened to it."""

from typing import Any
from uuid import UUID

from django.db import transaction
from django.utils import timezone

from files.models import Recording
from files.recordings import Unheard, listen
from jobs.facts import reads
from jobs.facts.document import job_document
from jobs.facts.timeline import record_happening
from jobs.models import Sound
from people.may import Member
from people.models import Membership

#: What of the answer stays with the fact, in the keys of a file.
_TOLD = ("verdict", "stands", "seconds", "clipped")


def listen_to(sound_id: UUID) -> UUID | None:
    """Listen to a recording and write down what it tells; the job it is of, None where nobody waits for it any more.

    Twice is as once: what was heard already stands.
    """
    unheard = Sound.objects.filter(id=sound_id, told__isnull=True, trouble="")
    sound = unheard.select_related("by", "workshop", "job").first()
    if sound is None or sound.recording_id is None:
        return None
    who = Member(sound.by, sound.workshop, _role_of(sound), frozenset())
    document = job_document(reads.job_of(who, sound.job_id))
    recording = Recording.objects.get(id=sound.recording_id)
    told: dict[str, Any] | None = None
    trouble = ""
    try:
        # what it tells beside healthy ones follows from what it tells by itself, whenever they come
        machine = {key: value for key, value in document["machine"].items() if key != "sounds_healthy"}
        answer = listen(
            recording.content(), {"format": document["format"], "version": document["version"], "machine": machine}
        )
        told = {key: answer[key] for key in _TOLD} | {
            "scores": {row["source"]: row["score"] for row in answer["sources"]},
            "rates": {part: hz for part, hz in answer["measured_rates"].items() if hz is not None},
        }
        Recording.objects.filter(id=recording.id).update(curves=answer["curves"])
    except Unheard as error:
        trouble = str(error)[:300]
    with transaction.atomic():
        job = reads.locked(who, sound.job_id)
        if not unheard.update(told=told, trouble=trouble):
            return None
        what = "sound_heard" if told else "sound_unheard"
        record_happening(who, job, what, timezone.now(), after={"id": str(sound_id), **(told or {"why": trouble})})
    return sound.job_id


def _role_of(sound: Sound) -> str:
    """Whoever recorded it may have left the workshop since."""
    kept = (
        Membership.objects.filter(workshop=sound.workshop_id, person=sound.by_id).values_list("role", flat=True).first()
    )
    return kept or ""
