"""What takes a wheel's unbalance away, as JSON and in words."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from warmdraft.answers.quantity import Quantity, quantity
from warmdraft.balance import USUAL_GRADE, balance, grade_mm_s, permissible_kg_m, turning_force_n
from warmdraft.errors import BalanceError, DocumentError
from warmdraft.jobfile.balance_schema import BalanceDocument
from warmdraft.jobfile.strict import read_as
from warmdraft.units import GRAVITY_M_S2
from warmdraft.words import Words

#: What lint on one side of a wheel weighs at the most, kg: below it, cleaning is enough (own assumption).
_LINT_KG = 0.02
#: A wheel of a dryer and its speed where nobody says, kg and rpm (own assumption).
_WHEEL_KG, _SPEED_RPM = 0.35, 1725.0


@dataclass(slots=True)
class OnVane:
    """A mass at the radius, on a vane: a number, whole or not."""

    mass: Quantity
    vane: float


@dataclass(slots=True)
class LeftShare:
    """Share of the unbalance that is left with the masses added."""

    low: float
    median: float
    high: float


@dataclass(slots=True)
class BalanceAnswer:
    """The unbalance, what to add, how much of it is left then. sure: probability that less than half is left.

    grade: balance quality now, mm/s; asked: the one it is held against; allowed: the mass at the radius that may be
    left; force: what goes round with the wheel now. cleaning_first: as much as lint weighs; text: what to do, in order.
    """

    vanes: int
    unbalance: OnVane
    add: list[OnVane]
    left_share: LeftShare
    sure: float
    grade: float
    asked: float
    allowed: Quantity
    force: Quantity
    cleaning_first: bool
    text: list[str]


def balance_answer(value: Any, words: Words) -> BalanceAnswer:
    """Runs of a wheel with trial masses. Raises DocumentError."""
    document = read_as(BalanceDocument, value, "a set of balancing runs")
    try:
        found = balance(document.vanes, document.told())
    except BalanceError as error:
        raise DocumentError("$.runs", str(error)) from None
    radius = document.radius.si("length")
    wheel = document.wheel_mass.si("mass") if document.wheel_mass else _WHEEL_KG
    speed = document.speed.si("rotation") if document.speed else _SPEED_RPM
    asked = document.grade or USUAL_GRADE
    allowed = permissible_kg_m(asked, wheel, speed) / radius
    force = turning_force_n(found.mass_kg * radius, speed)
    clean = found.mass_kg <= _LINT_KG
    book = words.texts("sound")["balance"]
    said = {
        "grams": f"{found.mass_kg * 1e3:.1f}", "vane": f"{found.vane:.1f}", "force": f"{force:.1f}",
        "hung": f"{force / GRAVITY_M_S2:.1f}", "allowed": f"{allowed * 1e3:.2f}", "grade": f"G{asked:g}",
        "left": f"{100 * found.left[1]:.0f}", "high": f"{100 * found.left[2]:.0f}",
        "add": book["and"].join(
            str(book["mass"]).format(grams=f"{mass * 1e3:.1f}", vane=vane) for vane, mass in found.add
        ),
    }  # fmt: skip
    within = found.mass_kg <= allowed
    keys = ("within",) if within else ("clean" if clean else "look", "shakes", "add", "left")
    return BalanceAnswer(
        vanes=document.vanes,
        unbalance=OnVane(quantity(found.mass_kg, "kg"), found.vane),
        add=[OnVane(quantity(mass, "kg"), vane) for vane, mass in found.add],
        left_share=LeftShare(*found.left),
        sure=found.sure,
        grade=grade_mm_s(found.mass_kg * radius, wheel, speed),
        asked=asked,
        allowed=quantity(allowed, "kg"),
        force=quantity(force, "N"),
        cleaning_first=clean and not within,
        text=[str(book[key]).format(**said) for key in keys],
    )
