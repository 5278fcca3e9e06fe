"""A quote: exact sums, rounded as the workshop's rule says. Nothing of money is a binary fraction here."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import ROUND_HALF_UP, Decimal
from typing import Literal

from warmdraft.tables import table

TaxedOn = Literal["all", "parts", "labour"]
Rounds = Literal["line", "total"]


@dataclass(frozen=True, slots=True)
class Figures:
    """What a workshop reckons with, in its currency before tax. None: nobody has said yet.

    hour: of work; call_out: once a visit; second_trip: what coming again costs it; delivery: each supplier's; machine,
    assembly: another machine, and the blower's whole assembly, fitted; markup_percent: on parts bought; tax_percent,
    taxed, rounds: the rule of tax, on what, and whether each line is rounded or the total. kwh: what one of its
    customers' costs.
    """

    currency: str
    hour: Decimal | None = None
    call_out: Decimal = Decimal(0)
    second_trip: Decimal | None = None
    delivery: Decimal = Decimal(0)
    machine: Decimal | None = None
    assembly: Decimal | None = None
    markup_percent: Decimal = Decimal(0)
    tax_percent: Decimal = Decimal(0)
    taxed: TaxedOn = "all"
    rounds: Rounds = "total"
    kwh: Decimal | None = None

    @property
    def cent(self) -> Decimal:
        """The least sum that is paid in its currency."""
        digits = table("currencies")["digits"]
        return Decimal(1).scaleb(-digits.get(self.currency, digits["others"]))


@dataclass(frozen=True, slots=True)
class Priced:
    """What a quote charges for: minutes of work, parts at their bought prices, None for a part without one; fixed: what
    it costs besides, however long it takes."""

    name: str
    minutes: float
    parts: tuple[Decimal | None, ...] = ()
    fixed: Decimal = Decimal(0)


@dataclass(frozen=True, slots=True)
class QuoteLine:
    """A line in money, before tax; unpriced: how many of its parts have no price yet."""

    name: str
    labour: Decimal
    parts: Decimal
    unpriced: int

    @property
    def net(self) -> Decimal:
        """Labour and parts."""
        return self.labour + self.parts


@dataclass(frozen=True, slots=True)
class Quote:
    """The lines and their sums; complete: every part has a price."""

    lines: tuple[QuoteLine, ...]
    net: Decimal
    tax: Decimal

    @property
    def total(self) -> Decimal:
        """What the customer pays."""
        return self.net + self.tax

    @property
    def complete(self) -> bool:
        """Every part has a price."""
        return not any(line.unpriced for line in self.lines)


def rounded(value: Decimal, cent: Decimal) -> Decimal:
    """To the least sum that is paid; a half goes up (common commercial practice).

    >>> rounded(Decimal("2.675"), Decimal("0.01"))
    Decimal('2.68')
    """
    return value.quantize(cent, rounding=ROUND_HALF_UP)


def quoted(rows: Sequence[Priced], figures: Figures) -> Quote:
    """A quote of what is to be done. Each line's labour and parts are rounded, so that the lines make up the sum.

    >>> figures = Figures("EUR", hour=Decimal(60), tax_percent=Decimal(20))
    >>> quoted([Priced("clean", 20.0, (Decimal("5.55"),))], figures).total
    Decimal('30.66')
    """
    share = (100 + figures.markup_percent) / 100
    lines = []
    for row in rows:
        # minutes are estimates: to a tenth, so that no binary fraction comes in
        labour = (figures.hour or Decimal(0)) * Decimal(str(round(row.minutes, 1))) / 60 + row.fixed
        priced = [price for price in row.parts if price is not None]
        parts = sum(priced, Decimal(0)) * share
        lines.append(
            QuoteLine(
                row.name, rounded(labour, figures.cent), rounded(parts, figures.cent), len(row.parts) - len(priced)
            )
        )
    net = sum((line.net for line in lines), Decimal(0))
    taxes = [_taxed(line, figures) * figures.tax_percent / 100 for line in lines]
    if figures.rounds == "line":
        taxes = [rounded(tax, figures.cent) for tax in taxes]
    return Quote(tuple(lines), net, rounded(sum(taxes, Decimal(0)), figures.cent))


def _taxed(line: QuoteLine, figures: Figures) -> Decimal:
    return {"all": line.net, "parts": line.parts, "labour": line.labour}[figures.taxed]
