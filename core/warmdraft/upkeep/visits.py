"""What upkeep goes by: the visits to a machine, and what was measured at them."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date
from itertools import pairwise
from typing import Literal

#: What a machine is asked for between visits, as a share of its healthy flow (contract).
LIMIT_SHARE = 0.8
#: Below this it will be short before long (own assumption).
NEARLY_SHARE = 0.88
#: How a machine stands between visits.
Standing = Literal["short", "nearly", "well"]
DAYS_A_WEEK = 7.0
WEEKS_A_YEAR = 52


@dataclass(frozen=True, slots=True)
class Visit:
    """One visit. found, left: flow at the outlet on arrival and after the work, as shares of a healthy one; None where
    nobody measured it. A visit whose `left` nobody measured counts as one that left it clean."""

    at: date
    found: float | None = None
    left: float | None = None


@dataclass(frozen=True, slots=True)
class Kept:
    """A machine as its visits show it. times: how much faster than its kind it is taken to fill with lint, before its
    own flows are looked at."""

    visits: tuple[Visit, ...]
    loads_per_week: float
    times: float = 1.0


@dataclass(frozen=True, slots=True)
class Span:
    """From one visit to the next: loads between them, the flow left at the first and found at the second, as shares."""

    loads: float
    left: float | None
    found: float


#: The same cause again within so many days is a callback (common practice, no source: three months are warranted).
CALLBACK_DAYS = 90


def callbacks(causes: Sequence[tuple[date, str]]) -> tuple[int, ...]:
    """Which visits came for what was mended shortly before. causes: (day, cause) of each visit, the earliest first;
    an empty cause is none.

    >>> callbacks([(date(2026, 1, 1), "hood_blocked"), (date(2026, 2, 1), "hood_blocked"), (date(2026, 8, 1), "")])
    (1,)
    """
    latest: dict[str, date] = {}
    found = []
    for place, (day, cause) in enumerate(causes):
        if cause and cause in latest and (day - latest[cause]).days <= CALLBACK_DAYS:
            found.append(place)
        if cause:
            latest[cause] = day
    return tuple(found)


def standing_of(share: float) -> Standing:
    """How a machine stands whose flow is this share of a healthy one.

    >>> [standing_of(share) for share in (0.7, 0.85, 0.95)]
    ['short', 'nearly', 'well']
    """
    return "short" if share < LIMIT_SHARE else "nearly" if share < NEARLY_SHARE else "well"


def in_order(visits: Iterable[Visit]) -> tuple[Visit, ...]:
    """Visits, the earliest first."""
    return tuple(sorted(visits, key=lambda visit: visit.at))


def spans_of(machine: Kept) -> tuple[Span, ...]:
    """What its visits show of growth: each pair of neighbours whose second was measured on arrival.

    >>> machine = Kept((Visit(date(2026, 1, 1), left=1.0), Visit(date(2027, 1, 1), found=0.8)), loads_per_week=7)
    >>> [round(span.loads) for span in spans_of(machine)]
    [365]
    """
    visits = in_order(machine.visits)
    return tuple(
        Span((then.at - first.at).days / DAYS_A_WEEK * machine.loads_per_week, first.left, then.found)
        for first, then in pairwise(visits)
        if then.found is not None and then.at > first.at
    )
