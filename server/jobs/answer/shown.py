"""A job as a screen shows it: its state in this person's words and units, and what rows alone can tell."""

from dataclasses import dataclass, fields, replace
from datetime import datetime
from typing import Any, Literal, TypeVar
from uuid import UUID

from jobs.facts.document import Knows, facts_of, named_in_a_file
from jobs.facts.inputs import PLATE
from jobs.models import Fact, Job, Photo, Sound
from machines.models import Machine, Place
from people.habits import Habits
from people.may import Member
from warmdraft.answers import JobAnswer, headline_answer, job_answer
from warmdraft.answers.facts import ObservationAnswer
from warmdraft.units import to_si
from warmdraft.words import Words, words_for
from warmdraft.work import STAGES, JobFacts, Phase, Viewer, state_of


@dataclass(slots=True, kw_only=True)
class ToldAnswer:
    """What was told of one complaint."""

    since: str
    how_often: str
    what: str


@dataclass(slots=True, kw_only=True)
class PlaceSeen:
    """A place as a record freezes it."""

    id: UUID
    name: str
    address: str
    contact: str


@dataclass(slots=True, kw_only=True)
class PlaceAnswer(PlaceSeen):
    """The place of a job; version: what a change of it is based on."""

    version: int


@dataclass(slots=True, kw_only=True)
class PlateSeen:
    """What is known of a rating plate."""

    number: str = ""
    volts: float | None = None
    heater_watts: float | None = None
    amps: float | None = None


@dataclass(slots=True, kw_only=True)
class MachineSeen:
    """A machine as a record freezes it."""

    id: UUID
    name: str
    profile: str
    profile_title: str
    layout: str
    energy: str
    supply: str
    variant: dict[str, str]
    age_years: float | None
    plate: PlateSeen


@dataclass(slots=True, kw_only=True)
class MachineAnswer(MachineSeen):
    """The machine of a job; version: what a change of it is based on."""

    version: int


@dataclass(slots=True, kw_only=True)
class WireMark:
    """Where a wire is on a photo: shares of its width and height, from the upper left."""

    key: str
    x: float
    y: float


@dataclass(slots=True, kw_only=True)
class PhotoAnswer:
    """A photo of the job: where it is, how large, the step it is of, if any; on_record: the customer's record shows it.

    wires: those of its step that were marked on it.
    """

    id: UUID
    url: str
    width: int
    height: int
    step: str
    by: str
    at: datetime
    on_record: bool
    wires: list[WireMark]


Listened = Literal["waiting", "heard", "trouble"]


@dataclass(slots=True, kw_only=True)
class RecordingAnswer:
    """A recording of the job: where it is, empty where only what it told was brought in; state: how far listening to it
    has come; trouble: why nothing can be heard in it; healthy: it is of a machine of the kind that runs well. What it
    told stands among the sounds, under the same id."""

    id: UUID
    url: str
    media_type: str
    phase: Phase
    part: str
    healthy: bool
    state: Listened
    trouble: str
    withdrawn: bool
    supersedes: UUID | None
    by: str
    at: datetime


@dataclass(slots=True)
class TurnAnswer:
    """How many recordings are listened to before it is this one's turn; null while it is listened to, or was."""

    before: int | None


@dataclass(slots=True, kw_only=True)
class WorkshopJob(JobAnswer):
    """A job with everything a screen shows of it: what follows from its facts, and what the workshop keeps beside."""

    id: UUID
    version: int
    title: str
    told: dict[str, ToldAnswer]
    said: str
    booked_for: datetime
    place: PlaceAnswer
    machine: MachineAnswer
    vent: dict[str, Any] | None
    plan: dict[str, Any] | None
    photos: list[PhotoAnswer]
    recordings: list[RecordingAnswer]
    editions: int


def words_of(who: Member) -> Words:
    """The language and the units of this person."""
    return words_for(who.workshop.speaks, Habits(**who.person.habits).units())


def viewer_of(who: Member) -> Viewer:
    """What this person carries, and what they are qualified for."""
    carries = Habits(**who.person.habits).carries
    return Viewer(None if carries is None else frozenset(carries), who.qualifications)


def _by(words: Words, fact: Fact) -> str:
    """Who did it; of what a file brought in: who the file says, and who brought it."""
    return words.from_file(fact.by_name, fact.by.name) if fact.from_file else named_in_a_file(fact)


def _place(place: Place) -> PlaceAnswer:
    return PlaceAnswer(
        id=place.id, name=place.name, address=place.address, contact=place.contact, version=place.version
    )


def _machine(machine: Machine, words: Words) -> MachineAnswer:
    return MachineAnswer(
        id=machine.id, name=machine.name, profile=machine.profile, profile_title=words.profile(machine.profile),
        layout=machine.layout, energy=machine.energy, supply=machine.supply, variant=machine.variant or {},
        age_years=machine.age_years, version=machine.version, plate=_plate(machine.data_plate),
    )  # fmt: skip


def _plate(known: dict[str, Any]) -> PlateSeen:
    heat = known.get("heat") or {}

    def said(key: str, unit: str) -> float | None:
        quantity = heat.get(key)
        return None if quantity is None else to_si(quantity["value"], quantity["unit"], unit)  # type: ignore[arg-type]

    typed = known.get(PLATE) or {}
    return PlateSeen(
        number=typed.get("number", ""), amps=typed.get("amps"), volts=said("supply_voltage", "voltage"),
        heater_watts=said("power", "power"),
    )  # fmt: skip


def _photos(job: Job) -> list[PhotoAnswer]:
    notes = {note.photo_id: note for note in job.photonotes.all()}  # the latest of a photo holds

    def answer(photo: Photo) -> PhotoAnswer:
        picture, note = photo.picture, notes.get(photo.id)
        return PhotoAnswer(
            id=photo.id, url=f"/api/v1/photos/{picture.sha256}", width=picture.width, height=picture.height,
            step=photo.step, by=photo.by.name, at=photo.at, on_record=note is not None and note.on_record,
            wires=[WireMark(**mark) for mark in note.wires] if note else [],
        )  # fmt: skip

    return [answer(photo) for photo in job.photos.all() if not photo.withdrawn]


def _recordings(job: Job, words: Words) -> list[RecordingAnswer]:
    def answer(sound: Sound) -> RecordingAnswer:
        state: Listened = "heard" if sound.told else "trouble" if sound.trouble else "waiting"
        kept = sound.recording
        return RecordingAnswer(
            id=sound.id, url=f"/api/v1/recordings/{kept.sha256}" if kept else "",
            media_type=kept.media_type if kept else "", phase="after" if sound.phase == "after" else "before",
            part=sound.part, healthy=sound.healthy, state=state, trouble=sound.trouble, withdrawn=sound.withdrawn,
            supersedes=sound.supersedes_id, by=_by(words, sound), at=sound.at,
        )  # fmt: skip

    return [answer(sound) for sound in job.sounds.all()]


@dataclass(frozen=True, slots=True)
class Known:
    """A job, and its facts with the way into its machine: what does not depend on who asks."""

    job: Job
    facts: JobFacts


def known_of(job: Job, knows: Knows, words: Words) -> Known:
    """Read a job's facts; asks no database. job: with all its facts; knows: what the workshop does beside."""
    return Known(job, facts_of(job, knows, lambda fact: _by(words, fact)))


_Answer = TypeVar("_Answer", bound=ObservationAnswer)


def shown(known: Known, who: Member) -> WorkshopJob:
    """Everything a screen shows of a job. One read of the facts, one verdict."""
    job, words = known.job, words_of(who)
    answer = job_answer(state_of(known.facts, viewer_of(who)), words)
    came = {str(row.id): row.seq for kind in (job.readings, job.findings, job.metertests, job.logs, job.sounds)
            for row in kind.all()}  # fmt: skip

    def as_they_came(rows: list[_Answer]) -> list[_Answer]:
        """What was taken back stands where it came, not behind the rest."""
        return sorted(rows, key=lambda row: came[row.id or ""])

    ordered = replace(
        answer,
        readings=as_they_came(answer.readings),
        findings=as_they_came(answer.findings),
        meter=as_they_came(answer.meter),
        logs=as_they_came(answer.logs),
        sounds=as_they_came(answer.sounds),
    )
    return WorkshopJob(
        **{field.name: getattr(ordered, field.name) for field in fields(JobAnswer)},
        id=job.id,
        version=job.version,
        title=job.title,
        told={name: ToldAnswer(**told) for name, told in job.told.items()},
        said=job.said,
        booked_for=job.booked_for,
        place=_place(job.machine.place),
        machine=_machine(job.machine, words),
        vent=job.carried.get("vent"),
        plan=job.carried.get("plan"),
        photos=_photos(job),
        recordings=_recordings(job, words),
        editions=job.editions,
    )


@dataclass(frozen=True, slots=True)
class Summed:
    """What a list says of a job, as any of its workshop sees it."""

    stage: str
    stage_number: int
    next: str
    headline: str


def summed_up(known: Known) -> Summed:
    """The same job in a line."""
    state, words = state_of(known.facts), words_for(known.job.workshop.speaks)
    said = headline_answer(state.before, state.verdict, words)
    stage = state.next.stage
    return Summed(stage, STAGES.index(stage) + 1, words.next(state.next), said.text)
