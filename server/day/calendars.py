"""A van's stops as a calendar: RFC 5545, by icalendar."""

from collections.abc import Iterable
from datetime import UTC, date, datetime, timedelta

from django.conf import settings
from icalendar import Calendar, Event

from day.models import Plan, Van
from day.planning import day_of
from jobs.models import Job
from people.models import Workshop
from upkeep.calendars import calendar, event
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
    # by the clock on the wall: a day on which it is put back has its hours twice
    return (workshop.day_begins(day) + timedelta(minutes=round(minute))).astimezone(UTC)


def _event(job: Job, begin: datetime, end: datetime, plan: Plan, bring: Iterable[str]) -> Event:
    place = job.machine.place
    address = f"{settings.ADDRESS}/jobs/{job.id}"
    text = "\n".join(filter(None, (place.contact, ", ".join(bring), address)))
    made = event(
        f"stop-{job.id}-{plan.day}", begin, place.name, text, address, plan.made_at or plan.asked_at, plan.version, end
    )
    made.add("location", place.address or place.name)
    return made
