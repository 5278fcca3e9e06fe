"""How long a run may be: developed length against the allowance of a code profile."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from warmdraft.errors import VentError
from warmdraft.tables import table
from warmdraft.units import FOOT_M, INCH_M
from warmdraft.vent.losses import Elbow, Flexible, Straight, VentRun

#: Two bores closer than this are one size, m (own assumption).
_SAME_BORE_M = 0.004


@dataclass(frozen=True, slots=True)
class FittingAllowance:
    """What a bend takes off the length: of a style, up to an angle, from a radius on."""

    style: str
    radius_m: float
    angle_deg: float
    takes_m: float


@dataclass(frozen=True, slots=True)
class CodeProfile:
    """Longest straight run, and what bends take off it; what a hood keeps away from openings and from the ground, and
    how often duct is held, m."""

    name: str
    title: str
    source: str
    max_length_m: float
    bore_m: float
    fittings: tuple[FittingAllowance, ...]
    hood_from_openings_m: float
    hood_above_ground_m: float
    supports_m: float

    def takes_m(self, elbow: Elbow) -> float:
        """Length that one bend takes. Bends over 90° count as what they are made of.

        A smooth bend tighter than the tightest smooth one listed counts as mitred. Raises VentError where the profile
        has no bend for it.
        """
        if elbow.angle_deg > 90:
            rest = Elbow(elbow.angle_deg - 90, elbow.style, elbow.radius_m)
            return self.takes_m(Elbow(90, elbow.style, elbow.radius_m)) + self.takes_m(rest)
        radius = elbow.radius_m or 0.0
        fitting = [f for f in self.fittings if f.style == elbow.style and f.radius_m <= radius + 1e-6]
        if not fitting:
            fitting = [f for f in self.fittings if f.style == "mitred"]
        fitting = [f for f in fitting if f.angle_deg >= elbow.angle_deg - 1e-6]
        if not fitting:
            raise VentError(f"the code profile '{self.name}' says nothing of a bend of {elbow.angle_deg:g} degrees")
        return min(fitting, key=lambda f: (f.angle_deg, -f.radius_m)).takes_m


def _metres(feet_inches: list[float]) -> float:
    return feet_inches[0] * FOOT_M + feet_inches[1] * INCH_M


@lru_cache(maxsize=1)
def code_profiles() -> dict[str, CodeProfile]:
    """Our code profiles by name, the default first.

    >>> list(code_profiles())[0], round(code_profiles()['residential-model'].max_length_m, 3)  # m
    ('residential-model', 10.668)
    """
    return {
        name: CodeProfile(
            name=name, title=row["title"], source=row["source"], max_length_m=_metres(row["max_length"]),
            bore_m=row["bore_in"] * INCH_M,
            fittings=tuple(
                FittingAllowance(f["style"], f["radius_in"] * INCH_M, f["angle"], _metres(f["takes"]))
                for f in row["fittings"]
            ),
            hood_from_openings_m=_metres(row["hood_from_openings"]),
            hood_above_ground_m=_metres(row["hood_above_ground"]), supports_m=_metres(row["supports"]),
        )
        for name, row in table("code_profiles").items()
    }  # fmt: skip


DEFAULT_CODE_PROFILE = "residential-model"


@dataclass(frozen=True, slots=True)
class Allowance:
    """A run against its allowance, metres: straight and flexible length, what bends take, what is left for length."""

    length_m: float
    fittings_m: float
    allowed_m: float

    @property
    def within(self) -> bool:
        """Whether the run is short enough."""
        return self.length_m <= self.allowed_m + 1e-9


def allowance_of(run: VentRun, profile: CodeProfile) -> Allowance:
    """Developed length of a run against a code profile.

    Source: the code profile's own table of lengths, converted to metres.

    >>> from warmdraft.vent import Hood
    >>> run = VentRun(0.1016, (Straight(3.0, 'smooth'), Elbow(90, 'mitred'), Hood('flap')))
    >>> allowance = allowance_of(run, code_profiles()['residential-model'])
    >>> allowance.length_m, round(allowance.allowed_m, 2), allowance.within
    (3.0, 9.14, True)
    """
    length = sum(piece.length_m for piece in run.pieces if isinstance(piece, Straight | Flexible))
    fittings = sum(profile.takes_m(piece) for piece in run.pieces if isinstance(piece, Elbow))
    return Allowance(length, fittings, profile.max_length_m - fittings)


def same_bore(one_m: float, other_m: float) -> bool:
    """Whether two bores are one size of duct."""
    return abs(one_m - other_m) <= _SAME_BORE_M
