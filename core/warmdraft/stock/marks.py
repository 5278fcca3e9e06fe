"""What is printed on an electrical part, as somebody types it."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from typing import Any, get_args

from warmdraft.errors import UnitError
from warmdraft.mending import PROPERTIES, Part, Resets
from warmdraft.units import Dimension, parse_typed, to_si

#: Dimension of what is printed, and the unit it is kept and written in.
MARKED: dict[str, tuple[Dimension, str]] = {
    "opens_at": ("temperature", "degC"), "closes_at": ("temperature", "degC"), "voltage": ("voltage", "V"),
    "current": ("current", "A"), "power": ("power", "W"), "r25": ("electrical_resistance", "ohm"),
}  # fmt: skip
_UNITS = dict(MARKED.values())
#: Characters of one mark; terminals a part has.
MOST_MARK, MOST_TERMINALS = 200, 99


@lru_cache(maxsize=10_000)
def _quantity(said: str, dimension: Dimension) -> float:
    """In the dimension's own unit. Without one it is refused: 120 is a thermostat's in either scale."""
    if said[-1].isdigit():
        raise UnitError("has no unit")
    return to_si(*parse_typed(said, dimension, _UNITS[dimension]), dimension)


def marks_typed(kind: str, said: Mapping[str, str]) -> tuple[Part | None, dict[str, str]]:
    """A part by its marks as typed, by property; None where none is given. Then what is wrong, by property.

    >>> marks_typed("high_limit", {"opens_at": "250 °F", "voltage": "250"})[1]
    {'voltage': "'250' is not understood; give a number with its unit, such as 120 V"}
    """
    known: dict[str, Any] = {}
    wrong: dict[str, str] = {}
    for name in PROPERTIES:
        typed = said.get(name, "").strip()
        if not typed:
            continue
        if name in MARKED:
            dimension, unit = MARKED[name]
            try:
                known[name] = _quantity(typed, dimension)
            except UnitError:
                wrong[name] = f"'{typed[:30]}' is not understood; give a number with its unit, such as 120 {unit}"
        elif name == "resets":
            known[name] = typed
            if typed not in get_args(Resets):
                wrong[name] = f"'{typed[:30]}' is none; give one of {', '.join(get_args(Resets))}"
        elif name == "terminals":
            if not (typed.isascii() and typed.isdigit() and 0 < int(typed) <= MOST_TERMINALS):
                wrong[name] = f"'{typed[:30]}' is no whole number from 1 to {MOST_TERMINALS}"
            else:
                known[name] = int(typed)
        elif len(typed) > MOST_MARK:
            wrong[name] = f"has {len(typed)} characters; give at most {MOST_MARK}"
        else:
            known[name] = typed
    return (Part(kind, **known) if known and not wrong else None), wrong
