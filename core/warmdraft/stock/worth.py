"""What is cheaper over the years: this repair, the blower's whole assembly, or another machine; and which of two parts.

    cost(repair)   = quote + Σ over years of P(another repair in that year) · its cost
    cost(assembly) = the same with the assembly's price, and what it renews does not fail again
    cost(machine)  = the share of a new machine's life that is used up, · its price + what then fails

The chance that a machine needs a repair rises with its age: a Weibull law. Its shape and life are own assumptions
(a dryer lives some 13 years: from memory), and are the workshop's to learn.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

#: Shape and characteristic life in years of the law of failures; what an assembly renews of them (own assumptions).
SHAPE, LIFE_YEARS, RENEWED_SHARE = 2.0, 14.0, 0.35
#: What every known thing that stays undone adds to the chance of another repair, as a share (own assumption).
UNDONE_SHARE = 0.25
#: Ways whose costs lie so near together are told as alike, share (own assumption).
ALIKE_SHARE = 0.15
#: Years that are looked ahead, and an age where nobody has said one (own assumptions).
YEARS, USUAL_AGE = 5, 7.0
#: Chance that a new part fails within a year: the maker's, another's, or who knows whose (own assumptions).
FAILS_WITHIN_YEAR = {True: 0.01, False: 0.03, None: 0.02}

Way = Literal["repair", "assembly", "machine"]


def chance_of_repair(age_years: float, undone: int = 0) -> float:
    """Probability that a machine of an age needs another repair within the year. undone: known and left.

    >>> chance_of_repair(2.0) < chance_of_repair(12.0)
    True
    """
    hazard = ((age_years + 1) / LIFE_YEARS) ** SHAPE - (age_years / LIFE_YEARS) ** SHAPE
    return 1 - math.exp(-hazard * (1 + UNDONE_SHARE * undone))


@dataclass(frozen=True, slots=True)
class Choice:
    """A way to go on: what it costs now, and over the years with what then fails."""

    way: Way
    now: float
    over_years: float


def compared(
    repair: float, age_years: float | None, undone: int, machine: float | None, assembly: float | None
) -> tuple[Choice, ...]:
    """The ways side by side, the cheapest over YEARS first; prices in one currency, with tax; None: not offered."""
    age = USUAL_AGE if age_years is None else age_years
    years = range(YEARS)
    again = repair  # the next repair is taken to cost what this one does
    later = sum(chance_of_repair(age + year, undone) for year in years) * again
    rows = [Choice("repair", repair, repair + later)]
    if assembly is not None:
        rows.append(Choice("assembly", assembly, assembly + later * (1 - RENEWED_SHARE)))
    if machine is not None:
        fails = sum(chance_of_repair(float(year)) for year in years) * again
        rows.append(Choice("machine", machine, machine * min(1.0, YEARS / LIFE_YEARS) + fails))
    return tuple(sorted(rows, key=lambda row: row.over_years))


def fitted_cost(price: float, original: bool | None, again: float) -> float:
    """What a part costs on average with the visit that its failing within a year would ask for; again: that visit."""
    return price + FAILS_WITHIN_YEAR[original] * (again + price)


def pair_pays(price_of_mate: float, fails_too: float, again: float) -> bool:
    """Whether to change a part's mate along with it: its price against the chance of coming for it.

    >>> pair_pays(12.0, 0.5, 80.0), pair_pays(12.0, 0.05, 80.0)
    (True, False)
    """
    return price_of_mate < fails_too * (again + price_of_mate)
