"""The shape of `warm-draft/balance`: runs of a wheel with trial masses, and what it is held against."""

from __future__ import annotations

from typing import Annotated, Any, ClassVar, Literal

from pydantic import AfterValidator, Field, model_validator

from warmdraft.balance import Run
from warmdraft.jobfile.limits import no_more_than
from warmdraft.jobfile.parts import Length, Mass, Number, Quantity, Rotation, Section, between, check_quantity, refused

MOST_RUNS = 100


def _maybe_none(quantity: Quantity) -> Quantity:
    """A mass, or none at all."""
    if quantity.value != 0:
        check_quantity(quantity.value, quantity.unit, "mass")
    return quantity


class RunSection(Section):
    """One run; the first is without a mass. vane: a whole number; amplitude: in any one unit."""

    may_be_null: ClassVar[tuple[str, ...]] = ("vane", "phase_deg", "mass")

    mass: Annotated[Quantity, AfterValidator(_maybe_none)] | None = None
    vane: Annotated[int, between(0, 199, "vane")] | None = None
    amplitude: Annotated[Number, between(0, 1e9, "amplitude")]
    phase_deg: Annotated[Number, between(-3600, 3600, "phase in degrees")] | None = None

    @property
    def mass_kg(self) -> float:
        """0 for none."""
        return 0.0 if self.mass is None or self.mass.value == 0 else self.mass.si("mass")

    @model_validator(mode="after")
    def _on_a_vane(self) -> Any:
        if self.mass_kg > 0 and self.vane is None:
            raise refused("is missing; say on which vane the mass is", "vane")
        return self


class BalanceDocument(Section):
    """Runs of a wheel as a file: `warm-draft/balance`, version 1. wheel_mass, speed, grade (mm/s): what the standard's
    permissible residual unbalance follows from."""

    format: Literal["warm-draft/balance"]
    version: Literal[1]
    vanes: Annotated[int, between(3, 200, "number of vanes")]
    radius: Length
    runs: Annotated[list[RunSection], no_more_than(MOST_RUNS, "runs"), Field(min_length=1)]
    wheel_mass: Mass | None = None
    speed: Rotation | None = None
    grade: Annotated[Number, between(0.1, 4000, "grade, mm/s")] | None = None
    title: str | None = None
    notes: str | None = None

    @model_validator(mode="after")
    def _possible(self) -> Any:
        for i, run in enumerate(self.runs):
            if run.vane is not None and run.vane >= self.vanes:
                raise refused(f"{run.vane} is no vane of {self.vanes}; they count from 0", f"runs[{i}].vane")
        if self.runs[0].mass_kg > 0:
            raise refused("is given; the first run is without a mass", "runs[0].mass")
        for i, run in enumerate(self.runs[1:], start=1):
            if run.mass_kg == 0:
                raise refused("is missing; every run but the first has a trial mass", f"runs[{i}].mass")
        return self

    def told(self) -> list[Run]:
        """As the core computes with them."""
        return [Run(run.mass_kg, run.vane or 0, run.amplitude, run.phase_deg) for run in self.runs]
