"""A day as JSON: who goes where and when, what it costs, and what an order of somebody's own costs more."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from warmdraft.day import Call, Run, Why, plan_day, run_day
from warmdraft.errors import DayError, DocumentError
from warmdraft.jobfile.day_schema import DayDocument
from warmdraft.jobfile.strict import read_as


@dataclass(slots=True)
class CallAnswer:
    """A stop in its tour; times of the day as they are written. late_minutes: as expected; late_chance: probability of
    beginning ten minutes or more too late; lacks: parts that are not in the van."""

    stop: str
    arrive: str
    begin: str
    leave: str
    travel_minutes: float
    late_minutes: float
    late_chance: float
    lacks: list[str]


@dataclass(slots=True)
class TourAnswer:
    """A van's day."""

    van: str
    start: str
    end: str
    travel_minutes: float
    overtime_minutes: float
    calls: list[CallAnswer]


@dataclass(slots=True)
class MissedAnswer:
    """A stop that nobody goes to."""

    stop: str
    why: Why


@dataclass(slots=True)
class DayAnswer:
    """A day. cost_minutes: driving, and what else counts as such; best_minutes: the best order's, where the day came
    with an order of somebody's own."""

    tours: list[TourAnswer]
    missed: list[MissedAnswer]
    cost_minutes: float
    best_minutes: float | None


def day_answer(value: Any) -> DayAnswer:
    """The best order of a `warm-draft/day`, or how its own order goes beside it. Raises DocumentError."""
    document = read_as(DayDocument, value, "a day")
    day = document.day()
    best = plan_day(day)
    if document.orders is None:
        return run_answer(best, None)
    try:
        return run_answer(run_day(day, document.orders), best.cost)
    except DayError as error:
        raise DocumentError("$.orders", str(error)) from None


def run_answer(run: Run, best: float | None) -> DayAnswer:
    """A day as it goes. best: cost of the best order, where that is another."""
    return DayAnswer(
        tours=[
            TourAnswer(
                tour.van, clock(tour.start), clock(tour.end), tour.travel, tour.overtime,
                [_call(call) for call in tour.calls],
            )
            for tour in run.tours
        ],
        missed=[MissedAnswer(row.stop, row.why) for row in run.missed],
        cost_minutes=run.cost,
        best_minutes=best,
    )  # fmt: skip


def _call(call: Call) -> CallAnswer:
    return CallAnswer(
        call.stop, clock(call.arrive), clock(call.begin), clock(call.leave), call.travel, call.late, call.late_chance,
        list(call.lacks),
    )  # fmt: skip


def clock(minutes: float) -> str:
    """A minute of the day as it is written; what is after midnight goes on counting hours.

    >>> clock(510.4), clock(1445)
    ('08:30', '24:05')
    """
    whole = round(minutes)
    return f"{whole // 60:02}:{whole % 60:02}"
