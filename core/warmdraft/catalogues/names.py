"""What the rows of our tables are made of: names of what there is, words for people, numbers in their bounds."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from functools import cache
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

from warmdraft.airway import NODES
from warmdraft.checks import CHECK_FILES
from warmdraft.faults import ELEMENT_NAMES, ZONES
from warmdraft.tables import table
from warmdraft.units import UNITS


class Says:
    """Marks what people read: these keys are what another language has words for."""


#: Words for people.
Words = Annotated[str, Field(min_length=1), Says()]
#: Texts by their codes, of no language of ours but of the customer's.
Texts = dict[str, Annotated[str, Field(min_length=1)]]


def named(what: str, names: Callable[[], Iterable[str]]) -> Any:
    """A name of those there are; they are asked for when a row is read."""

    def check(value: str) -> str:
        known = list(names())
        if value not in known:
            raise ValueError(f"'{value}' is no {what}; give one of {', '.join(known)}")
        return value

    return AfterValidator(check)


def names_of(name: str) -> Callable[[], Iterable[str]]:
    """Names of a table's rows."""
    return lambda: table(name)


def words_of(kind: str, table_name: str = "codes") -> Callable[[], Iterable[str]]:
    """Codes that a table of words has words for, of one kind."""
    return lambda: table(f"words/en/{table_name}")[kind]


def hardware(kind: str) -> Any:
    """A name of one kind of what is in a machine."""
    return named(f"{kind} of hardware.toml", lambda: table("hardware")[kind])


@cache
def check_names() -> tuple[str, ...]:
    """Names of all checks, those of readings first."""
    of_readings = [name for name, row in table("readings").items() if "check" in row]
    return (*of_readings, *(name for file in CHECK_FILES for name in table(f"checks/{file}")))


FaultName = Annotated[str, named("fault", names_of("faults"))]
ComplaintName = Annotated[str, named("complaint", names_of("complaints"))]
CircumstanceName = Annotated[str, named("circumstance", names_of("circumstances"))]
KindName = Annotated[str, named("kind of reading", names_of("readings"))]
Zone = Annotated[str, named("zone", lambda: ZONES)]
Element = Annotated[str, named("element", lambda: ELEMENT_NAMES)]
Node = Annotated[str, named("place of the air's way", lambda: NODES)]
Dimension = Annotated[str, named("dimension", lambda: UNITS)]
Part = Annotated[str, hardware("part")]
SupplyName = Annotated[str, named("supply", names_of("supplies"))]
Energies = list[Literal["electric", "gas"]]
Supplies = list[Literal["plug", "hard_wired"]]
Qualified = Literal["live", "gas"]
Minutes = Annotated[float, Field(ge=0)]
Share = Annotated[float, Field(gt=0, lt=1)]


class Row(BaseModel):
    """Every row: no key that nobody knows, every number finite."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False, strict=False)


ActName = Annotated[str, named("act", names_of("acts"))]
ActNames = Annotated[list[ActName], Field(min_length=1)]
CheckName = Annotated[str, named("check", lambda: check_names())]
