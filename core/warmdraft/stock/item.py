"""Things of a parts catalogue: what they are, what they fit, what they cost from whom."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Mapping
from dataclasses import asdict, dataclass
from decimal import Decimal
from typing import Any

from warmdraft.mending import Part

#: What people write into numbers and leave out again when they look for them.
_APART = re.compile(r"[\W_]+")


@dataclass(frozen=True, slots=True)
class Offer:
    """What a supplier asks for one, in the workshop's currency before tax; days: until it comes, None: not known."""

    supplier: str
    price: Decimal
    days: int | None = None


@dataclass(frozen=True, slots=True)
class Item:
    """One number of the catalogue.

    kind: the part it stands in for; contains: other parts that come with it; original: from the machine's maker, None:
    not known; marks: what is printed on it; fits: machines by their rating plates' numbers, empty: not said;
    superseded_by: the number that is sold in its place.
    """

    number: str
    kind: str
    text: str = ""
    original: bool | None = None
    marks: Part | None = None
    contains: tuple[str, ...] = ()
    fits: tuple[str, ...] = ()
    superseded_by: str = ""
    offers: tuple[Offer, ...] = ()

    @property
    def key(self) -> str:
        """Its number as it is compared."""
        return key_of(self.number)

    @property
    def covers(self) -> frozenset[str]:
        """Parts that it stands in for."""
        return frozenset((self.kind, *self.contains))

    def fits_machine(self, plate: str) -> bool | None:
        """Whether it fits a machine by the number on its rating plate; None where one of the two is not known."""
        if not (self.fits and key_of(plate)):
            return None
        return key_of(plate) in {key_of(machine) for machine in self.fits}


def key_of(number: str) -> str:
    """A part's number as it is compared: letters and digits, whatever else is written between them.

    >>> key_of("  wx-10 448/B ") == key_of("WX10448b")
    True
    """
    return _APART.sub("", unicodedata.normalize("NFKC", number)).upper()


def document_of(item: Item) -> dict[str, Any]:
    """An item as JSON, prices as texts; `item_of` gives it back.

    >>> item_of(document_of(Item("A1", "belt", offers=(Offer("North", Decimal("1.20")),)))).offers[0].price
    Decimal('1.20')
    """
    document = asdict(item)
    document["offers"] = [row | {"price": str(row["price"])} for row in document["offers"]]
    return document


def item_of(document: Mapping[str, Any]) -> Item:
    """An item as `document_of` gave it."""
    said: dict[str, Any] = {**document}
    said["marks"] = Part(**said["marks"]) if said["marks"] else None
    said["offers"] = tuple(Offer(row["supplier"], Decimal(row["price"]), row["days"]) for row in said["offers"])
    return Item(**said | {key: tuple(said[key]) for key in ("contains", "fits")})
