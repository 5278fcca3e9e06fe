"""What is asked of a workshop's catalogue for one job: what serves, what it costs, how many of it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from decimal import Decimal
from functools import cache
from typing import Any

from warmdraft.answers.mending import suits_answer
from warmdraft.faults import USUAL_LOADS_PER_WEEK
from warmdraft.mending import Part, matched
from warmdraft.mending.match import Verdict
from warmdraft.repair import BUILD, Act
from warmdraft.stock import Cuts, Figures, Item, Offer, Stock, current, cut_list, fitted_cost
from warmdraft.stock.money import rounded
from warmdraft.vent import RUN_PARTS, Materials, VentRun, duct_stock, materials_of
from warmdraft.words import Words
from warmdraft.work import JobState

#: Minutes that a second visit takes at the machine (own assumption), where the workshop says no price of it.
_AGAIN_MINUTES = 15
_BEST_FIRST: tuple[Verdict, ...] = ("fits", "ask", "refused")
#: Parts that guard the same heat: one that failed by it asks what became of the others.
MATES = ("thermal_fuse", "thermal_cutoff", "high_limit", "cycling_thermostat")


@dataclass(frozen=True, slots=True)
class Shop:
    """What a workshop has to sell: its figures, things of its catalogue that may serve, and what is held where."""

    figures: Figures
    items: Sequence[Item] = ()
    #: By the item's key: how many each van or shelf holds.
    held: Mapping[str, Mapping[str, int]] = field(default_factory=dict)
    #: The number on the machine's rating plate.
    plate: str = ""
    #: Of the machine that is worked on.
    loads_per_week: float = USUAL_LOADS_PER_WEEK


class Asked:
    """What is asked of the catalogue for one job, worked out once."""

    def __init__(self, state: JobState, shop: Shop, words: Words) -> None:
        self.state, self.shop, self.words = state, shop, words
        self.book = words.texts("stock")
        self.figures = shop.figures
        self.held = shop.held
        hour = self.figures.hour or Decimal(0)
        second = self.figures.second_trip
        self.trip = self.figures.call_out + hour * _AGAIN_MINUTES / 60 if second is None else second
        self.items = {item.key: item for item in shop.items}
        self.said = {row.part: row for row in state.facts.parts_said() if row.state != "left"}
        # ranking, pricing, packing and ordering ask the same of the same things
        self.suits, self.serving, self.of_run = cache(self._suits), cache(self._serving), cache(self._of_run)

    def money(self, value: Decimal | float) -> str:
        return f"{self.sum(value)} {self.figures.currency}"

    def sum(self, value: Decimal | float) -> str:
        """A sum as it is paid, as text. What is reckoned from chances is no exact number before."""
        return str(rounded(value if isinstance(value, Decimal) else Decimal(str(round(value, 6))), self.figures.cent))

    def about(self, value: float) -> str:
        """What is only expected, without digits nobody knows."""
        return f"{value:.0f} {self.figures.currency}"

    def old(self, part: str) -> Part | None:
        row = self.state.facts.old_part(part)
        return row.marks if row else None

    def _suits(self, part: str, item: Item) -> tuple[Verdict, list[str]]:
        """Whether a thing may stand in for a part of this machine: by the machine it fits, and by its marks."""
        if item.fits_machine(self.shop.plate) is False:
            return "refused", [str(self.book["says"]["other_machine"])]
        old = self.old(part)
        if old is None or item.kind != part:
            unread = part in MATES and item.fits_machine(self.shop.plate) is not True
            return ("ask", [str(self.book["says"]["nothing_read"])]) if unread else ("fits", [])
        found = suits_answer(matched(old, item.marks or Part(item.kind)), self.words)
        return found.verdict, [row.text for row in found.reasons] or ([found.text] if found.missing else [])

    def _serving(self, part: str) -> list[Item]:
        """Things that stand in for a part, as they are sold now, each once."""
        found = (current(item, self.items) for item in self.items.values() if part in item.covers)
        return list({item.key: item for item in found if part in item.covers}.values())

    def adequate(self, part: str) -> list[Item]:
        return [item for item in self.serving(part) if self.suits(part, item)[0] != "refused"]

    def count(self, item: Item) -> int:
        return sum(self.held.get(item.key, {}).values())

    def at_hand(self, part: str) -> bool:
        return part in self.said or any(self.count(item) for item in self.adequate(part))

    def offer(self, item: Item) -> Offer | None:
        return min(item.offers, key=lambda offer: offer.price, default=None)

    def ranked(self, part: str) -> list[Item]:
        """The best first: what fits, at hand, the least with its chance of failing."""

        def rank(item: Item) -> tuple[Any, ...]:
            verdict, _ = self.suits(part, item)
            offer = self.offer(item)
            cost = fitted_cost(float(offer.price), item.original, float(self.trip)) if offer else float("inf")
            return (_BEST_FIRST.index(verdict), not self.count(item), cost, item.key)

        return sorted(self.serving(part), key=rank)

    def price(self, part: str) -> Decimal | None:
        """What a part costs: as it was said, else ours of the catalogue."""
        said = self.said.get(part)
        if said and said.price is not None:
            return said.price
        best = next((item for item in self.ranked(part) if self.suits(part, item)[0] != "refused"), None)
        if said and said.number:
            best = next((item for item in self.serving(part) if item.number == said.number), best)
        offer = self.offer(best) if best else None
        return offer.price if offer else None

    @staticmethod
    def times(item: Item, count: int) -> Item:
        """A thing with the prices of so many."""
        offers = tuple(replace(offer, price=offer.price * count) for offer in item.offers)
        return item if count == 1 else replace(item, offers=offers)

    def parts(self, act: Act) -> dict[str, int]:
        """What an act uses up for certain: how many of each."""
        found = dict.fromkeys(act.uses_up, 1)
        new = self.state.new_run
        return found | dict(self.of_run(new).parts) if act.name == BUILD and new is not None else found

    def _of_run(self, run: VentRun) -> RunParts:
        """What a run takes, its duct cut from the standard lengths that cost least; while none of them has a price, the
        shortest that do."""
        plan = self.state.facts.new_run
        if plan is None:
            raise ValueError("there is no plan; draw one first")
        sold = {part: row for part, row in duct_stock().items() if row.way_unit == plan.plan.way_unit}
        prices = {part: price for part in sold if (price := self.price(part)) is not None}
        offered = {part: sold[part] for part in prices} or sold
        materials = materials_of(run, [row.length_m for row in offered.values()], plan.plan.code_profile.supports_m)
        stock = [Stock(row.length_m, prices.get(part, Decimal(str(row.length_m)))) for part, row in offered.items()]
        cuts = cut_list(stock, [cut.length_m for cut in materials.cuts])
        bought = list(offered)
        duct = {part: count for k, part in enumerate(bought) if (count := sum(bar.stock == k for bar in cuts.bars))}
        return RunParts(materials, cuts, tuple(bought), duct | dict(materials.parts))


@dataclass(frozen=True, slots=True)
class RunParts:
    """What a run takes. stock: the part that each stock of the cuts is; parts: how many of each, duct among them."""

    materials: Materials
    cuts: Cuts
    stock: tuple[str, ...]
    parts: Mapping[str, int]


def run_kinds() -> set[str]:
    """Parts that any new run may take."""
    return {*RUN_PARTS, *duct_stock()}


def kinds_of(state: JobState, act: Act) -> set[str]:
    """Parts that an act may use up, of whatever length it is cut: what the catalogue is asked for."""
    if act.name != BUILD or state.new_run is None:
        return set(act.uses_up)
    return {*act.uses_up, *run_kinds()}
