"""How fast each part of a drive turns. Kinematics: a belt that does not slip moves as fast everywhere."""

from __future__ import annotations

import math
import statistics
from collections.abc import Mapping
from dataclasses import dataclass

from warmdraft.machine import Drive

#: How far a motor's speed is off its plate, and a belt's creep with it, shares: an induction motor's slip varies with
#: load and voltage. Common practice, no source.
SLIP = 0.04


#: Parts that the belt drives.
_BY_BELT = ("drum", "roller", "idler", "belt")


@dataclass(frozen=True, slots=True)
class Rates:
    """Turns a second of each part, Hz; blade_pass: vanes by the wheel's rate."""

    wheel: float
    motor: float
    drum: float
    roller: float
    idler: float
    belt: float
    blade_pass: float


def rates_of(drive: Drive, motor_off: float = 0.0, belt_off: float = 0.0) -> Rates:
    """Rates of a drive, Hz.

    motor_off: the motor's speed beside its plate's; belt_off: what belt and all it drives lose or gain beside that,
    shares. Source: kinematics.

    >>> from warmdraft.machine import profile
    >>> found = rates_of(profile('full-size-electric').drive)
    >>> round(found.wheel, 2), round(found.drum * 60), round(found.roller, 2)
    (28.75, 50, 8.13)
    """
    motor = drive.motor_speed_rpm / 60.0 * (1 + motor_off)
    wheel = motor * drive.speed_ratio
    speed = math.pi * drive.motor_pulley_diameter_m * motor * (1 + belt_off)  # the belt's, m/s
    return Rates(
        wheel=wheel,
        motor=motor,
        drum=speed / (math.pi * drive.drum_diameter_m),
        roller=speed / (math.pi * drive.roller_diameter_m),
        idler=speed / (math.pi * drive.idler_diameter_m),
        belt=speed / drive.belt_length_m,
        blade_pass=wheel * drive.vanes,
    )


def slip_of(heard: Mapping[str, float | None], drive: Drive) -> tuple[float | None, float | None]:
    """How far the motor is off its plate, and the belt beside that, from the rates that were heard, Hz; shares, None
    where no part that tells stands out. What turns with the wheel tells the motor; without it the belt tells both.

    >>> from warmdraft.machine import profile
    >>> drive = profile('full-size-electric').drive
    >>> [round(share, 3) for share in slip_of({"wheel": 28.2, "roller": 7.9}, drive)]
    [-0.019, -0.01]
    """
    plate = rates_of(drive)
    wheel = heard.get("wheel")
    motor = None if wheel is None else wheel / plate.wheel - 1
    belt = [rate / (getattr(plate, part) * (1 + (motor or 0.0))) - 1 for part in _BY_BELT if (rate := heard.get(part))]
    return motor, statistics.median(belt) if belt else None
