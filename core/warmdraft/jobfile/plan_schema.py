"""The plan of a new run as a part of a job: where the machine stands, what is in the way, what was chosen."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import AfterValidator, Field, model_validator

from warmdraft.jobfile.limits import no_more_than
from warmdraft.jobfile.parts import (
    Length,
    Number,
    Quantity,
    Section,
    Uuid,
    between,
    check_quantity,
    one_of,
    refused,
)
from warmdraft.jobfile.route_schema import MOST_ALONG, Cell, ElbowSection, Grid, HeadingName, OpeningSection, Spot
from warmdraft.jobfile.runs import profile_named
from warmdraft.jobfile.vent_schema import MATERIALS, CodeProfileName, CodeProfileSection
from warmdraft.vent import (
    FACES,
    GROUND_BELOW_M,
    JOINS,
    OUTLETS,
    Behind,
    Build,
    Joins,
    Outlet,
    Plan,
    Thing,
    levels_of,
    stands_off_m,
    thing_kinds,
)
from warmdraft.work import Chosen, NewRun

#: Things on a plan, and holes for a hood that are there already.
MOST_THINGS, MOST_HOLES = 200, 20


class ThingSection(Section):
    """Something in the way: two corners, both in it; without a height it reaches as far as such things do."""

    kind: Annotated[str, one_of("a thing on a plan", tuple(thing_kinds()))]
    corner: Spot
    opposite: Spot

    def thing(self, plan: PlanSection) -> Thing:
        """As the core thinks of it."""
        low_level, high_level = levels_of(self.kind, plan.cells[2], plan.cell.si("length"), plan.machine[2])
        one = self.corner if len(self.corner) == 3 else (*self.corner, low_level)
        other = self.opposite if len(self.opposite) == 3 else (*self.opposite, high_level)
        low = (min(one[0], other[0]), min(one[1], other[1]), min(one[2], other[2]))
        return Thing(self.kind, low, (max(one[0], other[0]), max(one[1], other[1]), max(one[2], other[2])))


class ChosenSection(Section):
    """The way that was chosen: from which outlet, through which face, of what it is built."""

    outlet: Annotated[Outlet, one_of("an outlet", OUTLETS)]
    face: Annotated[HeadingName, one_of("a face", FACES)]
    diameter: Length
    material: Annotated[str, one_of("a material", MATERIALS)]
    elbow: ElbowSection

    def chosen(self) -> Chosen:
        """As the core thinks of it."""
        build = Build(self.diameter.si("length"), self.material, self.elbow.bend(), hood="flap")
        return Chosen(self.outlet, self.face, build)


def _ground(value: Quantity) -> Quantity:
    check_quantity(abs(value.value) or 1.0, value.unit, "length")  # above the floor it is negative
    return value


class BehindSection(Section):
    """What is behind the machine: how collar and wall are joined, how deep the wall's port lies, what stands out."""

    joins: Annotated[Joins, one_of("a way to join collar and wall", JOINS)]
    recess: Length | None = None
    stands_out: Length | None = None


Along = Annotated[Number, between(-MOST_ALONG, MOST_ALONG, "place on a plan, in cells")]
Across = Annotated[Number, between(0.01, 10 * MOST_ALONG, "size on a plan, in cells")]


class PhotoSection(Section):
    """A photo of the wall behind that lies under the plan: its lower left corner and its size, in cells."""

    id: Uuid
    left: Along
    bottom: Along
    width: Across
    height: Across


class PlanSection(Section):
    """Where the machine stands, on a grid: its back looks along +y, z is up."""

    cells: Grid
    cell: Length
    machine: Cell
    things: Annotated[list[ThingSection], no_more_than(MOST_THINGS, "things")] = Field(default_factory=list)
    outdoors: list[Annotated[HeadingName, one_of("a face", FACES)]] = Field(default_factory=list)
    holes: Annotated[list[OpeningSection], no_more_than(MOST_HOLES, "holes")] = Field(default_factory=list)
    ground: Annotated[Quantity, AfterValidator(_ground)] | None = None
    code_profile: CodeProfileSection | CodeProfileName | None = None
    chosen: ChosenSection | None = None
    behind: BehindSection | None = None
    photo: PhotoSection | None = None

    @model_validator(mode="after")
    def _inside(self) -> Any:
        places = [(f"things[{k}]", spot) for k, row in enumerate(self.things) for spot in (row.corner, row.opposite)]
        places += [("machine", self.machine), *((f"holes[{k}].cell", row.cell) for k, row in enumerate(self.holes))]
        for at, spot in places:
            if not all(0 <= place < most for place, most in zip(spot, self.cells, strict=False)):
                last = [most - 1 for most in self.cells]
                raise refused(f"{list(spot)} lies outside the plan; give a cell from [0, 0, 0] to {last}", at)
        return self

    def plan(self) -> Plan:
        """As the core thinks of it."""
        return Plan(
            size=self.cells, cell_m=self.cell.si("length"), machine=self.machine,
            things=tuple(row.thing(self) for row in self.things), outdoors=tuple(dict.fromkeys(self.outdoors)),
            holes=tuple(row.opening() for row in self.holes), code_profile=profile_named(self.code_profile),
            ground_m=self.ground.si("length") if self.ground else GROUND_BELOW_M,
            way_unit="ft" if self.cell.unit in ("ft", "in") else "m",
        )  # fmt: skip

    def new_run(self) -> NewRun:
        """With what was chosen of it. Raises VentError for a depth that nothing behind a machine has."""
        plan, chosen = self.plan(), self.chosen.chosen() if self.chosen else None
        if self.behind is None:
            return NewRun(plan, chosen)
        said = self.behind
        behind = Behind(
            chosen.build.bore_m if chosen else plan.code_profile.bore_m, said.joins,
            said.recess.si("length") if said.recess else 0.0, said.stands_out.si("length") if said.stands_out else 0.0,
        )  # fmt: skip
        stands_off_m(behind)
        return NewRun(plan, chosen, behind)
