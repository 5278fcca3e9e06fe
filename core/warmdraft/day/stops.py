"""What a day is made of: stops, vans, and the minutes between places."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field

from warmdraft.air import Floats
from warmdraft.errors import DayError


@dataclass(frozen=True, slots=True)
class Window:
    """From when to when work may begin; minutes of the day."""

    early: float
    late: float

    def __post_init__(self) -> None:
        if not (0 <= self.early <= self.late < math.inf):
            raise DayError(f"a window from {self.early:g} to {self.late:g} minutes holds no moment; give one that does")


#: Who is told a time waits so long for it, minutes (own choice; two hours are common practice, no source).
PROMISED_MINUTES = 120.0


def promised(minute: float) -> Window:
    """When work may begin where only a time was told: from then on.

    >>> promised(540)
    Window(early=540, late=660.0)
    """
    return Window(minute, min(minute + PROMISED_MINUTES, 1440.0))


@dataclass(frozen=True, slots=True)
class Stop:
    """A job of the day.

    place: its row in the travel minutes; minutes, sd_minutes: work expected there, and how far that may be off;
    windows: when work may begin, any of them; needs: what whoever goes has to be qualified for; parts: how many of each
    number it takes along; weight: how much more than others it matters that it is done, from 1; van: the only one that
    may go, None where any may.
    """

    id: str
    place: int
    minutes: float
    sd_minutes: float
    windows: tuple[Window, ...]
    needs: frozenset[str] = frozenset()
    parts: Mapping[str, int] = field(default_factory=dict)
    weight: float = 1.0
    van: str | None = None


@dataclass(frozen=True, slots=True)
class Van:
    """Who drives, from where and back to where, when; what they are qualified for, what lies in the van.

    overtime: minutes that may be worked longer, at a price.
    """

    id: str
    start: int
    end: int
    hours: Window
    skills: frozenset[str] = frozenset()
    parts: Mapping[str, int] = field(default_factory=dict)
    overtime: float = 0.0

    def may(self, stop: Stop) -> bool:
        """Whether this van may go to a stop at all."""
        return stop.needs <= self.skills and stop.van in (None, self.id)

    def lacks(self, stop: Stop) -> tuple[str, ...]:
        """Parts of a stop that do not lie in this van."""
        return tuple(sorted(number for number, count in stop.parts.items() if self.parts.get(number, 0) < count))


@dataclass(frozen=True, slots=True, eq=False)
class Day:
    """A day to plan. travel (places, places): minutes from one place to another, as driven."""

    travel: Floats
    stops: tuple[Stop, ...]
    vans: tuple[Van, ...]

    def __post_init__(self) -> None:
        rows, columns = self.travel.shape
        if rows != columns:
            raise DayError(f"travel minutes of {rows} rows and {columns} columns; give one of each for each place")
        for what, names in (("stop", [stop.id for stop in self.stops]), ("van", [van.id for van in self.vans])):
            twice = next((name for name in names if names.count(name) > 1), None)
            if twice is not None:
                raise DayError(f"the {what} '{twice}' stands twice; give each an id of its own")
        places = [stop.place for stop in self.stops] + [place for van in self.vans for place in (van.start, van.end)]
        outside = next((place for place in places if not 0 <= place < rows), None)
        if outside is not None:
            raise DayError(f"place {outside} is none of the {rows} there are minutes for")
        known = {van.id for van in self.vans}
        stray = next((stop for stop in self.stops if stop.van is not None and stop.van not in known), None)
        if stray is not None:
            raise DayError(f"the stop '{stray.id}' is for the van '{stray.van}', which does not drive that day")

    def stop(self, name: str) -> Stop:
        """A stop by its id. Raises DayError."""
        found = next((stop for stop in self.stops if stop.id == name), None)
        if found is None:
            raise DayError(f"there is no stop '{name}' that day")
        return found
