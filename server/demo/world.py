"""The demo world: a small upland lake town, invented, with jobs in different states, each with a cause of its own."""

from dataclasses import dataclass, field
from datetime import datetime, timedelta
from typing import Any, Literal
from uuid import UUID, uuid5

import numpy as np
from django.db import transaction

from jobs import queries, services, view
from jobs.models import Cause, Finding, Happening, Job, Mark, Reading
from jobs.reading_in import finding_facts, reading_facts
from jobs.schemas_in import FindingIn, ReadingIn
from machines.models import Machine, Place
from people.may import Member, member
from people.models import Membership, Person, Qualification, Role, Workshop
from reports.models import Record
from reports.services import hand_over
from warmdraft.checks import reading_dimensions
from warmdraft.jobfile import read_job, simulated_job
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


@dataclass(frozen=True)
class Story:
    """One job of the demo: what is true (suppose), what was read, seen and done."""

    key: str
    place: tuple[str, str, str]
    machine: str
    title: str
    complaints: list[str]
    said: str
    hours: float
    suppose: list[dict[str, Any]]
    profile: str = "full-size-electric"
    energy: str = "electric"
    supply: str = "plug"
    layout: str = ""
    age: float = 6
    circumstances: list[str] = field(default_factory=list)
    read: tuple[str, ...] = ()
    wrong: dict[str, float] = field(default_factory=dict)
    found: dict[str, str] = field(default_factory=dict)
    safe: bool = False
    working: str | None = None
    steps: int = 0
    confirmed: str | None = None
    after: tuple[str, ...] = ()
    handed_over: bool = False
    note: str = ""
    seed: int = 1


COLLAR = ("outlet_flow", "outlet_static_pressure", "blower_inlet_suction")
STORIES = (
    Story(
        "kennels", ("Otter Ness kennels", "2 Ness Lane", "Maro Tindle"), "left machine", "Towels take all afternoon",
        ["long_drying", "overheats"], "Since the new porch was built. Two cycles for a load of dog towels.", 1.0,
        [{"fault": "hood_blocked", "severity": 20}], layout="top_screen_rear_duct", age=7,
        circumstances=["pets"], read=COLLAR, safe=True, seed=3,
    ),
    Story(
        "rowing", ("Rowing clubhouse", "The Slip", "Petra Vane"), "changing room", "Rumbles and runs hot",
        ["rumbles", "overheats"], "Rumbling for a year, worse since autumn.", 2.5,
        [{"fault": "blower_wheel_fouled", "severity": 0.5}], layout="top_screen_rear_duct", age=9,
        circumstances=["pets", "not_cleaned_for_years"], read=(*COLLAR, "vent_off_flow", "screen_duct_suction"),
        found={"hood_air": "weak", "drum_spin": "even_drag", "screen_light": "clean"}, safe=True,
        working="blower_wheel_fouled", steps=4, seed=11,
    ),
    Story(
        "hostel", ("Hikers' hostel", "Upper Fell Road", "Ansel Brook"), "boot room", "Never gets socks dry",
        ["long_drying"], "Guests leave it running all night.", 4.0,
        [{"fault": "lint_screen_blinded", "severity": 9}], layout="top_screen_rear_duct", age=4,
        circumstances=["fabric_softener_sheets"], read=("outlet_flow",), safe=True, seed=5,
    ),
    Story(
        "theatre", ("Theatre wardrobe", "Old Playhouse Yard", "Lio Farran"), "under the stage", "Stops and starts",
        ["stops_and_starts", "long_drying"], "Stops for a quarter of an hour, then goes on.", 5.5,
        [{"fault": "vent_run_packed", "severity": 6}], age=12, circumstances=["long_run"],
        read=(*COLLAR, "wall_static_pressure"), wrong={"blower_inlet_suction": 420.0}, safe=True, seed=8,
    ),
    Story(
        "moorings", ("Narrowboat moorings", "Wash house, Lock 3", "Hedda Quill"), "wash house",
        "Came back from the paint job, now too hot", ["overheats", "short_cycles"],
        "The wall was painted; the machine was pulled out and pushed back.", -26.0,
        [{"fault": "transition_crushed", "severity": 60}], layout="top_screen_rear_duct", age=3,
        circumstances=["soft_foil_transition", "moved_lately"], read=COLLAR, found={"behind_look": "flat"}, safe=True,
        working="transition_crushed", steps=99, confirmed="transition_crushed", after=COLLAR, handed_over=True,
        note="Keep a hand's breadth behind the machine: the mark is on the floor. Screen before every load.", seed=21,
    ),
    Story(
        "moorings_back", ("Narrowboat moorings", "Wash house, Lock 3", "Hedda Quill"), "wash house",
        "Back again: damp room", ["damp_or_linty_room", "long_drying"],
        "Fine for two weeks. Now the room is wet and there is fluff on the sill.", 7.0,
        [{"fault": "transition_detached", "severity": 2}], layout="top_screen_rear_duct", age=3,
        circumstances=["moved_lately", "serviced_lately"],
        read=("outlet_flow", "outlet_static_pressure", "hood_flow"), found={"hood_air": "none"}, safe=True, seed=31,
    ),
    Story(
        "bakery", ("Lakeside tea room", "Quay Steps", "Orrin Sedge"), "back kitchen", "Gas machine, room gets stuffy",
        ["long_drying"], "Slow only when the extractor hood is on.", 8.5,
        [{"fault": "room_starved", "severity": 70}], profile="full-size-gas", energy="gas", supply="hard_wired", age=5,
        circumstances=["other_fans_in_room"], seed=2,
    ),
)  # fmt: skip


def _id(*parts: str) -> UUID:
    return uuid5(WORLD, "/".join(parts))


def reset(now: datetime) -> Workshop:
    """Take the demo workshop away and build it anew; everything else stays."""
    with transaction.atomic():
        workshop, _ = Workshop.objects.update_or_create(
            id=_id("workshop"), defaults={"name": WORKSHOP, "time_zone": "Europe/London", "currency": "EUR"}
        )
        for model in (Record, Happening, Cause, Mark, Finding, Reading, Job, Machine, Place):
            if model in (Finding, Reading):
                model.objects.filter(workshop=workshop).update(supersedes=None)
            model.objects.filter(workshop=workshop).delete()
        for email, name, role, kinds in PEOPLE:
            person = Person.objects.filter(email=email).first()
            if person is None:
                person = Person.objects.create_user(email, PASSWORD, name=name)
            Membership.objects.update_or_create(person=person, workshop=workshop, defaults={"role": role})
            for kind in kinds:
                Qualification.objects.get_or_create(person=person, kind=kind)
        who = member(Person.objects.get(email=PEOPLE[1][0]))
        technician = member(Person.objects.get(email=PEOPLE[0][0]))
        morning = now.replace(hour=8, minute=0, second=0, microsecond=0)
        for story in STORIES:
            _tell(story, technician if story.energy == "electric" else who, morning + timedelta(hours=story.hours))
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
        facts = reading_facts(
            ReadingIn(kind=kind, typed=typed, unit=unit, instrument=instruments.get(dimension, ""), phase=phase, at=at)
        )
        services.record_reading(who, _id(story.key), _id(story.key, phase, kind), facts)
    return at


def _mark(who: Member, story: Story, step: str, at: datetime) -> datetime:
    at += timedelta(minutes=3)
    facts = {"step": step, "state": "done", "why": "", "at": at}
    services.mark_step(who, _id(story.key), _id(story.key, "mark", step), facts)
    return at


def _tell(story: Story, who: Member, at: datetime) -> None:
    place = services.PlaceFacts(_id("place", story.place[0]), *story.place)
    machine = services.MachineFacts(
        id=_id("machine", story.place[0], story.machine), name=story.machine, profile=story.profile,
        layout=story.layout, energy=story.energy, supply=story.supply, age_years=story.age, data_plate={},
    )  # fmt: skip
    facts = services.JobFactsGiven(story.title, story.complaints, story.circumstances, story.said, at, {})
    job_id = _id(story.key)
    services.put_job(who, job_id, facts, machine, place, None, at)
    shown = view.job_json(queries.job_of(who, job_id), who)
    if story.safe:
        for step in shown["safety"]:
            at = _mark(who, story, step["id"], at)
    at = _read(who, story, "before", story.read, _drawn(story, story.suppose, story.seed) | story.wrong, at)
    for check, result in story.found.items():
        at += timedelta(minutes=2)
        found = finding_facts(FindingIn(check=check, result=result, why="", at=at))
        services.record_finding(who, job_id, _id(story.key, check), found)
    if not story.working:
        return
    cause = {"kind": "working", "fault": story.working, "severity": None, "at": at}
    services.choose_cause(who, job_id, _id(story.key, "working"), cause)
    shown = view.job_json(queries.job_of(who, job_id), who)
    for step in [*shown["open"], *shown["mend"], *shown["close"]][: story.steps]:
        at = _mark(who, story, step["id"], at)
    if story.confirmed:
        cause = {"kind": "confirmed", "fault": story.confirmed, "severity": None, "at": at}
        services.choose_cause(who, job_id, _id(story.key, "confirmed"), cause)
    at = _read(who, story, "after", story.after, _drawn(story, [], story.seed), at)
    if story.handed_over:
        hand_over(who, job_id, _id(story.key, "record"), story.note, at)
