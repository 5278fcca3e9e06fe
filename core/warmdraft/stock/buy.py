"""What to order: the cheapest set of a catalogue's offers that covers every part needed, deliveries included."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal
from itertools import combinations

from warmdraft.stock.item import Item, Offer, key_of

#: Parts that one order covers at most, and suppliers that are weighed against one another: every set of them is.
MOST_PARTS, MOST_SUPPLIERS = 12, 8


@dataclass(frozen=True, slots=True)
class Bought:
    """One thing to order: what it covers of what is needed."""

    item: Item
    offer: Offer
    covers: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Order:
    """What to order. cost: prices and deliveries together; unmet: parts that nobody offers."""

    bought: tuple[Bought, ...]
    cost: Decimal
    unmet: tuple[str, ...]


def current(item: Item, items: Mapping[str, Item]) -> Item:
    """What is sold in an item's place: the end of its supersessions, as far as the catalogue knows it. items: by key.

    >>> old, new = Item("A1", "belt", superseded_by="A-2"), Item("A2", "belt")
    >>> current(old, {"A1": old, "A2": new}).number
    'A2'
    """
    seen = {item.key}
    while (key := key_of(item.superseded_by)) in items and key not in seen:
        item = items[key]
        seen.add(key)
    return item


def cheapest(parts: Sequence[str], items: Iterable[Item], delivery: Decimal = Decimal(0)) -> Order:
    """The cheapest set of offers that covers the parts; delivery: what each supplier that is ordered from costs.

    items: those that suit this machine. Raises ValueError for more parts than are weighed.

    >>> kit = Item("K", "blower_wheel", contains=("wheel_clamp",), offers=(Offer("North", Decimal(30)),))
    >>> one = Item("W", "blower_wheel", offers=(Offer("North", Decimal(24)),))
    >>> clamp = Item("C", "wheel_clamp", offers=(Offer("South", Decimal(9)),))
    >>> [row.item.number for row in cheapest(["blower_wheel", "wheel_clamp"], [kit, one, clamp]).bought]
    ['K']
    """
    needed = list(dict.fromkeys(parts))
    if len(needed) > MOST_PARTS:
        raise ValueError(f"{len(needed)} parts are needed; order at most {MOST_PARTS} at a time")
    offers = [(item, offer) for item in items for offer in item.offers if item.covers & set(needed)]
    offered = {part for item, _ in offers for part in item.covers}
    unmet = tuple(part for part in needed if part not in offered)
    needed = [part for part in needed if part in offered]
    forced, others = _suppliers(needed, offers)
    best: tuple[Decimal, int, tuple[Bought, ...]] | None = None
    # without a delivery to pay everybody may be ordered from; with one, every set of them is tried
    sizes = range(len(others) + 1) if delivery else [len(others)]
    for size in sizes if needed else []:
        for some in combinations(others, size):
            bought = _cover(needed, [row for row in offers if row[1].supplier in {*forced, *some}])
            if bought is not None:
                used = {row.offer.supplier for row in bought}
                cost = sum((row.offer.price for row in bought), Decimal(0)) + delivery * len(used)
                if best is None or (cost, len(bought)) < best[:2]:
                    best = (cost, len(bought), bought)
    if best is None:
        return Order((), Decimal(0), unmet)
    return Order(best[2], best[0], unmet)


def _suppliers(needed: Sequence[str], offers: Sequence[tuple[Item, Offer]]) -> tuple[list[str], list[str]]:
    """Who has to be ordered from, for nobody else has some part; and the others that are weighed, who has most of what
    is needed first."""
    has: dict[str, set[str]] = {}
    for item, offer in offers:
        has.setdefault(offer.supplier, set()).update(item.covers & set(needed))
    forced = {names[0] for part in needed if len(names := [name for name in has if part in has[name]]) == 1}
    ranked = sorted(has.keys() - forced, key=lambda name: (-len(has[name]), name))
    return sorted(forced), ranked[:MOST_SUPPLIERS]


def _cover(needed: Sequence[str], offers: Sequence[tuple[Item, Offer]]) -> tuple[Bought, ...] | None:
    """The least sum of prices that covers all of it, by sets of parts already covered; None where nothing does."""
    bit = {part: 1 << i for i, part in enumerate(needed)}
    by_mask: dict[int, tuple[Item, Offer]] = {}
    for item, offer in offers:
        mask = sum(bit[part] for part in item.covers & bit.keys())
        if mask not in by_mask or offer.price < by_mask[mask][1].price:
            by_mask[mask] = (item, offer)
    whole = (1 << len(needed)) - 1
    # best[covered] = (cost, things, what was bought last and from where one came)
    best: list[tuple[Decimal, int, int, int] | None] = [None] * (whole + 1)
    best[0] = (Decimal(0), 0, 0, 0)
    for covered in range(whole):
        here = best[covered]
        if here is None:
            continue
        lowest = ~covered & (covered + 1)
        for mask, (_, offer) in by_mask.items():
            if mask & lowest:  # the first part that is missing has to be covered by something
                there = (here[0] + offer.price, here[1] + 1)
                found = best[covered | mask]
                if found is None or there < found[:2]:
                    best[covered | mask] = (*there, mask, covered)
    if best[whole] is None:
        return None
    bought, covered = [], whole
    while covered:
        _, _, mask, before = best[covered] or (0, 0, 0, 0)
        item, offer = by_mask[mask]
        bought.append(Bought(item, offer, tuple(part for part in needed if bit[part] & (covered & ~before))))
        covered = before
    return tuple(reversed(bought))
