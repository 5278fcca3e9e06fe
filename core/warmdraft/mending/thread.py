"""Which way what sits on a shaft is turned to come off, and to go on.

A load, such as a wheel in its air, is turned by the shaft and lags behind it; a driver, such as a pulley under its
belt, turns the shaft and leads. Either is screwed tighter by its own work, or it would not stay on: that gives the
hand of its thread. Screw thread and torque: elementary mechanics, no source needed.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

Attachment = Literal["threaded_hub", "nut", "bolt", "d_clamp"]
Role = Literal["load", "driver"]
Turn = Literal["clockwise", "counterclockwise"]
#: Of the shaft: its free end carries the part; from the other side one looks along the shaft at the part's back.
End = Literal["free_end", "shaft_side"]
Hand = Literal["left", "right"]
DecidedBy = Literal["mark", "rule"]
ATTACHMENTS: tuple[Attachment, ...] = get_args(Attachment)
ROLES: tuple[Role, ...] = get_args(Role)
#: What may be marked on a part: an arrow that loosens it, seen from the free end, or the hand of its thread.
Mark = Literal["none", "clockwise", "counterclockwise", "left", "right"]
MARKS: tuple[Mark, ...] = get_args(Mark)
#: Ways to free what is stuck, the gentlest first.
FREEING = ("oil", "torque", "shock", "heat", "break")
ENDS: tuple[End, ...] = get_args(End)

_OTHER: dict[Turn, Turn] = {"clockwise": "counterclockwise", "counterclockwise": "clockwise"}
#: Seen from the free end, a right-hand thread comes off counterclockwise.
_COMES_OFF: dict[Hand, Turn] = {"right": "counterclockwise", "left": "clockwise"}
_HAND: dict[Turn, Hand] = {turn: hand for hand, turn in _COMES_OFF.items()}


@dataclass(frozen=True, slots=True)
class Seat:
    """How a part sits on the end of its shaft.

    runs: as seen from `seen_from`; hand, arrow: what is marked on the part, None where nothing is; arrow: the way that
    loosens it, seen from the free end; kneels: the side one works from.
    """

    attachment: Attachment
    role: Role
    runs: Turn
    seen_from: End
    hand: Hand | None = None
    arrow: Turn | None = None
    kneels: End = "free_end"


@dataclass(frozen=True, slots=True)
class Turns:
    """Which way it comes off and goes on, as seen from where one kneels.

    by_rule: the way off that the rule says, seen from there too; contradiction: a mark says otherwise, and wins.
    """

    hand: Hand
    off: Turn
    on: Turn
    decided_by: DecidedBy
    by_rule: Turn
    contradiction: bool


def as_seen(turn: Turn, at: End, from_: End) -> Turn:
    """A turn seen at one end, as it is seen from another.

    >>> as_seen("clockwise", "free_end", "shaft_side"), as_seen("clockwise", "free_end", "free_end")
    ('counterclockwise', 'clockwise')
    """
    return turn if at == from_ else _OTHER[turn]


def turns_of(seat: Seat) -> Turns | None:
    """Which way a part comes off its shaft, the shaft held; None where it has no thread and is drawn off.

    >>> wheel = Seat("threaded_hub", "load", runs="clockwise", seen_from="free_end")
    >>> turns_of(wheel).hand, turns_of(wheel).off
    ('left', 'clockwise')
    """
    if seat.attachment == "d_clamp":
        return None
    runs = as_seen(seat.runs, seat.seen_from, "free_end")
    # a load stays behind the shaft it is turned by: it comes off the way it runs; a driver the other way
    rule = runs if seat.role == "load" else _OTHER[runs]
    off = seat.arrow or (_COMES_OFF[seat.hand] if seat.hand else rule)
    here = as_seen(off, "free_end", seat.kneels)
    return Turns(
        hand=_HAND[off],
        off=here,
        on=_OTHER[here],
        decided_by="mark" if seat.arrow or seat.hand else "rule",
        by_rule=as_seen(rule, "free_end", seat.kneels),
        contradiction=off != rule,
    )
