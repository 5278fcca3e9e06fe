"""Acts as rows of data/acts.toml: what is done to a part, one row for each part and act."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from typing import Any, Literal, get_args

from warmdraft.errors import CatalogueError
from warmdraft.tables import rows, table

ActKind = Literal["look", "meter", "clean", "replace", "fit", "refit", "adjust", "clear", "repair"]
ACT_KINDS: tuple[ActKind, ...] = get_args(ActKind)
#: Acts that find something out, and change nothing.
FINDS_OUT: tuple[ActKind, ...] = ("look", "meter")
#: Parts that are got to without opening the machine (contract).
NEEDS_NO_OPENING = frozenset({"transition", "run", "hood", "room", "supply", "lint_screen", "use"})

Stands = Literal["must", "offer"]
#: Building a run as it was drawn anew, and what is new with it.
BUILD = "run.fit"
OF_A_RUN = frozenset({"run", "hood", "transition"})


@dataclass(frozen=True, slots=True)
class ActStep:
    """What the hands do. check: a check that is this step, recorded or not; after: with the new part in; cuts: what is
    cut to length in it."""

    id: str
    minutes: float
    check: str | None = None
    after: bool = False
    cuts: str | None = None


@dataclass(frozen=True, slots=True)
class Act:
    """One row: what (look, clean, replace …) is done to which part; its words are the renderer's.

    order: its place in the order of the work. reach: parts to get to for it. brings: parts that may turn out to be
    needed with it, with their probabilities; shows: checks that show that it worked; found: what a check's result asks
    for; within: the part it is of, which makes it needless where something is done to that; along: worth offering while
    the part is open; upkeep: of a service that is due.
    """

    part: str
    act: ActKind
    order: int
    steps: tuple[ActStep, ...]
    reach: tuple[str, ...]
    tools: tuple[str, ...]
    gear: tuple[str, ...]
    uses_up: tuple[str, ...]
    qualified: str | None
    brings: tuple[tuple[str, float], ...]
    shows: tuple[str, ...]
    found: Mapping[str, Mapping[str, Stands]]
    within: str | None
    along: bool
    upkeep: bool

    @property
    def name(self) -> str:
        """As tables and marks name it: `PART.ACT`."""
        return name_of(self.part, self.act)

    @property
    def minutes(self) -> float:
        """Hands on, with the part reached."""
        return sum(step.minutes for step in self.steps)

    @property
    def needs_opening(self) -> bool:
        """Whether the machine has to be opened for it."""
        return not set(self.reach) <= NEEDS_NO_OPENING

    @property
    def finds_out(self) -> bool:
        """Whether it only finds something out."""
        return self.act in FINDS_OUT


def part_and_act(name: str) -> tuple[str, ActKind]:
    """The part and the act of a row's name. Raises CatalogueError for a name that is none.

    >>> part_and_act("lint_duct.clean")
    ('lint_duct', 'clean')
    """
    part, _, said = name.partition(".")
    for act in ACT_KINDS:
        if part and act == said:
            return part, act
    raise CatalogueError(f"acts.toml, {name}: is no part and act; give one of {', '.join(ACT_KINDS)} after the part")


def name_of(part: str, act: str) -> str:
    """The name of an act on a part.

    >>> name_of("lint_duct", "clean")
    'lint_duct.clean'
    """
    return f"{part}.{act}"


def _act(name: str, row: dict[str, Any]) -> Act:
    part, act = part_and_act(name)
    no_way = part in NEEDS_NO_OPENING and part != "transition"  # a transition is reached by pulling the machine out
    return Act(
        part=part, act=act, order=list(table("acts")).index(name),
        steps=tuple(
            ActStep(step["id"], float(step["minutes"]), step.get("check"), step.get("after", False),
                    step.get("cuts"))
            for step in row["steps"]
        ),
        reach=tuple(row.get("reach", () if no_way else (part,))),
        tools=tuple(row.get("tools", ())), gear=tuple(row.get("gear", ())), uses_up=tuple(row.get("uses_up", ())),
        qualified=row.get("qualified"), brings=tuple(row.get("brings", {}).items()), shows=tuple(row.get("shows", ())),
        found=row.get("found", {}), within=row.get("within"), along=row.get("along", False),
        upkeep=row.get("upkeep", False),
    )  # fmt: skip


@cache
def acts() -> dict[str, Act]:
    """All acts by name, in the order of the work.

    >>> acts()["lint_duct.clean"].minutes  # minutes
    8.0
    """
    return rows("acts", _act)


@cache
def act_of_step(step: str) -> Act | None:
    """The act that a step belongs to.

    >>> act_of_step("vacuum_duct").name
    'lint_duct.clean'
    """
    return next((act for act in acts().values() if any(own.id == step for own in act.steps)), None)


@cache
def act_of_check(check: str) -> Act | None:
    """What finds out what a check finds out, as an act on a part; None for what is no work on one.

    >>> act_of_check("meter_thermal_fuse").name
    'thermal_fuse.meter'
    """
    return next(
        (act for act in acts().values() if act.finds_out and any(step.check == check for step in act.steps)), None
    )


def along_of(part: str) -> Act | None:
    """What is worth offering on a part while it is open; None where nothing is.

    >>> along_of("rollers").act
    'look'
    """
    return next((act for act in acts().values() if act.part == part and act.along), None)


@cache
def parts_along() -> tuple[str, ...]:
    """Parts that something is worth offering on while they are open, by name."""
    return tuple(sorted({act.part for act in acts().values() if act.along}))


def parts_worked_on() -> tuple[str, ...]:
    """Parts that something can be done to, by name."""
    return tuple(sorted({act.part for act in acts().values()}))
