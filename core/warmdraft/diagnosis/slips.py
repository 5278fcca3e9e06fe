"""What most likely went wrong with a reading that fits nothing beside the others."""

from __future__ import annotations

from typing import Literal, get_args

from warmdraft.airway import TAPS, reading_dimensions
from warmdraft.units import UNITS, from_si, to_si

SlipCode = Literal["hose_off", "sign", "facing", "unit", "point"]
SLIPS: tuple[str, ...] = get_args(SlipCode)
#: How far beyond what the others lead one to expect a reading put right may still lie, as a share (own assumption).
_GIVE = 0.15
#: A pressure below this, where at least five times as much is expected, is that of the room: the hose is off, Pa
#: (own assumption).
_NOTHING_PA = 5.0


def slip_of(kind: str, value: float, low: float, high: float, dynamic_pa: float) -> SlipCode | None:
    """The likely slip, None where no usual one explains it.

    value and the interval expected (low, high) in the kind's canonical unit; dynamic_pa: of the stream where taps are.

    >>> slip_of('outlet_static_pressure', 0.4, 90.0, 110.0, 60.0)  # 0.40 inH2O, written as Pa
    'unit'
    >>> slip_of('outlet_static_pressure', 0.0, 90.0, 110.0, 60.0)
    'hose_off'
    """
    room = _GIVE * max(abs(low), abs(high))

    def fits(put_right: float) -> bool:
        return low - room <= put_right <= high + room

    dimension = reading_dimensions()[kind]
    if dimension == "pressure":
        if value != 0 and fits(-value):
            return "sign"
        if kind in TAPS and fits(value - TAPS[kind].sign * dynamic_pa):
            return "facing"
    if fits(10 * value) or fits(value / 10):
        return "point"
    units = UNITS[dimension].names
    typed = {unit: from_si(value, unit, dimension) for unit in units}
    if any(fits(to_si(number, meant, dimension)) for unit, number in typed.items() for meant in units if meant != unit):
        return "unit"
    if dimension == "pressure" and abs(value) < _NOTHING_PA and min(abs(low), abs(high)) > 5 * _NOTHING_PA:
        return "hose_off"
    return None
