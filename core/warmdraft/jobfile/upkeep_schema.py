"""The shape of `warm-draft/upkeep`: a machine's visits, and what its kind showed."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Any, Literal

from pydantic import BeforeValidator, Field

from warmdraft.faults import circumstance_names, lint_times
from warmdraft.jobfile.limits import no_more_than
from warmdraft.jobfile.parts import Flow, Number, Quantity, Section, between, one_of, refused
from warmdraft.moments import FIRST, LAST
from warmdraft.upkeep import LIMIT_SHARE, Kept, Visit

#: Visits to a machine, machines of a kind, loads that a week holds.
MOST_VISITS, MOST_FLEET, MOST_LOADS_PER_WEEK = 500, 2_000, 500.0


def _day(value: Any) -> Any:
    if not isinstance(value, str):
        raise refused(f"{value!r} is not a day; give one such as 2026-03-02")
    try:
        day = date.fromisoformat(value)
    except ValueError:
        raise refused(f"{value!r} is not a day; give one such as 2026-03-02") from None
    if not FIRST.date() <= day < LAST.date():
        raise refused(f"{value!r} does not lie between 2000 and 2100; give the day of the visit")
    return day


Day = Annotated[date, BeforeValidator(_day)]
LoadsPerWeek = Annotated[Number, between(0.01, MOST_LOADS_PER_WEEK, "number of loads a week")]
LimitShare = Annotated[Number, between(0.05, 1, "share of a healthy flow")]


class VisitSection(Section):
    """A visit: flow found on arrival and left after the work."""

    at: Day
    found: Flow | None = None
    left: Flow | None = None


class KeptSection(Section):
    """A machine as its visits show it."""

    visits: Annotated[list[VisitSection], no_more_than(MOST_VISITS, "visits"), Field(min_length=1)]
    loads_per_week: LoadsPerWeek
    circumstances: list[Annotated[str, one_of("a circumstance", circumstance_names())]] = []

    def kept(self, healthy_m3s: float) -> Kept:
        """As the core thinks of it: flows as shares of a healthy one."""

        def share(flow: Quantity | None) -> float | None:
            return None if flow is None else flow.si("flow") / healthy_m3s

        visits = tuple(Visit(row.at, share(row.found), share(row.left)) for row in self.visits)
        return Kept(visits, self.loads_per_week, lint_times(self.circumstances))


class UpkeepDocument(KeptSection):
    """When a machine is due: `warm-draft/upkeep`, version 1."""

    format: Literal["warm-draft/upkeep"]
    version: Literal[1]
    healthy_flow: Flow
    limit_share: LimitShare = LIMIT_SHARE
    fleet: Annotated[list[KeptSection], no_more_than(MOST_FLEET, "machines")] = []
    title: str | None = None
    notes: str | None = None
