"""Honest minutes: all that a check costs from where the machine stands, getting there and back included."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

from warmdraft.checks import NO_EVIDENCE, Check, Leg, checks, legs, legs_to
from warmdraft.diagnosis.case import Case
from warmdraft.repair import repair_of

#: Opening to one part where the way is not known opens this share of the way to another (own assumption).
SHARED_WAY = 0.7
#: Showing that a repair has helped, minutes (own assumption).
PROOF_MINUTES = 5.0
#: How one gets to what lies outside the machine.
_OUTSIDE = {"transition": ("pull_out", "part_vent"), "run": ("pull_out", "part_vent", "walk_to_hood"),
            "hood": ("walk_to_hood",)}  # fmt: skip


@dataclass(frozen=True, slots=True)
class Clock:
    """What is paid already, and what the rest costs. paid: names of legs; reached: parts the machine was opened to."""

    case: Case
    paid: frozenset[str]
    reached: frozenset[str]
    open_now: bool

    def minutes(self, check: Check) -> float:
        """All that a check costs from here; a share of its waiting included.

        What needs the machine running and shut, while it stands open, costs closing it and opening it again.
        """
        there = sum(self.unpaid(check).values())
        if self.open_now and not check.stopped and check.access in ("outside", "behind"):
            there += self._closing()
        return check.cost_minutes + there

    def unpaid(self, check: Check) -> dict[str, float]:
        """Ways to a check that are not paid, with their minutes."""
        return {leg.name: self._leg(leg) for leg in legs_to(check) if leg.name not in self.paid}

    def to_mend(self, fault: str) -> float:
        """All that it costs from here to mend a fault and to show that it helped."""
        found = {finding.check: finding.result for finding in self.case.findings}
        repair = repair_of(fault, found, self.case.machine.heat.energy, dict(self.case.opening or ()))
        parts = {*repair.reach, *(act.part for act in repair.acts if act.part in _OUTSIDE)}
        ways = {leg for part in parts for leg in _legs_to_part(part)}
        there = sum(self._leg(leg) for leg in ways if leg.name not in self.paid)
        return there + sum(act.minutes for act in repair.acts) + PROOF_MINUTES

    def _leg(self, leg: Leg) -> float:
        if leg.reaches is None:
            return leg.minutes
        if self.case.opening is not None:
            known = dict(self.case.opening).get(leg.reaches)
            if known is not None:
                return known
        deepest = max((_usual(part) for part in self.reached), default=0.0)
        return max(leg.minutes - SHARED_WAY * deepest, leg.minutes * (1 - SHARED_WAY) if self.reached else 0.0)

    def _closing(self) -> float:
        if self.case.opened_minutes is not None:
            return self.case.opened_minutes
        return max((_usual(part) for part in self.reached), default=0.0)


@cache
def _legs_to_part(part: str) -> tuple[Leg, ...]:
    """What has to be done to get to a part."""
    if part in _OUTSIDE:
        return tuple(legs()[name] for name in _OUTSIDE[part])
    return tuple(leg for leg in legs().values() if leg.reaches == part)


def _usual(part: str) -> float:
    return next((leg.minutes for leg in _legs_to_part(part)), 0.0)


def clock_of(case: Case) -> Clock:
    """The clock as the case stands: what was read or looked at has been got to."""
    done = [checks()[finding.check] for finding in case.findings if finding.result not in NO_EVIDENCE]
    done += [checks()[reading.kind] for reading in case.readings if reading.kind in checks()]
    got = [leg for check in done for leg in legs_to(check)]
    reached = frozenset(leg.reaches for leg in got if leg.reaches is not None)
    paid = {leg.name for leg in got} | set(case.paid)
    open_now = bool(reached) if case.stands_open is None else case.stands_open
    return Clock(case, frozenset(paid), reached, open_now)


def mending_minutes(case: Case, fault: str) -> float:
    """All that it costs from where the machine stands to mend a fault and to show that it helped.

    >>> from warmdraft.machine import profile
    >>> case = Case(profile('full-size-electric'))
    >>> mending_minutes(case, 'blower_wheel_fouled') > mending_minutes(case, 'lint_screen_blinded')
    True
    """
    return clock_of(case).to_mend(fault)
