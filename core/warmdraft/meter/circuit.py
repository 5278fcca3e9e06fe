"""Which circuit to meter: a cut-off in the motor's stops the start, one in the heater's lets it turn cold."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Protocol

#: What speaks for a circuit: complaints, and results of what_runs. Common practice, no source.
_COMPLAINTS = {"no_start": "motor", "drum_does_not_turn": "motor", "no_heat": "heater", "stops_and_starts": "motor"}
_WHAT_RUNS = {"drum_no_heat": "heater", "hums": "motor", "dead": "motor"}


class Finding(Protocol):
    """A finding as the diagnosis has it."""

    @property
    def check(self) -> str:
        """The check."""

    @property
    def result(self) -> str:
        """Its result."""


def suspect_circuit(complaints: frozenset[str], findings: Iterable[Finding]) -> str | None:
    """The circuit to meter first: what still runs decides over what was complained of; None where nothing speaks.

    >>> suspect_circuit(frozenset({'no_heat'}), ()), suspect_circuit(frozenset(), ())
    ('heater', None)
    """
    for finding in findings:
        if finding.check == "what_runs" and finding.result in _WHAT_RUNS:
            return _WHAT_RUNS[finding.result]
    return next((circuit for name, circuit in _COMPLAINTS.items() if name in complaints), None)
