"""Lays out the demo world: people, places, machines, and jobs in different states, through the app's own services."""

import io
from datetime import datetime, timedelta
from typing import Any, Literal
from uuid import UUID, uuid5

import numpy as np
import soundfile
from django.db import transaction

from demo import driving, shop
from demo.sounds import Room, recorded
from demo.stories import ROUND, STORIES, Story
from jobs.answer import shown
from jobs.answer.kept import known_now, write_summary
from jobs.answer.taught import sum_up
from jobs.facts import opening, reads, writes
from jobs.facts.bodies import FindingIn, LogIn, MeterIn, PartIn, ReadingIn
from jobs.facts.dealt import part_values
from jobs.facts.inputs import checked_plan, checked_run, finding_values, log_values, meter_values, reading_values
from jobs.facts.listening import listen_to
from jobs.facts.values import (
    CauseValues,
    CountValues,
    JobValues,
    MachineValues,
    MarkValues,
    ObservationValues,
    PlaceValues,
    WayValues,
    WorkValues,
)
from jobs.models import (
    AddedStep,
    Cause,
    Dealing,
    Finding,
    Happening,
    Job,
    Log,
    Mark,
    MeterTest,
    Photo,
    Reading,
    Sound,
    Word,
    Work,
)
from machines.models import CodeProfile, Machine, Place
from people.may import Member, member
from people.models import Membership, Person, Role, Workshop
from reports.models import Record
from reports.services import HandedOver, hand_over
from warmdraft.airway import reading_dimensions
from warmdraft.jobfile import read_job, simulated_job
from warmdraft.teardown import LINE, step_of
from warmdraft.units import from_si

#: Every id of the demo follows from this one, so that a reset gives the same addresses again.
WORLD = UUID("5d1c0c52-3b9e-4f8e-9d53-7f6c3f1b2a10")
WORKSHOP = "Skellmere Dryer Works"
PASSWORD = "warm-draft-demo"  # noqa: S105 - for looking round, printed at start
PEOPLE = (
    ("ines@skellmere.example", "Ines Kallow", Role.TECHNICIAN, ("live",)),
    ("tobin@skellmere.example", "Tobin Marrow", Role.LEAD, ("live", "gas")),
    ("wren@skellmere.example", "Wren Aldous", Role.TRAINEE, ()),
)
#: Units the demo's technicians read their instruments in.
_READ_IN = {"flow": "cfm", "pressure": "inH2O", "temperature_difference": "delta_degF", "temperature": "degF"}
_TYPED_DIGITS = {"cfm": 0, "inH2O": 2, "delta_degF": 0, "degF": 0, "A": 1, "rpm": 0}


#: How loud what is wrong is beside all else, and what a phone records at.
_LOUD_DB, _SOUND_HZ = 3.0, 16_000


def _id(*parts: str) -> UUID:
    return uuid5(WORLD, "/".join(parts))


def reset(now: datetime) -> Workshop:
    """Take the demo workshop away and build it anew; everything else stays."""
    with transaction.atomic():
        workshop, _ = Workshop.objects.update_or_create(
            id=_id("workshop"), defaults={"name": WORKSHOP, "time_zone": "Europe/London", "currency": "EUR"}
        )
        driving.take_away(workshop)
        shop.take_away(workshop)
        for model in (
            Record,
            Dealing,
            Photo,
            Happening,
            Cause,
            Mark,
            Work,
            AddedStep,
            Log,
            Sound,
            MeterTest,
            Finding,
            Reading,
            Job,
            Machine,
            CodeProfile,
            Place,
            Word,
        ):
            if model in (Finding, Reading, MeterTest, Log, Sound):
                model.objects.filter(workshop=workshop).update(supersedes=None)
            model.objects.filter(workshop=workshop).delete()
        for email, name, role, kinds in PEOPLE:
            person = Person.objects.filter(email=email).first()
            if person is None:
                person = Person.objects.create_user(email, PASSWORD, name=name, for_looking_round=True)
            Membership.objects.update_or_create(
                person=person, workshop=workshop, defaults={"role": role, "qualifications": sorted(kinds)}
            )
        who = member(Person.objects.get(email=PEOPLE[1][0]))
        technician = member(Person.objects.get(email=PEOPLE[0][0]))
        morning = now.replace(hour=8, minute=0, second=0, microsecond=0)
        shop.lay_out(who, WORLD, morning)
        for story in (*STORIES, *ROUND):
            _tell(story, technician if story.energy == "electric" else who, morning + timedelta(hours=story.hours))
        sum_up(workshop.id)
        drivers = dict(Person.objects.filter(memberships__workshop=workshop).values_list("email", "id"))
        driving.lay_out(who, WORLD, morning.date(), drivers)
    return workshop


def _drawn(story: Story, suppose: list[dict[str, Any]], seed: int) -> dict[str, float]:
    """Readings of one machine with these faults, canonical units."""
    document = {
        "format": "warm-draft/job", "version": 1,
        "machine": {"profile": story.profile, "energy": story.energy}, "suppose": suppose,
    }  # fmt: skip
    drawn = simulated_job(read_job(document), np.random.default_rng(seed))
    return {part.kind: part.value for part in drawn.readings or []}


def _read(
    who: Member,
    story: Story,
    phase: Literal["before", "after"],
    kinds: tuple[str, ...],
    values: dict[str, float],
    at: datetime,
) -> datetime:
    instruments = {"flow": "vane_anemometer", "pressure": "manometer"}
    for kind in kinds:
        dimension = reading_dimensions()[kind]
        unit = _READ_IN.get(dimension, "rpm" if dimension == "rotation" else "A")
        typed = f"{from_si(values[kind], unit, dimension):.{_TYPED_DIGITS[unit]}f}"
        at += timedelta(minutes=4)
        facts = reading_values(
            ReadingIn(kind=kind, typed=typed, unit=unit, instrument=instruments.get(dimension, ""), phase=phase, at=at)
        )
        writes.record_reading(who, _id(story.key), _id(story.key, phase, kind), facts)
    return at


def _mark(who: Member, story: Story, step: str, at: datetime) -> datetime:
    at += timedelta(minutes=3)
    values = MarkValues(step=step, state="done", at=at)
    writes.mark_step(who, _id(story.key), _id(story.key, "mark", step), values)
    return at


def _meter_and_log(who: Member, story: Story, at: datetime) -> datetime:
    job_id = _id(story.key)
    for part, instrument, typed in story.metered:
        at += timedelta(minutes=3)
        given = MeterIn(part=part, instrument=instrument, isolated=True, typed=typed, at=at)  # type: ignore[arg-type]
        writes.record_meter(who, job_id, _id(story.key, "meter", part), meter_values(given))
    if story.fades:
        lost, start = story.fades
        rng = np.random.default_rng(story.seed)
        minutes = np.arange(0.0, 75.0)
        flow = 0.08 * (1 - lost * np.clip((minutes - start) / 9, 0, 1)) * (1 + 0.02 * rng.standard_normal(len(minutes)))
        at += timedelta(minutes=80)
        series = LogIn(kind="hood_flow", unit="m3/s", minutes=minutes.tolist(), values=flow.tolist(),
                       instrument="vane_anemometer", at=at)  # fmt: skip
        writes.record_log(who, job_id, _id(story.key, "log"), log_values(series))
    for phase, part, source in story.sounds:
        if phase == "before":
            at = _sound(who, story, phase, part, source, at)
    if story.healthy_beside:
        at = _sound(who, story, "before", story.healthy_beside, "nothing_stands_out", at, healthy=True)
    if story.vent:
        version = reads.job_of(who, job_id).version
        opening.draw(who, job_id, "vent", checked_run(story.vent), version, at)
    if story.plan:
        version = reads.job_of(who, job_id).version
        opening.draw(who, job_id, "plan", checked_plan(story.plan), version, at)
    return at


def _sound(
    who: Member, story: Story, phase: Literal["before", "after"], part: str, source: str, at: datetime,
    healthy: bool = False,
) -> datetime:  # fmt: skip
    """What a phone heard, and what it told."""
    at += timedelta(minutes=2)
    wave, rate, _ = recorded(source, story.seed + healthy, _LOUD_DB, Room(fs=_SOUND_HZ, seconds=15.0, echo_s=0.2))
    file = io.BytesIO()
    soundfile.write(file, wave, rate, format="WAV", subtype="PCM_16")
    sound_id = _id(story.key, "healthy" if healthy else "sound", phase, part)
    observed = ObservationValues(phase=phase, at=at)
    writes.add_sound(who, _id(story.key), sound_id, file.getvalue(), observed, part, healthy)
    listen_to(sound_id)
    return at


def _tell(story: Story, who: Member, at: datetime) -> None:
    place = PlaceValues(_id("place", story.place[0]), *story.place)
    machine = MachineValues(
        id=_id("machine", story.place[0], story.machine), name=story.machine, profile=story.profile,
        layout=story.layout, energy=story.energy, supply=story.supply, variant=None, age_years=story.age,
    )  # fmt: skip
    facts = JobValues(story.title, story.complaints, story.circumstances, story.told, story.said, at)
    job_id = _id(story.key)
    opening.put_job(who, job_id, facts, machine, place, None, at)
    if story.safe:
        for step in shown.shown(known_now(who, job_id), who).safety:
            at = _mark(who, story, step.id, at)
    at = _read(who, story, "before", story.read, _drawn(story, story.suppose, story.seed) | story.wrong, at)
    for check, result in story.found.items():
        at += timedelta(minutes=2)
        found = finding_values(FindingIn(check=check, result=result, why="", at=at))
        writes.record_finding(who, job_id, _id(story.key, check), found)
    at = _meter_and_log(who, story, at)
    for part, act in story.works:
        at += timedelta(minutes=1)
        ordered = WorkValues(part=part, act=act, at=at)
        writes.order_work(who, job_id, _id(story.key, "work", f"{part}.{act}"), ordered)
    for name, state, why in story.lines:
        at += timedelta(minutes=1)
        said = MarkValues(step=step_of(LINE, name), state=state, why=why, at=at)
        writes.mark_step(who, job_id, _id(story.key, "line", name), said)
    for part, number in story.ordered:
        at += timedelta(minutes=1)
        said_of_it = part_values(
            PartIn(part=part, state="ordered", number=number, count=1, price=None, store="", at=at)
        )
        writes.deal(who, job_id, _id(story.key, "ordered", part), said_of_it)
    if story.working:
        _work(who, story, at)
    write_summary(who, job_id)


def _work(who: Member, story: Story, at: datetime) -> None:
    """From the cause on."""
    job_id = _id(story.key)
    assert story.working is not None
    cause = CauseValues(kind="working", fault=story.working, at=at)
    writes.choose_cause(who, job_id, _id(story.key, "working"), cause)
    if story.through:
        way = WayValues(also=None, avoid=list(story.avoid), through=list(story.through), at=at)
        writes.choose_way(who, job_id, _id(story.key, "way"), way)
    planned = shown.shown(known_now(who, job_id), who)
    for step in [*planned.open, *planned.mend, *planned.close][: story.steps]:
        at = _mark(who, story, step.id, at)
    for i, (operation, what, key, state, number, note) in enumerate(story.counts):
        at += timedelta(minutes=1)
        said = CountValues(step=step_of("open", operation), what=what, key=key, state=state, count=number, note=note,
                           at=at)  # fmt: skip
        writes.count(who, job_id, _id(story.key, "count", str(i)), said)
    if story.confirmed:
        cause = CauseValues(kind="confirmed", fault=story.confirmed, at=at)
        writes.choose_cause(who, job_id, _id(story.key, "confirmed"), cause)
    at = _read(who, story, "after", story.after, _drawn(story, [], story.seed), at)
    for check, result in story.seen_after.items():
        at += timedelta(minutes=2)
        seen = finding_values(FindingIn(check=check, result=result, why="", phase="after", at=at))
        writes.record_finding(who, job_id, _id(story.key, "after", check), seen)
    for phase, part, source in story.sounds:
        if phase == "after":
            at = _sound(who, story, phase, part, source, at)
    if story.handed_over:
        hand_over(who, job_id, _id(story.key, "record"), HandedOver(story.note), at)
