"""Whether a new electrical part is the old one's like: a look-alike that differs in one figure is refused.

What may differ how far: own choice, by what the part is there for. A fuse, cut-off or limit guards the machine at its
temperature; a rating above the old one's does no harm, one below it burns.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, fields
from typing import Literal, get_args

Resets = Literal["no", "self", "by_hand"]
Reason = Literal[
    "kind_differs", "resets_differs", "opens_at_differs", "differential_differs", "voltage_too_low", "current_too_low",
    "power_differs", "r25_differs", "terminals_differ", "mounting_differs",
]  # fmt: skip
Verdict = Literal["fits", "refused", "ask"]
REASONS: tuple[Reason, ...] = get_args(Reason)

#: How far the temperatures of two like thermostats may lie apart, K (own choice; makers mark theirs to 3 K and more).
_OPENS_WITHIN_K, _CLOSES_WITHIN_K = 1.5, 3.0
#: How far a heater's power and a thermistor's resistance at 25 °C may differ, share (own choice).
_POWER_WITHIN, _R25_WITHIN = 0.02, 0.01
#: Figures that are equal but for how a computer keeps them.
_ALIKE = 1e-9

_GUARDS = ("resets", "opens_at", "voltage", "current")
#: What has to be known of a kind before it is fitted.
_ASKED: dict[str, tuple[str, ...]] = {
    "thermal_fuse": _GUARDS,
    "thermal_cutoff": _GUARDS,
    "high_limit": _GUARDS,
    "cycling_thermostat": (*_GUARDS, "closes_at"),
    "heating_element": ("power", "voltage"),
    "thermistor": ("r25",),
}


@dataclass(frozen=True, slots=True)
class Part:
    """An electrical part by its marks; None where a mark is not known. degC, V, A, W, ohm; r25: at 25 °C."""

    kind: str
    resets: Resets | None = None
    opens_at: float | None = None
    closes_at: float | None = None
    voltage: float | None = None
    current: float | None = None
    power: float | None = None
    r25: float | None = None
    terminals: int | None = None
    mounting: str | None = None


PROPERTIES: tuple[str, ...] = tuple(field.name for field in fields(Part) if field.name != "kind")


@dataclass(frozen=True, slots=True)
class Difference:
    """A reason to refuse it: the property, and what the old one and the new one have of it."""

    code: Reason
    property: str
    old: str | float | int
    new: str | float | int


@dataclass(frozen=True, slots=True)
class Suits:
    """Whether a new part fits; missing: properties to read off a part before it is fitted, by name."""

    verdict: Verdict
    reasons: tuple[Difference, ...]
    missing: tuple[str, ...]


def asked_of(kind: str) -> tuple[str, ...]:
    """What is read off a part of a kind before one like it is fitted; nothing where no mark tells them apart.

    >>> asked_of("thermistor")
    ('r25', 'terminals', 'mounting')
    """
    return (*_ASKED[kind], "terminals", "mounting") if kind in _ASKED else ()


def _apart(by: float) -> Callable[[float, float], bool]:
    return lambda old, new: abs(new - old) > by + _ALIKE


def _apart_by_share(by: float) -> Callable[[float, float], bool]:
    return lambda old, new: abs(new - old) > by * abs(old) * (1 + _ALIKE)


def _below(old: float, new: float) -> bool:
    return new < old * (1 - _ALIKE)


def _other(old: float, new: float) -> bool:
    return old != new


def _named_otherwise(old: str, new: str) -> bool:
    return " ".join(old.casefold().split()) != " ".join(new.casefold().split())


#: What is wrong with the new one's property beside the old one's, in the order it is told.
_NUMBERS: tuple[tuple[str, Reason, Callable[[float, float], bool]], ...] = (
    ("opens_at", "opens_at_differs", _apart(_OPENS_WITHIN_K)),
    ("closes_at", "differential_differs", _apart(_CLOSES_WITHIN_K)),
    ("voltage", "voltage_too_low", _below),
    ("current", "current_too_low", _below),
    ("power", "power_differs", _apart_by_share(_POWER_WITHIN)),
    ("r25", "r25_differs", _apart_by_share(_R25_WITHIN)),
    ("terminals", "terminals_differ", _other),
)
_NAMES: tuple[tuple[str, Reason], ...] = (
    ("kind", "kind_differs"),
    ("resets", "resets_differs"),
    ("mounting", "mounting_differs"),
)


def matched(old: Part, new: Part) -> Suits:
    """Whether the new part may stand in for the old one.

    >>> old = Part("high_limit", "self", opens_at=121.0, voltage=250.0, current=25.0)
    >>> matched(old, Part("high_limit", "self", opens_at=96.0, voltage=250.0, current=25.0)).reasons[0].code
    'opens_at_differs'
    >>> matched(old, Part("high_limit", "self", opens_at=121.0, voltage=250.0)).missing
    ('current',)
    """
    reasons = []
    for name, code in _NAMES:
        was, now = getattr(old, name), getattr(new, name)
        if was is not None and now is not None and _named_otherwise(was, now):
            reasons.append(Difference(code, name, was, now))
    for name, code, differs in _NUMBERS:
        was, now = getattr(old, name), getattr(new, name)
        if was is not None and now is not None and differs(was, now):
            reasons.append(Difference(code, name, was, now))
    if reasons:
        return Suits("refused", tuple(sorted(reasons, key=lambda reason: REASONS.index(reason.code))), ())
    asked = _ASKED.get(old.kind, ())
    known = {name: (getattr(old, name) is not None) + (getattr(new, name) is not None) for name in PROPERTIES}
    missing = [name for name, of in known.items() if of == 1 or (of == 0 and name in asked)]
    return Suits("ask" if missing else "fits", (), tuple(sorted(missing)))
