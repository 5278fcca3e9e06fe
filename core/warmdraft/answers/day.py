"""A day as JSON: who goes where and when, what it costs, and what an order of somebody's own costs more."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from warmdraft.answers.quote_shapes import QuoteAnswer
from warmdraft.day import Call, Day, Run, Why, moves_of, plan_day, run_day
from warmdraft.day.moves import Orders
from warmdraft.errors import DayError, DocumentError
from warmdraft.jobfile.day_schema import DayDocument
from warmdraft.jobfile.strict import read_as
from warmdraft.work import JobState, ahead_of, qualifications_asked
from warmdraft.work.ahead import From


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


@dataclass(slots=True)
class MovedAnswer:
    """A stop in another place. van: None where it is left out; position: in that van's order, from 0; costs_minutes:
    more than as it is, below 0 where it is better; late: stops begun late then that were not."""

    van: str | None
    position: int
    costs_minutes: float
    late: list[str]


def moves_answer(day: Day, orders: Orders, stop: str) -> list[MovedAnswer]:
    """What it costs to have a stop done otherwise, the cheapest first. Raises DayError."""
    return [MovedAnswer(row.van, row.position, row.costs, list(row.late)) for row in moves_of(day, orders, stop)]


@dataclass(slots=True)
class StopAnswer:
    """What a day asks of a job. by: what the minutes follow from; needs: qualifications; bring: parts to take along, as
    they are counted and as they are said; parts: how many of each number of the catalogue."""

    minutes: float
    sd_minutes: float
    by: From
    needs: list[str]
    bring: list[str]
    parts: dict[str, int]


def stop_answer(state: JobState, quote: QuoteAnswer) -> StopAnswer:
    """What a day asks of a job as it stands: how long, who, and what to take along."""
    ahead = ahead_of(state)
    brought = [row for row in quote.needed if row.bring]
    parts: dict[str, int] = {}
    for row in brought:
        number = row.number or next((item.number for item in row.items if item.pick), "")
        if number:
            parts[number] = parts.get(number, 0) + row.count
    return StopAnswer(
        ahead.minutes, ahead.sd_minutes, ahead.by, sorted(qualifications_asked(state)),
        [row.text if row.count == 1 else f"{row.count} × {row.text}" for row in brought], parts,
    )  # fmt: skip


def clock(minutes: float) -> str:
    """A minute of the day as it is written; what is after midnight goes on counting hours.

    >>> clock(510.4), clock(1445)
    ('08:30', '24:05')
    """
    whole = round(minutes)
    return f"{whole // 60:02}:{whole % 60:02}"
