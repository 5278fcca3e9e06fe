"""A duct that several machines blow into: what each gets when one, some or all of them run, and where lint settles.

Each machine is its fan's head at rest less what its own airway and its lateral take, Δp = R·Q²; so is every length of
the riser with what flows through it. From the foot up, the pressure at a tap gives its machine's flow, the flows so far
give the drop to the next tap; the pressure left at the end has to be the one outdoors. It rises with the pressure at
the foot, so there is one crossing, found by halving. A machine that is off lets nothing back in: each has its flap.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from warmdraft.air import Floats
from warmdraft.airway import healthy_state
from warmdraft.errors import VentError
from warmdraft.machine import ELEMENTS, Airway
from warmdraft.vent.losses import VentRun, piece_drops_pa

_HALVINGS = 60  # of the whole pressure there is: far below a micropascal
#: Machines on one riser at most.
MOST_TAPS = 24


@dataclass(frozen=True, slots=True)
class Tap:
    """A machine and its lateral to the riser."""

    airway: Airway
    lateral: VentRun


@dataclass(frozen=True, slots=True)
class Riser:
    """Taps from the foot on, and the length of riser behind each, the last to the outdoors. fan_pa: how far a fan at
    the end, or the wind, lies below the room."""

    taps: tuple[Tap, ...]
    lengths: tuple[VentRun, ...]
    fan_pa: float = 0.0


@dataclass(frozen=True, slots=True)
class Shared:
    """Flows under each pattern of machines that run: flow_m3s, pressure_pa (patterns, taps) at each tap; riser_m3s,
    speed_m_s (patterns, lengths)."""

    flow_m3s: Floats
    pressure_pa: Floats
    riser_m3s: Floats
    speed_m_s: Floats


def head_and_resistance(tap: Tap) -> tuple[float, float]:
    """What a machine's fan has at rest, Pa, and what its way to the riser takes, Pa/(m³/s)²: through a healthy machine,
    its transition and its lateral.

    Source: parabolic fan curve p₀(1 − (Q/Q_free)²), series resistances; the seals' leaks stand before the wheel.

    >>> from warmdraft.machine import profile
    >>> from warmdraft.vent.losses import Straight
    >>> head, resistance = head_and_resistance(
    ...     Tap(profile("full-size-electric").airway, VentRun(0.1016, (Straight(1.0, "galvanised"),))))
    >>> round(head), round((head / resistance) ** 0.5, 3)  # Pa at rest, m³/s with nothing behind it
    (440, 0.087)
    """
    airway = tap.airway
    fan, state = airway.fan, healthy_state(airway)
    resistance = dict(zip(ELEMENTS, state.resistance[0], strict=True))
    drum = _beside(resistance["inlet"] + resistance["drum"], float(state.drum_seal[0]))
    suction = _beside(drum + resistance["lint_screen"] + resistance["lint_duct"], float(state.lint_duct_seal[0]))
    own = suction + resistance["exhaust_pipe"] + resistance["transition"]
    lateral = sum(piece_drops_pa(tap.lateral, airway.rated_flow_m3s)) / airway.rated_flow_m3s**2
    return fan.shutoff_pressure_pa, float(own + lateral + fan.shutoff_pressure_pa / fan.free_flow_m3s**2)


def _beside(resistance: float, conductance: float) -> float:
    return float((resistance**-0.5 + conductance) ** -2)


def shared(riser: Riser, running: npt.ArrayLike) -> Shared:
    """Flows on a riser. running: (patterns, taps), which machines are on.

    Raises VentError for a riser that is none, or patterns of another number of machines.

    >>> from warmdraft.machine import profile
    >>> from warmdraft.vent.losses import Hood, Straight
    >>> tap = Tap(profile("full-size-electric").airway, VentRun(0.1016, (Straight(1.0, "galvanised"),)))
    >>> lengths = (VentRun(0.1524, (Straight(3.0, "galvanised"),)),) * 2
    >>> found = shared(Riser((tap, tap), lengths), [[True, False], [True, True]])
    >>> bool(found.flow_m3s[1, 0] < found.flow_m3s[0, 0])
    True
    """
    on = np.atleast_2d(np.asarray(running, dtype=bool))
    count = len(riser.taps)
    if not 0 < count <= MOST_TAPS or len(riser.lengths) != count:
        raise VentError(f"{count} machines on {len(riser.lengths)} lengths are no riser; give 1 to {MOST_TAPS} of each")
    if on.shape[1] != count:
        raise VentError(f"{on.shape[1]} machines are said to run or not, there are {count}; say it of each")
    heads, resistances = (np.array(row) for row in zip(*map(head_and_resistance, riser.taps), strict=True))
    flows = [tap.airway.rated_flow_m3s for tap in riser.taps]
    along = np.array([_resistance(run, max(flows)) for run in riser.lengths])

    def from_foot(foot: Floats) -> tuple[Floats, Floats, Floats]:
        """Pressures, flows and what is left at the end, from the pressure at the foot, (patterns,)."""
        pressure, gathered = foot, np.zeros_like(foot)
        pressures, given = [], []
        for tap in range(count):
            flow = np.where(on[:, tap], np.sqrt(np.maximum(heads[tap] - pressure, 0) / resistances[tap]), 0.0)
            pressures.append(pressure)
            given.append(flow)
            gathered = gathered + flow
            pressure = pressure - along[tap] * gathered**2
        return np.stack(pressures, axis=1), np.stack(given, axis=1), pressure

    low = np.full(on.shape[0], -riser.fan_pa)
    high = np.full(on.shape[0], heads.max() + abs(riser.fan_pa) + 1.0)
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        too_low = from_foot(middle)[2] < -riser.fan_pa
        low, high = np.where(too_low, middle, low), np.where(too_low, high, middle)
    pressures, flow, _ = from_foot((low + high) / 2)
    through = np.cumsum(flow, axis=1)
    areas = np.array([math.pi * max(run.bores_m) ** 2 / 4 for run in riser.lengths])
    return Shared(flow, pressures, through, through / areas)


def _resistance(run: VentRun, flow_m3s: float) -> float:
    """A length's drop over the square of its flow, at one machine's: where more flows, friction grows a little less."""
    return sum(piece_drops_pa(run, flow_m3s)) / flow_m3s**2


def patterns(count: int) -> npt.NDArray[np.bool_]:
    """Which machines run: each alone, every other one, all; (patterns, count).

    >>> patterns(3).astype(int).tolist()
    [[1, 0, 0], [0, 1, 0], [0, 0, 1], [1, 0, 1], [1, 1, 1]]
    """
    alone: Sequence[Sequence[bool]] = np.eye(count, dtype=bool).tolist()
    rows = [*alone, [k % 2 == 0 for k in range(count)], [True] * count]
    return np.array(list(dict.fromkeys(map(tuple, rows))), dtype=bool)
