"""What a verdict is made from: a machine, and the facts in force."""

from __future__ import annotations

from dataclasses import dataclass, field, replace

from warmdraft.air import AirState
from warmdraft.checks import UNTAUGHT, Taught
from warmdraft.machine import Machine


@dataclass(frozen=True, slots=True)
class ReadingFact:
    """A reading in force. value in the canonical unit of its kind (suction positive)."""

    kind: str
    value: float
    heat_on: bool = False
    instrument: str | None = None
    id: str | None = None


@dataclass(frozen=True, slots=True)
class FindingFact:
    """The result of a look in force. shares: how much speaks for each of the check's results, where that is what is
    known; they sum to 1, and `result` is the first of them."""

    check: str
    result: str
    id: str | None = None
    shares: tuple[float, ...] = ()


@dataclass(frozen=True, slots=True)
class Case:
    """One job as the diagnosis sees it: only facts in force of the phase asked for.

    carries: instruments at hand, qualified: what this person may do; None for all. kinds: other machines it may be,
    with the share of each before anything is read; air_told: whether the air's state, or the altitude, is known.
    stands_open: whether it is taken apart just now; None: as far as looks tell. opening: minutes from here to parts,
    there and back, where the way in is known; opened_minutes: what is off, back on and off again; paid: what was got to
    otherwise, see checks.legs. tried: faults that were mended without any change.
    motors: two where the blower has one of its own. taught: what jobs made of our tables.
    """

    machine: Machine
    air: AirState = field(default_factory=AirState)
    circumstances: frozenset[str] = frozenset()
    complaints: frozenset[str] = frozenset()
    readings: tuple[ReadingFact, ...] = ()
    findings: tuple[FindingFact, ...] = ()
    carries: frozenset[str] | None = None
    qualified: frozenset[str] | None = None
    kinds: tuple[tuple[Machine, float], ...] = ()
    air_told: bool = True
    stands_open: bool | None = None
    opening: tuple[tuple[str, float], ...] | None = None
    opened_minutes: float | None = None
    paid: tuple[str, ...] = ()
    tried: frozenset[str] = frozenset()
    motors: int = 1
    taught: Taught = UNTAUGHT

    @property
    def anybodys(self) -> Case:
        """The same, whoever asks: only what to check next depends on what somebody carries and may do."""
        return replace(self, carries=None, qualified=None)
