"""Which way a wheel comes off, and whether a part is the old one's like: as JSON and in words."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from warmdraft.jobfile.mending_schema import MatchDocument, WheelDocument
from warmdraft.jobfile.strict import read_as
from warmdraft.mending import FREEING, Difference, Hand, Reason, Seat, Suits, Turn, Turns, Verdict, matched, turns_of
from warmdraft.mending.thread import DecidedBy
from warmdraft.units import Dimension
from warmdraft.words import Words

_DIMENSIONS: dict[str, Dimension] = {
    "opens_at": "temperature", "closes_at": "temperature", "voltage": "voltage", "current": "current",
    "power": "power", "r25": "electrical_resistance",
}  # fmt: skip


@dataclass(slots=True)
class FreeingAnswer:
    """A way to free what is stuck, and what it risks."""

    way: str
    text: str
    risk: str


@dataclass(slots=True)
class SchoolAnswer:
    """A question that people answer differently: what others do, what we pick, and why."""

    asks: str
    others: str
    ours: str
    why: str


@dataclass(slots=True)
class WheelAnswer:
    """Which way it comes off and goes on, as seen from where one kneels; null where it is drawn off.

    by_rule: the way off by the rule, whatever is marked; text: what to do, in order; hold: what holds the shaft;
    tight: how tight it goes back; free: ways to free it, in their order.
    """

    hand: Hand | None
    off: Turn | None
    on: Turn | None
    decided_by: DecidedBy
    contradiction: bool
    by_rule: Turn | None
    text: list[str]
    hold: str
    tight: str
    free: list[FreeingAnswer]
    schools: list[SchoolAnswer]


@dataclass(slots=True)
class DifferenceAnswer:
    """A reason to refuse a part."""

    code: Reason
    property: str
    text: str


@dataclass(slots=True)
class MatchAnswer:
    """Whether a new part fits; missing: properties to read off first."""

    verdict: Verdict
    reasons: list[DifferenceAnswer]
    missing: list[str]
    text: str


def wheel_answer(value: Any, words: Words) -> WheelAnswer:
    """Which way what sits on a shaft comes off. Raises DocumentError."""
    seat = read_as(WheelDocument, value, "a wheel on its shaft").seat()
    return turns_answer(seat, turns_of(seat), words)


def turns_answer(seat: Seat, found: Turns, words: Words) -> WheelAnswer:
    """The same of a seat that was read."""
    book = words.texts("mending")
    threaded = found.off is not None
    return WheelAnswer(
        hand=found.hand,
        off=found.off,
        on=found.on,
        decided_by=found.decided_by,
        contradiction=found.contradiction,
        by_rule=found.by_rule,
        text=_told(seat, found, words),
        hold=book["hold"][seat.attachment],
        tight=book["tight"][seat.attachment],
        free=[FreeingAnswer(way, book["free"][way], book["risk"][way]) for way in FREEING if threaded],
        schools=[SchoolAnswer(**row) for row in book["school"].values() if threaded],
    )


def _told(seat: Seat, found: Turns, words: Words) -> list[str]:
    book = words.texts("mending")
    said = book["wheel"]
    if found.off is None or found.on is None or found.by_rule is None or found.hand is None:
        return [said["pull"]]
    named = {
        "off": book["turn"][found.off], "on": book["turn"][found.on], "by_rule": book["turn"][found.by_rule],
        "seen": book["end"][seat.kneels], "hand": book["hand"][found.hand],
    }  # fmt: skip
    keys = [
        "off",
        seat.role if found.decided_by == "rule" else "contradiction" if found.contradiction else "mark",
        *(["no_power"] if found.hand == "left" else []),
        "on",
    ]
    return [str(said[key]).format(**named) for key in keys]


def match_answer(value: Any, words: Words) -> MatchAnswer:
    """Whether a new part is the old one's like. Raises DocumentError."""
    document = read_as(MatchDocument, value, "a part beside its like")
    return suits_answer(matched(document.old.part(), document.new.part()), words)


def suits_answer(found: Suits, words: Words) -> MatchAnswer:
    """The same of parts that were read."""
    book = words.texts("mending")
    reasons = [
        DifferenceAnswer(row.code, row.property, str(book["match"][row.code]).format(**_both(row, words)))
        for row in found.reasons
    ]
    missing = ", ".join(book["property"][name] for name in found.missing)
    text = str(book["verdict"][found.verdict]).format(missing=missing)
    if found.verdict == "refused":
        text = f"{text} {book['verdict']['nothing_else']}"
    return MatchAnswer(found.verdict, reasons, list(found.missing), text)


def _both(row: Difference, words: Words) -> dict[str, str]:
    return {"old": _value(row.property, row.old, words), "new": _value(row.property, row.new, words)}


def _value(name: str, value: str | float, words: Words) -> str:
    if name in _DIMENSIONS:
        return words.quantity(float(value), _DIMENSIONS[name])
    if name == "resets":
        return str(words.texts("mending")["resets"][value])
    return words.thing("part", str(value)) if name == "kind" else str(value)
