"""What a quote is made of, as it is shown. Sums are texts with a point."""

from __future__ import annotations

from dataclasses import dataclass

from warmdraft.answers.dealt import AgreementAnswer
from warmdraft.answers.mending import SchoolAnswer
from warmdraft.mending.match import Verdict
from warmdraft.stock import Way
from warmdraft.work import PartState


@dataclass(slots=True)
class QuoteRow:
    """A row of a quote. line: the act, null for what is of the whole job; unpriced: parts without a price yet; agreed:
    the customer agreed to it."""

    line: str | None
    text: str
    minutes: float
    labour: str
    parts: str
    net: str
    unpriced: list[str]
    agreed: bool


@dataclass(slots=True)
class HeldAnswer:
    """How many of a thing a van or shelf holds."""

    store: str
    count: int


@dataclass(slots=True)
class ItemAnswer:
    """A thing of the catalogue for a part: what it costs from whom, where there is one, whether it is like the old one.

    fits_machine: null where the catalogue or the plate does not say; expected: its price with its chance of failing;
    reasons: why it is refused, or what to read first; pick: ours.
    """

    number: str
    text: str
    origin: str
    supplier: str
    price: str | None
    days: int | None
    expected: str | None
    held: list[HeldAnswer]
    contains: list[str]
    fits_machine: bool | None
    verdict: Verdict
    reasons: list[str]
    pick: bool


@dataclass(slots=True)
class MarksAnswer:
    """What was read off the old part, by property, as text; fact: its id, to take it back."""

    fact: str | None
    marks: dict[str, str]


@dataclass(slots=True)
class AskedMark:
    """A mark to read off the old part; such_as: how it is typed; choices: codes and their words, where it is one of a
    few."""

    name: str
    text: str
    such_as: str
    choices: dict[str, str]


@dataclass(slots=True)
class NeededAnswer:
    """A part that the job needs or may need. count: how many; line: the line of works it is for, as steps name it;
    bring: ours, by its cost; state: what became of it; number: which thing; old: the machine's own, where it was read;
    asks: marks to read before one is fitted; pair: whether it goes along with its mate."""

    part: str
    text: str
    count: int
    line: str
    probability: float
    bring: bool
    why: str
    state: PartState | None
    number: str
    store: str
    old: MarksAnswer | None
    asks: list[AskedMark]
    items: list[ItemAnswer]
    pair: str | None


@dataclass(slots=True)
class OrderRow:
    """One thing to order; price: of as many as are needed."""

    number: str
    text: str
    supplier: str
    price: str
    days: int | None
    covers: list[str]
    count: int


@dataclass(slots=True)
class OrderAnswer:
    """The cheapest set of what is not at hand; cost: with deliveries; unmet: parts that nobody in the catalogue has."""

    rows: list[OrderRow]
    cost: str
    unmet: list[str]


@dataclass(slots=True)
class AgreedAnswer(AgreementAnswer):
    """The same beside the quote as it is now. beyond: how far it is above it; lines: added since, in words."""

    by: str
    beyond: str
    lines: list[str]


@dataclass(slots=True)
class WorthRow:
    """A way to go on, now and over the years."""

    way: Way
    text: str
    now: str
    over_years: str


@dataclass(slots=True)
class WorthAnswer:
    """The ways, the cheapest over the years first."""

    rows: list[WorthRow]
    text: str


@dataclass(slots=True)
class QuoteAnswer:
    """What a job costs before and after tax, with what it is made of. priced: the workshop has said what an hour costs;
    complete: every part has a price, else the total is the least there is; saves: what the better air saves a year and
    when that has paid, empty where nobody knows."""

    currency: str
    digits: int
    priced: bool
    rows: list[QuoteRow]
    net: str
    tax: str
    tax_percent: str
    total: str
    complete: bool
    needed: list[NeededAnswer]
    trip: str
    order: OrderAnswer
    agreed: AgreedAnswer | None
    worth: WorthAnswer | None
    saves: str
    schools: list[SchoolAnswer]
