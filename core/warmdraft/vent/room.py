"""The room a machine stands in: how far back it may go before its transition is crushed, and the air it takes out."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal, get_args

from warmdraft.air import REFERENCE_DENSITY_KG_M3, opening_conductance
from warmdraft.errors import VentError
from warmdraft.units import INCH_M

#: How collar and wall are joined: opposite each other, or to one side, by rigid bends or by a semi-rigid piece.
Joins = Literal["opposite", "two_elbows", "semi_rigid"]
JOINS: tuple[Joins, ...] = get_args(Joins)
#: A joint's lap and a clamp's width, that a straight transition wants at the least, m (common practice, no source).
STRAIGHT_ROOM_M = 4 * INCH_M
#: Centre line of a close bend, in bores, and how tight a semi-rigid piece is laid at the most (own assumptions).
CLOSE_BEND, SEMI_RIGID_BEND = 0.75, 1.0
#: Behind hoses, valves and pipes: so that nothing is leant on, m (own assumption).
FREE_M = 0.025
#: Nothing is pressed flatter than this share of its area: folds keep it open (own assumption).
FLATTEST = 0.05
#: Below outdoors by more than this an open-flued appliance may spill, Pa (common practice, no source).
SPILLS_FROM_PA = 5.0
#: Free area of openings into a closet with a machine in it, m² (100 in²; International Residential Code, from memory).
CLOSET_OPENING_M2 = 100 * INCH_M**2
#: Share of a grille's face that is free, where its maker says nothing (common practice, no source).
GRILLE_FREE = 0.6


@dataclass(frozen=True, slots=True)
class Behind:
    """What is behind a machine, m. recess: how deep the wall's port lies in a box; stands_out: what hoses, valves and
    pipes stand out from the wall where the machine's back would come."""

    bore_m: float
    joins: Joins
    recess_m: float = 0.0
    stands_out_m: float = 0.0


def stands_off_m(behind: Behind) -> float:
    """How far the machine's back stays from the wall at the least, m. Raises VentError.

    Two bends lie behind one another: their centre lines ask for a radius each, and the pipe for its own half.

    >>> round(stands_off_m(Behind(0.1016, "two_elbows")), 3), round(stands_off_m(Behind(0.1016, "opposite")), 3)
    (0.254, 0.102)
    """
    if not 0.05 <= behind.bore_m <= 0.3:
        raise VentError(f"{behind.bore_m:g} m is no bore of a dryer's duct; give 5 to 30 cm")
    for name, depth in (("recess", behind.recess_m), ("pipes", behind.stands_out_m)):
        if not 0 <= depth <= 1:
            raise VentError(f"{depth:g} m is no depth of what is behind a machine ({name}); give 0 to 1 m")
    bends = {"two_elbows": CLOSE_BEND, "semi_rigid": SEMI_RIGID_BEND}
    if behind.joins == "opposite":
        needs = STRAIGHT_ROOM_M
    else:
        needs = (2 * bends[behind.joins] + 1) * behind.bore_m
    return max(needs - behind.recess_m, behind.stands_out_m + FREE_M if behind.stands_out_m else 0.0, 0.0)


def open_share_pushed(bore_m: float, further_m: float) -> float:
    """Share of its area that a transition keeps when the machine goes so much further back: it is flattened by it.

    Flattened to a height h it keeps its circumference: two halves of a circle of h with straights of π(D − h)/2 between
    them, which is 1 − (1 − h/D)² of the circle's area. Source: plane geometry.

    >>> open_share_pushed(0.1, 0.0), round(open_share_pushed(0.1, 0.05), 2)
    (1.0, 0.75)
    """
    return max(FLATTEST, 1 - min(further_m / bore_m, 1.0) ** 2)


def below_outdoors_pa(taken_m3s: float, opening_m2: float, density_kg_m3: float = REFERENCE_DENSITY_KG_M3) -> float:
    """How far a tight room lies below outdoors, Pa, when so much is taken out and comes in by an opening.

    >>> round(below_outdoors_pa(0.08, 0.0645), 1)  # a dryer in a closet with 100 in² of opening
    2.5
    """
    return (taken_m3s / opening_conductance(opening_m2, density_kg_m3)) ** 2


def opening_for_m2(taken_m3s: float, below_pa: float, density_kg_m3: float = REFERENCE_DENSITY_KG_M3) -> float:
    """Free area that keeps a room within so much of outdoors, m².

    >>> round(opening_for_m2(0.08, 5.0) * 1e4)  # cm²
    454
    """
    return taken_m3s / (opening_conductance(1.0, density_kg_m3) * math.sqrt(below_pa))
