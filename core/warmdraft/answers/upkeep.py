"""When a machine is due again, as JSON and in words."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from warmdraft.answers.quantity import Quantity, quantity
from warmdraft.jobfile.strict import read_as
from warmdraft.jobfile.upkeep_schema import UpkeepDocument
from warmdraft.upkeep import ReasonCode, Upkeep, upkeep
from warmdraft.words import Words


@dataclass(slots=True)
class DueAnswer:
    """The day a machine's flow falls short: 5, 50 and 95 %."""

    low: str
    median: str
    high: str


@dataclass(slots=True)
class ReasonAnswer:
    """Why a date is what it is. times: how much faster than usual it fills; count: how many speak, or loads a week."""

    code: ReasonCode
    times: float | None
    count: float | None
    text: str


@dataclass(slots=True)
class ForeseenAnswer:
    """The flow on a day to come: 5, 50 and 95 %."""

    at: str
    low: Quantity
    median: Quantity
    high: Quantity


@dataclass(slots=True)
class UpkeepAnswer:
    """When a machine is due. service_by: the earlier of the middle and a year after the last visit; foreseen: its flow
    until then, as far as nobody cleans it."""

    due: DueAnswer
    service_by: str
    because: list[ReasonAnswer]
    foreseen: list[ForeseenAnswer]


def upkeep_document_answer(value: Any, words: Words) -> UpkeepAnswer:
    """When the machine of a `warm-draft/upkeep` is due. Raises DocumentError."""
    document = read_as(UpkeepDocument, value, "a machine's visits")
    healthy = document.healthy_flow.si("flow")
    fleet = [machine.kept(healthy) for machine in document.fleet]
    return upkeep_answer(upkeep(document.kept(healthy), fleet, document.limit_share), healthy, words)


def upkeep_answer(found: Upkeep, healthy_m3s: float, words: Words) -> UpkeepAnswer:
    """When a machine is due, with its words. healthy_m3s: what its kind moves when healthy."""
    return UpkeepAnswer(
        due=DueAnswer(*(day.isoformat() for day in found.due)),
        service_by=found.service_by.isoformat(),
        because=[ReasonAnswer(row.code, row.times, row.count, words.why_due(row)) for row in found.because],
        foreseen=[
            ForeseenAnswer(row.at.isoformat(), *(quantity(share * healthy_m3s, "m3/s") for share in row.shares))
            for row in found.foreseen
        ],
    )
