"""How fast each part of a drive turns. Kinematics: a belt that does not slip moves as fast everywhere."""

from __future__ import annotations

import math
from dataclasses import dataclass

from warmdraft.machine import Drive

#: How far a motor's speed is off its plate, and a belt's creep with it, shares: an induction motor's slip varies with
#: load and voltage. Common practice, no source.
SLIP = 0.04


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
