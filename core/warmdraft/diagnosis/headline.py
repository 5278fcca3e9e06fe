"""What stands first: where the air is held up, as a code and the places it names."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from warmdraft.diagnosis.case import Case
from warmdraft.diagnosis.verdict import Verdict

HeadlineCode = Literal[
    "nothing_measured", "misfit", "not_clear", "nothing_wrong", "heat", "not_of_the_air", "fault", "held_up_after",
    "held_up_before", "held_up",
]  # fmt: skip

#: The places named first hold this much of the probability together; more than so many is "not clear yet" (own
#: assumption).
NAMED_SHARE = 0.8
MOST_PLACES = 3
AFTER_THE_MACHINE = frozenset({"transition", "run", "hood", "room"})
NOT_OF_THE_AIR = frozenset({"electrical", "drive", "use"})
#: The zone before the wheel.
BEFORE_THE_WHEEL = "upstream"


@dataclass(frozen=True, slots=True)
class Headline:
    """code: what is said; zones: the places named, likeliest first; probability: theirs together."""

    code: HeadlineCode
    zones: tuple[str, ...]
    probability: float


def headline_of(case: Case, verdict: Verdict) -> Headline:
    """Which sentence stands first.

    >>> from warmdraft.diagnosis import diagnose
    >>> from warmdraft.machine import profile
    >>> case = Case(profile('full-size-electric'))
    >>> headline_of(case, diagnose(case)).code
    'nothing_measured'
    """
    named, total = [], 0.0
    for zone, probability in verdict.zones:
        if total >= NAMED_SHARE:
            break
        named.append(zone)
        total += probability
    return Headline(_code(case, verdict, named), tuple(named), total)


def _code(case: Case, verdict: Verdict, zones: list[str]) -> HeadlineCode:
    if not (case.readings or case.findings):
        return "nothing_measured"
    if verdict.misfits:
        return "misfit"
    if len(zones) > MOST_PLACES:
        return "not_clear"
    if zones[0] == "none":
        return "nothing_wrong"
    if zones == ["heat"]:
        return "heat"
    if zones[0] in NOT_OF_THE_AIR or {*zones} <= NOT_OF_THE_AIR | {"heat"}:
        return "not_of_the_air"
    certain = min(verdict.faults[0].probability, verdict.sure.probability)
    if len(zones) == 1 and certain >= NAMED_SHARE:
        return "fault"
    if len(zones) > 1 and set(zones) <= AFTER_THE_MACHINE:
        return "held_up_after"
    return "held_up_before" if zones == [BEFORE_THE_WHEEL] else "held_up"
