"""Where places are, which vans drive, and when customers are at home: what a lead says once."""

from typing import Any
from uuid import UUID

from django.db import transaction
from django.http import Http404

from day.models import Base, Ground, Van, Way, Wish
from jobs.models import Job
from machines.models import Place
from people.may import Member
from people.models import Membership
from shared.problems import ApiError
from stock.models import Store
from warmdraft.day import Window
from warmdraft.jobfile.day_schema import MOST_VANS
from warmdraft.jobfile.day_table import WayRow, read_day_table

#: How the base is called among places, in a table beside its own name.
BASE = "base"


def set_base(who: Member, name: str, latitude: float | None, longitude: float | None) -> None:
    """Say where vans start from."""
    who.require("plan_the_day")
    Base.objects.update_or_create(
        workshop=who.workshop, defaults={"name": name, "latitude": latitude, "longitude": longitude}
    )


def locate(who: Member, place_id: UUID, latitude: float, longitude: float) -> None:
    """Say where a place is."""
    who.require("plan_the_day")
    if not Place.objects.filter(id=place_id, workshop=who.workshop).exists():
        raise Http404
    _lies(who, place_id, latitude, longitude)


def _lies(who: Member, place_id: UUID, latitude: float, longitude: float) -> None:
    Ground.objects.update_or_create(
        place_id=place_id, defaults={"workshop": who.workshop, "latitude": latitude, "longitude": longitude}
    )


def keep_van(who: Member, van_id: UUID, said: dict[str, Any]) -> None:
    """Have a van, or change what is said of it. Raises DayError for hours that hold no moment."""
    who.require("plan_the_day")
    driver, store = said["driver"], said["store"]
    Window(said["early"], said["late"])
    if driver and not Membership.objects.filter(person=driver, workshop=who.workshop).exists():
        raise Http404
    if store and not Store.objects.filter(id=store, workshop=who.workshop, removed=False).exists():
        raise Http404
    values = {
        "name": said["name"], "driver_id": driver, "early": said["early"], "late": said["late"],
        "overtime": said["overtime"], "store_id": store,
    }  # fmt: skip
    with transaction.atomic():
        van = Van.objects.select_for_update().filter(id=van_id).first()
        if van is None:
            if Van.objects.filter(workshop=who.workshop, removed=False).count() >= MOST_VANS:
                raise ApiError(409, "too_many", f"There are {MOST_VANS} vans already; take one away first.")
            Van.objects.create(id=van_id, workshop=who.workshop, **values)
        elif van.workshop_id != who.workshop.id:
            raise Http404
        else:
            Van.objects.filter(id=van_id).update(**values)


def remove_van(who: Member, van_id: UUID) -> None:
    """A van drives no more; plans that were made with it stay."""
    who.require("plan_the_day")
    if not Van.objects.filter(id=van_id, workshop=who.workshop, removed=False).update(removed=True):
        raise Http404


def wish(who: Member, job_id: UUID, windows: list[list[int]], van: UUID | None) -> None:
    """Say when a customer is at home, and which van has to go. Raises DayError for a window that holds no moment."""
    who.require("work_on_a_job")
    for early, late in windows:
        Window(early, late)
    if not Job.objects.filter(id=job_id, workshop=who.workshop).exists():
        raise Http404
    if van and not Van.objects.filter(id=van, workshop=who.workshop, removed=False).exists():
        raise Http404
    Wish.objects.update_or_create(job_id=job_id, defaults={"workshop": who.workshop, "windows": windows, "van_id": van})


def read_table(who: Member, text: str) -> int:
    """Take a table of places or of ways, by their names; all of it or nothing. How many rows it has."""
    who.require("plan_the_day")
    rows = read_day_table(text)
    known = {name.casefold(): place_id for place_id, name in
             Place.objects.filter(workshop=who.workshop).values_list("id", "name")}  # fmt: skip
    base = Base.objects.filter(workshop=who.workshop).first()
    bases = {BASE, base.name.casefold()} if base else {BASE}

    def place_of(name: str, line: int) -> UUID | None:
        if name.casefold() in bases:
            return None
        if name.casefold() not in known:
            message = f"line {line}: '{name[:60]}' is no place of yours; give its name as on its jobs, or {BASE}"
            raise ApiError(422, "not_possible", message, [{"path": "$.csv", "message": message}])
        return known[name.casefold()]

    with transaction.atomic():
        for row in rows:
            if isinstance(row, WayRow):
                Way.objects.update_or_create(
                    workshop=who.workshop, start_id=place_of(row.start, row.line), end_id=place_of(row.end, row.line),
                    defaults={"minutes": row.minutes},
                )  # fmt: skip
            elif (place_id := place_of(row.place, row.line)) is not None:
                _lies(who, place_id, row.latitude, row.longitude)
            else:
                set_base(who, base.name if base else row.place, row.latitude, row.longitude)
    return len(rows)
