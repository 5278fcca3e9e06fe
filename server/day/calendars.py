"""A van's stops as a calendar: RFC 5545, by icalendar."""

from collections.abc import Iterable
from datetime import UTC, date, datetime, time, timedelta
from zoneinfo import ZoneInfo

from django.conf import settings
from icalendar import Calendar, Event

from day.models import Plan, Van
from day.planning import day_of
from jobs.models import Job
from people.models import Workshop
from upkeep.calendars import calendar
from warmdraft.day import run_day

#: Days that a calendar of a van holds, from today.
DAYS = 14


def of_van(workshop: Workshop, van: Van, first: date) -> bytes:
    """The stops of a van, from a day on."""
    made = calendar(van.name)
    plans = Plan.objects.filter(workshop=workshop, day__gte=first, day__lt=first + timedelta(days=DAYS))
    for plan in plans.order_by("day"):
        _add(made, workshop, str(van.id), plan)
    return bytes(made.to_ical())


def _add(made: Calendar, workshop: Workshop, van: str, plan: Plan) -> None:
    if van not in plan.orders:
        return
    tour = next(tour for tour in run_day(day_of(plan), plan.orders).tours if tour.van == van)
    jobs = Job.objects.select_related("machine__place").in_bulk([call.stop for call in tour.calls])
    by_id = {str(job_id): job for job_id, job in jobs.items()}
    for call in tour.calls:
        job = by_id.get(call.stop)
        if job is not None and not job.shut:
            begin, end = (_at(workshop, plan.day, minute) for minute in (call.begin, call.leave))
            made.add_component(_event(job, begin, end, plan, plan.told.get(call.stop, {}).get("bring", [])))


def _at(workshop: Workshop, day: date, minute: float) -> datetime:
    midnight = datetime.combine(day, time.min, ZoneInfo(workshop.time_zone))
    # by the clock on the wall: a day on which it is put back has its hours twice
    return (midnight + timedelta(minutes=round(minute))).astimezone(UTC)


def _event(job: Job, begin: datetime, end: datetime, plan: Plan, bring: Iterable[str]) -> Event:
    place = job.machine.place
    address = f"{settings.ADDRESS}/jobs/{job.id}"
    taken = ", ".join(bring)
    made = Event()
    made.add("uid", f"stop-{job.id}-{plan.day}@warm-draft")
    made.add("dtstamp", plan.made_at or plan.asked_at)
    made.add("sequence", plan.version)
    made.add("dtstart", begin)
    made.add("dtend", end)
    made.add("summary", place.name)
    made.add("location", place.address or place.name)
    made.add("description", "\n".join(filter(None, (place.contact, taken, address))))
    made.add("url", address)
    return made
