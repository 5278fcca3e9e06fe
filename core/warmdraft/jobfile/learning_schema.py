"""The shape of `warm-draft/counts`: what jobs counted, as workshops share it. No people, no places, no days."""

from __future__ import annotations

from collections import Counter
from typing import Annotated, Any, Literal

from pydantic import model_validator

from warmdraft.checks import checks
from warmdraft.faults import Told, circumstance_names, complaint_names, fault_names
from warmdraft.jobfile.limits import no_more_than
from warmdraft.jobfile.parts import Number, Section, between, one_of, refused
from warmdraft.learning import Counts, LookKey
from warmdraft.machine import profile_names
from warmdraft.meter import supplies

#: Rows of each list, and jobs that a workshop may have counted.
MOST_ROWS, MOST_JOBS = 20_000, 1e7
Count = Annotated[Number, between(0, MOST_JOBS, "count of jobs")]
Fault = Annotated[str, one_of("a fault", fault_names())]


class ToldSection(Section):
    """What was known of a machine before anything was measured."""

    profile: Annotated[str, one_of("a profile", profile_names())] | None = None
    energy: Literal["electric", "gas"] | None = None
    supply: Annotated[str, one_of("a supply", tuple(supplies()))] | None = None
    motors: Literal[1, 2] = 1
    run_within_allowance: bool | None = None
    circumstances: list[Annotated[str, one_of("a circumstance", circumstance_names())]] = []
    complaints: list[Annotated[str, one_of("a complaint", complaint_names())]] = []
    tried: list[Fault] = []

    def told(self) -> Told:
        """As the core thinks of it."""
        return Told(
            profile=self.profile or "", energy=self.energy, supply=self.supply, motors=self.motors,
            run_within_allowance=self.run_within_allowance, circumstances=frozenset(self.circumstances),
            complaints=frozenset(self.complaints), tried=frozenset(self.tried),
        )  # fmt: skip


class CauseSection(Section):
    """So many jobs on machines of which this was known turned out to be that."""

    machine: ToldSection = ToldSection()
    fault: Fault
    count: Count


class LookSection(Section):
    """A check gave a result so many times; row: the fault it was, or the group of faults its table goes by."""

    check: Annotated[str, one_of("a look", tuple(name for name, check in checks().items() if check.results))]
    row: str
    result: str
    count: Count

    @model_validator(mode="after")
    def _known(self) -> Any:
        look = checks()[self.check]
        for key, value, known in (("row", self.row, tuple(look.rows)), ("result", self.result, look.results)):
            if value not in known:
                raise refused(f"{value!r} is no {key} of {self.check}; give one of {', '.join(known)}", key)
        return self


class CountsDocument(Section):
    """What jobs counted: `warm-draft/counts`, version 1."""

    format: Literal["warm-draft/counts"]
    version: Literal[1]
    jobs: Count
    causes: Annotated[list[CauseSection], no_more_than(MOST_ROWS, "causes")] = []
    looks: Annotated[list[LookSection], no_more_than(MOST_ROWS, "looks")] = []
    title: str | None = None
    notes: str | None = None

    def counts(self) -> Counts:
        """As the core thinks of them; rows that say the same add up."""
        causes, looks = Counter[tuple[Told, str]](), Counter[LookKey]()
        for row in self.causes:
            causes[row.machine.told(), row.fault] += row.count  # type: ignore[assignment]
        for look in self.looks:
            looks[look.check, look.row, look.result] += look.count  # type: ignore[assignment]
        return Counts(self.jobs, {key: n for key, n in causes.items() if n}, {key: n for key, n in looks.items() if n})


def counts_document(counts: Counts) -> dict[str, Any]:
    """Counts as the JSON value they are written as, in an order of their own."""
    causes = [
        {"machine": _machine(told), "fault": fault, "count": _number(count)}
        for (told, fault), count in counts.causes.items()
    ]
    looks = [
        {"check": check, "row": row, "result": result, "count": _number(count)}
        for (check, row, result), count in sorted(counts.looks.items())
        if _number(count)
    ]
    return {
        "format": "warm-draft/counts",
        "version": 1,
        "jobs": _number(counts.jobs),
        "causes": sorted(causes, key=lambda row: (row["fault"], str(row["machine"]))),
        "looks": looks,
    }


def _machine(told: Told) -> dict[str, Any]:
    rows: dict[str, Any] = {
        "profile": told.profile or None, "energy": told.energy, "supply": told.supply,
        "motors": told.motors if told.motors != 1 else None, "run_within_allowance": told.run_within_allowance,
        "circumstances": sorted(told.circumstances), "complaints": sorted(told.complaints), "tried": sorted(told.tried),
    }  # fmt: skip
    return {key: value for key, value in rows.items() if value not in (None, [])}


def _number(value: float) -> float:
    """To a thousandth of a job: finer is nothing that anybody counted."""
    return round(value, 3)
