"""Layouts as data: what comes off, with what, after what, and what it reaches."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from importlib import resources

from warmdraft.errors import CatalogueError
from warmdraft.tables import table


@dataclass(frozen=True, slots=True)
class Fastener:
    """Fasteners of one kind at one operation; state: out, or only loosened (a keyhole, a clamp)."""

    kind: str
    count: int
    state: str


@dataclass(frozen=True, slots=True)
class Operation:
    """One thing to take off. needs: an AND of ORs of other operations; close_before: those put back after this one."""

    id: str
    does: str
    open_minutes: float
    close_minutes: float
    driver: str | None
    needs: tuple[tuple[str, ...], ...]
    reaches: tuple[str, ...]
    fasteners: tuple[Fastener, ...]
    cautions: tuple[str, ...]
    close_before: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Layout:
    """A kind of machine, by the way into it. electrical: where each electrical part sits in it, by name."""

    name: str
    title: str
    electrical: dict[str, str]
    operations: tuple[Operation, ...]

    def operation(self, name: str) -> Operation:
        """One operation by id."""
        return next(operation for operation in self.operations if operation.id == name)


def layout_names() -> tuple[str, ...]:
    """Layouts there are data for."""
    folder = resources.files("warmdraft").joinpath("data", "layouts")
    return tuple(sorted(file.name.removesuffix(".toml") for file in folder.iterdir()))


def layout_titles() -> dict[str, str]:
    """Name -> what a person reads when choosing."""
    return {name: layout(name).title for name in layout_names()}


@cache
def layout(name: str) -> Layout:
    """One layout. Raises CatalogueError where it names an operation that it does not have."""
    row = table(f"layouts/{name}")
    operations = tuple(
        Operation(
            id=op["id"],
            does=op["does"],
            open_minutes=op["open_minutes"],
            close_minutes=op["close_minutes"],
            driver=op.get("driver"),
            needs=tuple(tuple(choice) for choice in op["needs"]),
            reaches=tuple(op.get("reaches", ())),
            fasteners=tuple(Fastener(f["kind"], f["count"], f["state"]) for f in op.get("fasteners", ())),
            cautions=tuple(op.get("cautions", ())),
            close_before=tuple(op.get("close_before", ())),
        )
        for op in row["operations"]
    )
    known = {operation.id for operation in operations}
    for operation in operations:
        for other in (*operation.close_before, *(name for choice in operation.needs for name in choice)):
            if other not in known:
                raise CatalogueError(f"layouts/{name}: {operation.id} names '{other}', which is no operation of it")
    return Layout(row["name"], row["title"], row["electrical"], operations)
