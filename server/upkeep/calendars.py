"""Calendars: the next visits of a workshop, and a customer's own. RFC 5545, by icalendar."""

from collections.abc import Iterable
from datetime import date, datetime, timedelta

from django.conf import settings
from icalendar import Calendar, Event

from upkeep.models import Due

_MAKER = "-//Warm Draft//upkeep//EN"
#: How often a program should ask again.
_EVERY = timedelta(hours=6)


def calendar(name: str) -> Calendar:
    """An empty calendar."""
    made = Calendar()
    made.add("prodid", _MAKER)
    made.add("version", "2.0")
    made.add("method", "PUBLISH")
    made.add("x-wr-calname", name)
    made.add("refresh-interval", _EVERY, parameters={"value": "DURATION"})
    return made


def event(
    uid: str, begin: date, title: str, text: str, url: str, stamp: datetime, sequence: int = 0, end: date | None = None
) -> Event:
    """An event from a moment to another; of a whole day, which keeps nobody from others, where no end is given."""
    made = Event()
    made.add("uid", f"{uid}@warm-draft")
    made.add("dtstamp", stamp)
    made.add("last-modified", stamp)
    made.add("sequence", sequence)
    made.add("dtstart", begin)
    made.add("dtend", end or begin + timedelta(days=1))
    if end is None:
        made.add("transp", "TRANSPARENT")
    made.add("summary", title)
    made.add("description", text)
    if url:
        made.add("url", url)
    return made


def of_workshop(name: str, rows: Iterable[Due]) -> bytes:
    """Every machine's next visit."""
    made = calendar(name)
    for row in rows:
        place, machine = row.machine.place, row.machine
        where = ", ".join(part for part in (place.name, machine.name) if part)
        address = f"{settings.ADDRESS}/machines/{machine.id}"
        text = f"Its air falls short about {row.median}, most likely between {row.low} and {row.high}.\n{address}"
        found = event(f"due-{machine.id}", row.service_by, f"Service: {where}", text, address, row.changed_at,
                      row.version)  # fmt: skip
        if place.address:
            found.add("location", place.address)
        made.add_component(found)
    return bytes(made.to_ical())


def of_customer(uid: str, day: date, title: str, text: str, stamp: datetime) -> bytes:
    """One customer's next visit, as a file."""
    made = calendar(title)
    made.add_component(event(uid, day, title, text, "", stamp))
    return bytes(made.to_ical())
