"""The demo workshop's day: where its places lie about a lake that nobody has, its two vans, and today's plan."""

from datetime import date
from uuid import UUID, uuid5

from day import ground, planning
from day.models import Base, Plan, Van, Wish
from machines.models import Place
from people.may import Member
from people.models import Workshop

#: Degrees; by the names of places.
_LIES = {
    "Otter Ness kennels": (54.452, -3.061),
    "Rowing clubhouse": (54.418, -3.018),
    "Hikers' hostel": (54.471, -2.982),
    "Theatre wardrobe": (54.409, -2.957),
    "Narrowboat moorings": (54.389, -3.034),
    "Lakeside tea room": (54.424, -2.987),
    "Ferry office": (54.437, -3.043),
    "Lakeside library": (54.401, -2.992),
    "Sauna raft": (54.381, -2.974),
    "Fell race office": (54.462, -3.009),
    "Lantern workshop": (54.427, -2.969),
    "Watermill guest house": (54.373, -3.052),
}
#: When somebody is there, minutes of the day, of those who were asked.
_AT_HOME = {
    "Fell race office": (480, 720),
    "Ferry office": (540, 660),
    "Lakeside library": (600, 960),
    "Sauna raft": (780, 960),
    "Watermill guest house": (840, 930),
}
#: Where they start.
BASE = "Skellmere yard"
#: Vans: name, e-mail of who drives, store, minutes of the day.
VANS = (
    ("Ines's van", "ines@skellmere.example", "Ines's van", 480, 1020),
    ("Tobin's van", "tobin@skellmere.example", "", 510, 1020),
)


def take_away(workshop: Workshop) -> None:
    """Take away plans, and what they stand on."""
    for model in (Plan, Wish, Van, Base):
        model._default_manager.filter(workshop=workshop).delete()


def lay_out(lead: Member, world: UUID, today: date, drivers: dict[str, UUID]) -> None:
    """Say where places lie and which vans drive, and have today planned; through the app's own services."""
    ground.set_base(lead, BASE, 54.413, -3.001)
    for name, (latitude, longitude) in _LIES.items():
        place = Place.objects.filter(workshop=lead.workshop, name=name).first()
        if place is not None:
            ground.locate(lead, place.id, latitude, longitude)
    for name, email, store, early, late in VANS:
        said = {
            "name": name, "driver": drivers[email], "early": early, "late": late, "overtime": 60,
            "store": uuid5(world, f"store/{store}") if store else None,
        }  # fmt: skip
        ground.keep_van(lead, uuid5(world, f"van/{name}"), said)
    for job in planning.jobs_of(lead, today):
        hours = _AT_HOME.get(job.machine.place.name)
        if hours is not None:
            ground.wish(lead, job.id, [list(hours)], None)
    planning.ask(lead, today)
    planning.make(Plan.objects.get(workshop=lead.workshop, day=today).pk)
