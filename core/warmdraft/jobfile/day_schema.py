"""The shape of `warm-draft/day`: places, minutes between them, stops, vans, and the orders somebody drives in."""

from __future__ import annotations

import re
from typing import Annotated, Any, Literal

import numpy as np
from pydantic import BeforeValidator, Field

from warmdraft.day import Day, Stop, Van, Window, travel_minutes
from warmdraft.errors import DayError, DocumentError
from warmdraft.jobfile.limits import no_more_than
from warmdraft.jobfile.parts import Number, Section, between, refused

#: Stops, vans and places of a day; minutes that a job, or a way, may take.
MOST_STOPS, MOST_VANS, MOST_PLACES, MOST_MINUTES = 300, 60, 400, 1440.0
#: The kinds of work that ask for a qualification.
Skill = Literal["gas", "live"]


def _clock(value: Any) -> Any:
    if not isinstance(value, str) or not re.fullmatch(r"([01]\d|2[0-3]):[0-5]\d|24:00", value):
        raise refused(f"{value!r} is no time of day; give one such as 08:30")
    hours, minutes = value.split(":")
    return float(int(hours) * 60 + int(minutes))


Clock = Annotated[float, BeforeValidator(_clock)]
Minutes = Annotated[Number, between(0, MOST_MINUTES, "number of minutes")]
Name = Annotated[str, Field(min_length=1, max_length=80)]
Count = Annotated[int, Field(ge=0, le=999)]


class WindowSection(Section):
    """From when to when work may begin."""

    early: Clock
    late: Clock

    def window(self) -> Window:
        """As the core thinks of it."""
        return Window(self.early, self.late)


class PlaceSection(Section):
    """A place on the earth; degrees, where they are known."""

    id: Name
    latitude: Annotated[Number, between(-90, 90, "latitude")] | None = None
    longitude: Annotated[Number, between(-180, 180, "longitude")] | None = None


class WaySection(Section):
    """Minutes from one place to another, as somebody knows them; the way back as long, where nobody says."""

    start: Name
    end: Name
    minutes: Minutes


class StopSection(Section):
    """A job of the day. windows: any of them; none: the whole day."""

    id: Name
    place: Name
    minutes: Minutes
    sd_minutes: Minutes = 0.0
    windows: Annotated[list[WindowSection], no_more_than(4, "windows")] = []
    needs: list[Skill] = []
    parts: dict[Name, Count] = {}
    weight: Annotated[Number, between(0.1, 100, "weight")] = 1.0
    van: Name | None = None


class VanSection(Section):
    """Who drives, from where and when; back to where it began, where no end is given."""

    id: Name
    start: Name
    end: Name | None = None
    hours: WindowSection
    skills: list[Skill] = []
    parts: dict[Name, Count] = {}
    overtime_minutes: Minutes = 0.0


class DayDocument(Section):
    """A day: `warm-draft/day`, version 1. orders: by van, the stops in the order somebody drives them."""

    format: Literal["warm-draft/day"]
    version: Literal[1]
    places: Annotated[list[PlaceSection], no_more_than(MOST_PLACES, "places"), Field(min_length=1)]
    travel: Annotated[list[WaySection], no_more_than(MOST_PLACES**2, "ways")] = []
    stops: Annotated[list[StopSection], no_more_than(MOST_STOPS, "stops")]
    vans: Annotated[list[VanSection], no_more_than(MOST_VANS, "vans")]
    orders: dict[Name, list[Name]] | None = None
    title: str | None = None
    notes: str | None = None

    def day(self) -> Day:
        """As the core thinks of it. Raises DocumentError."""
        at = {place.id: number for number, place in enumerate(self.places)}
        known = np.full((len(at), len(at)), np.nan)
        for number, way in enumerate(self.travel):
            here = f"$.travel[{number}]"
            a, b = _place(at, way.start, f"{here}.start"), _place(at, way.end, f"{here}.end")
            known[a, b] = way.minutes
            if np.isnan(known[b, a]):
                known[b, a] = way.minutes
        degrees = np.array([[np.nan if one is None else one for one in (place.latitude, place.longitude)]
                            for place in self.places])  # fmt: skip
        travel = travel_minutes(degrees[:, 0], degrees[:, 1], known)
        np.fill_diagonal(travel, 0.0)
        stops = tuple(
            Stop(
                row.id, _place(at, row.place, f"$.stops[{number}].place"), row.minutes, row.sd_minutes,
                _windows(row, number), frozenset(row.needs), row.parts, row.weight, row.van,
            )
            for number, row in enumerate(self.stops)
        )  # fmt: skip
        vans = tuple(
            Van(
                row.id, _place(at, row.start, f"$.vans[{number}].start"),
                _place(at, row.end or row.start, f"$.vans[{number}].end"),
                _window(row.hours, f"$.vans[{number}].hours"), frozenset(row.skills), row.parts, row.overtime_minutes,
            )
            for number, row in enumerate(self.vans)
        )  # fmt: skip
        used = sorted({stop.place for stop in stops} | {place for van in vans for place in (van.start, van.end)})
        _all_reached(self.places, travel, used)
        try:
            return Day(travel, stops, vans)
        except DayError as error:
            raise DocumentError("$.stops", str(error)) from None


#: Where nobody says when: the whole day.
_WHOLE_DAY = (Window(0.0, 1440.0),)


def _windows(row: StopSection, number: int) -> tuple[Window, ...]:
    found = tuple(_window(part, f"$.stops[{number}].windows[{k}]") for k, part in enumerate(row.windows))
    return found or _WHOLE_DAY


def _window(part: WindowSection, path: str) -> Window:
    try:
        return part.window()
    except DayError as error:
        raise DocumentError(path, str(error)) from None


def _place(at: dict[str, int], name: str, path: str) -> int:
    if name not in at:
        raise DocumentError(path, f"'{name}' is no place of this day; give one of {', '.join(list(at)[:20])}")
    return at[name]


def _all_reached(places: list[PlaceSection], travel: Any, used: list[int]) -> None:
    """Every place that is driven to is reached from every other: by its degrees, or by minutes."""
    for a in used:
        for b in used:
            if np.isnan(travel[a, b]):
                raise DocumentError(
                    f"$.places[{b}]",
                    f"nobody says how far it is from '{places[a].id}' to '{places[b].id}'; give both a latitude and a "
                    "longitude, or minutes in travel",
                )
