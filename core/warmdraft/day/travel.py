"""Minutes between places where nobody has a table of them: as the crow flies, and what roads add."""

from __future__ import annotations

import numpy as np

from warmdraft.air import Floats

#: Mean radius of the earth, km. Source: IUGG, from memory.
_EARTH_KM = 6371.0
#: Roads are so many times as long as the straight line (own assumption; studies of road networks find 1.2 to 1.5, from
#: memory), driven at this speed, km/h, with so much for stopping and parking, minutes (own assumptions).
DETOUR, SPEED_KMH, PARKING_MINUTES = 1.35, 45.0, 4.0


def kilometres(latitude: Floats, longitude: Floats) -> Floats:
    """Distance between places along the earth, km, (places, places). latitude, longitude (places,): degrees.

    Source: haversine formula (R. W. Sinnott, Sky and Telescope 68, 1984).

    >>> float(kilometres(np.array([54.0, 55.0]), np.array([-3.0, -3.0]))[0, 1].round(1))
    111.2
    """
    phi, theta = np.radians(latitude), np.radians(longitude)
    half = (
        np.sin((phi[:, None] - phi) / 2) ** 2
        + np.cos(phi)[:, None] * np.cos(phi) * np.sin((theta[:, None] - theta) / 2) ** 2
    )
    return np.asarray(2 * _EARTH_KM * np.arcsin(np.sqrt(np.clip(half, 0, 1))))


def travel_minutes(latitude: Floats, longitude: Floats, known: Floats | None = None) -> Floats:
    """Minutes from each place to each other, (places, places): as known, else by the straight line.

    latitude, longitude (places,): degrees, NaN where nobody knows; known (places, places): minutes, NaN where nobody
    said. Nothing known: NaN.
    """
    straight = DETOUR * kilometres(latitude, longitude) / SPEED_KMH * 60 + PARKING_MINUTES
    np.fill_diagonal(straight, 0.0)
    return straight if known is None else np.where(np.isnan(known), straight, known)
