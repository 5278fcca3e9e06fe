"""Which way a wheel comes off, and whether a part is the old one's like: as JSON and in words."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import product
from typing import Any, Literal, get_args

from warmdraft.jobfile.mending_schema import MatchDocument, WheelDocument
from warmdraft.jobfile.strict import read_as
from warmdraft.mending import (
    ATTACHMENTS,
    ENDS,
    FREEING,
    MARKS,
    PROPERTIES,
    ROLES,
    Attachment,
    Difference,
    End,
    Hand,
    Mark,
    Part,
    Reason,
    Role,
    Seat,
    Suits,
    Turn,
    Turns,
    Verdict,
    matched,
    turns_of,
)
from warmdraft.mending.thread import DecidedBy
from warmdraft.units import Dimension
from warmdraft.words import Words

_HANDS: dict[Mark, Hand] = {"left": "left", "right": "right"}
_ARROWS: dict[Mark, Turn] = {"clockwise": "clockwise", "counterclockwise": "counterclockwise"}
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
    decided_by: DecidedBy | Literal["pull"]
    contradiction: bool
    by_rule: Turn | None
    text: list[str]
    hold: str
    tight: str
    free: list[FreeingAnswer]
    schools: list[SchoolAnswer]


@dataclass(slots=True)
class RoleAnswer:
    """What turns what; runs: how one finds out which way it runs."""

    code: Role
    text: str
    runs: str


@dataclass(slots=True)
class EndAnswer:
    """From where one looks."""

    code: End
    text: str


@dataclass(slots=True)
class MarkedAnswer:
    """What may be marked on it."""

    code: Mark
    text: str


@dataclass(slots=True)
class AttachmentAnswer:
    """A way to sit on a shaft: what holds it meanwhile, and how tight it goes back."""

    code: Attachment
    text: str
    threaded: bool
    hold: str
    tight: str


@dataclass(slots=True)
class TurnsAnswer:
    """Which way something comes off and goes on, of what was asked: all as seen from where one kneels."""

    role: Role
    runs: Turn
    kneels: End
    mark: Mark
    hand: Hand
    off: Turn
    on: Turn
    contradiction: bool
    text: list[str]


@dataclass(slots=True)
class WheelBenchAnswer:
    """All there is to ask of what sits on a shaft, and every answer: nobody has a line behind a machine.

    turns: of what has a thread, whatever holds it there; pull: what is said of what has none.
    """

    attachments: list[AttachmentAnswer]
    roles: list[RoleAnswer]
    ends: list[EndAnswer]
    marks: list[MarkedAnswer]
    turns: list[TurnsAnswer]
    pull: str
    free: list[FreeingAnswer]
    schools: list[SchoolAnswer]


@dataclass(slots=True)
class NeverAnswer:
    """What is never offered: the words it is asked for by, as they begin; and what is said then."""

    asked: list[str]
    says: str


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
    found, book = turns_of(seat), words.texts("mending")
    return WheelAnswer(
        hand=found.hand if found else None,
        off=found.off if found else None,
        on=found.on if found else None,
        decided_by=found.decided_by if found else "pull",
        contradiction=found is not None and found.contradiction,
        by_rule=found.by_rule if found else None,
        text=_told(seat, found, words) if found else [book["wheel"]["pull"]],
        hold=book["hold"][seat.attachment],
        tight=book["tight"][seat.attachment],
        free=_freeing(book) if found else [],
        schools=_schools(book) if found else [],
    )


def wheel_bench_answer(words: Words) -> WheelBenchAnswer:
    """Every question and every answer of what sits on a shaft."""
    book = words.texts("mending")
    turns = []
    for role, runs, kneels, mark in product(ROLES, get_args(Turn), ENDS, MARKS):
        seat = Seat("threaded_hub", role, runs, kneels, _HANDS.get(mark), _ARROWS.get(mark), kneels)
        if found := turns_of(seat):
            said = _told(seat, found, words)
            turns.append(
                TurnsAnswer(role, runs, kneels, mark, found.hand, found.off, found.on, found.contradiction, said)
            )
    return WheelBenchAnswer(
        attachments=[
            AttachmentAnswer(code, book["attachment"][code], code != "d_clamp", book["hold"][code], book["tight"][code])
            for code in ATTACHMENTS
        ],
        roles=[RoleAnswer(code, book["role"][code], book["runs"][code]) for code in ROLES],
        ends=[EndAnswer(code, book["end"][code]) for code in ENDS],
        marks=[MarkedAnswer(code, book["mark"][code]) for code in MARKS],
        turns=turns,
        pull=book["wheel"]["pull"],
        free=_freeing(book),
        schools=_schools(book),
    )


def never_answer(words: Words) -> NeverAnswer:
    """What is never offered, and what to do instead."""
    said = words.texts("mending")["never"]
    return NeverAnswer([word.strip() for word in said["asked"].split(",")], said["says"])


def _freeing(book: Any) -> list[FreeingAnswer]:
    return [FreeingAnswer(way, book["free"][way], book["risk"][way]) for way in FREEING]


def _schools(book: Any) -> list[SchoolAnswer]:
    return [SchoolAnswer(**row) for row in book["school"].values()]


def _told(seat: Seat, found: Turns, words: Words) -> list[str]:
    book = words.texts("mending")
    said = book["wheel"]
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


def marks_in_words(part: Part, words: Words) -> dict[str, str]:
    """What is printed on a part, by property: as this person reads it."""
    known = {name: getattr(part, name) for name in PROPERTIES}
    return {name: _value(name, value, words) for name, value in known.items() if value is not None}


def _both(row: Difference, words: Words) -> dict[str, str]:
    return {"old": _value(row.property, row.old, words), "new": _value(row.property, row.new, words)}


def _value(name: str, value: str | float, words: Words) -> str:
    if name in _DIMENSIONS:
        return words.quantity(float(value), _DIMENSIONS[name])
    if name == "resets":
        return str(words.texts("mending")["resets"][value])
    return words.thing("part", str(value)) if name == "kind" else str(value)
