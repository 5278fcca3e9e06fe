"""What a job costs, what to bring to it and what to order, as JSON and in words. Sums are texts with a point."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import asdict, dataclass
from decimal import Decimal
from itertools import chain
from typing import Literal, get_args

from warmdraft.answers.dealt import agreement_answer
from warmdraft.answers.mending import SchoolAnswer, marks_in_words
from warmdraft.answers.quote_shapes import (
    AgreedAnswer,
    AskedMark,
    HeldAnswer,
    ItemAnswer,
    MarksAnswer,
    NeededAnswer,
    OrderAnswer,
    OrderRow,
    QuoteAnswer,
    QuoteRow,
    WorthAnswer,
    WorthRow,
)
from warmdraft.answers.shopping import MATES, Asked, Shop, kinds_of
from warmdraft.mending import PROPERTIES, asked_of
from warmdraft.repair import Act
from warmdraft.stock import (
    ALIKE_SHARE,
    MARKED,
    MOST_PARTS,
    YEARS,
    Item,
    MayNeed,
    Packing,
    Priced,
    Quote,
    Way,
    cheapest,
    compared,
    csv_lines,
    current,
    fitted_cost,
    pair_pays,
    quoted,
    what_to_bring,
)
from warmdraft.stock.worth import USUAL_AGE
from warmdraft.teardown import LINE, step_of
from warmdraft.words import Words
from warmdraft.work import Agreement, Brings, JobState, PartSaid, brings_of, brings_of_verdict
from warmdraft.work.cost import LEAST_SAVED_KWH, Tariff, saving_of

#: Things of a catalogue that are offered for one part, at most; the best first.
MOST_OFFERED = 12


@dataclass(frozen=True, slots=True)
class Need:
    """A part that is needed, how probably, for which act, how many."""

    chance: float
    act: Act
    count: int = 1


def quote_answer(state: JobState, shop: Shop, words: Words) -> QuoteAnswer:
    """What the works of a job cost, what to bring and to order, in this workshop's money."""
    asked = Asked(state, shop, words)
    quote, rows = _quote(asked)
    needs = needed_by(asked)
    delivery = shop.figures.delivery
    packing = what_to_bring(
        [
            MayNeed(part, chance, float(asked.price(part) or 0), None if asked.at_hand(part) else float(delivery))
            for part, need in needs.items()
            if (chance := need.chance) < 1
        ],
        float(asked.trip),
    )
    bring = {row.part: row.bring for row in packing.rows}
    return QuoteAnswer(
        currency=shop.figures.currency, digits=-int(shop.figures.cent.as_tuple().exponent),
        priced=shop.figures.hour is not None, rows=rows, net=asked.sum(quote.net), tax=asked.sum(quote.tax),
        tax_percent=f"{shop.figures.tax_percent.normalize():f}", total=asked.sum(quote.total), complete=quote.complete,
        needed=[_needed(asked, part, need, packing) for part, need in needs.items()],
        trip=_trip(asked, packing), order=_order(asked, needs, bring),
        agreed=_agreed(asked, state.facts.agreement(), quote), worth=_worth(asked, quote), saves=_saves(asked, quote),
        schools=[SchoolAnswer(**row) for row in asked.book["school"].values()],
    )  # fmt: skip


def _saves(asked: Asked, quote: Quote) -> str:
    """What the better air saves a year, and when that has paid for the work."""
    figures, words = asked.figures, asked.book["saves"]
    loads = asked.shop.loads_per_week
    found = saving_of(asked.state, Tariff(loads, figures.kwh, figures.currency))
    if found is None or found.kwh_a_year < LEAST_SAVED_KWH:
        return ""
    said = {"loads": f"{loads:.0f}", "kwh": f"{found.kwh_a_year:.0f}"}
    if found.money_a_year is None:
        return str(words["energy"]).format(**said)
    text = str(words["money"]).format(money=asked.about(float(found.money_a_year)), **said)
    years = found.years_to_pay(quote.total)
    return text if years is None or not quote.complete else f"{text} {words['paid'].format(years=f'{years:.1f}')}"


def order_lines(quote: QuoteAnswer) -> Iterator[str]:
    """What is to be ordered, as lines of CSV."""
    rows = ([row.number, row.text, row.supplier, row.price, quote.currency, "; ".join(row.covers)]
            for row in quote.order.rows)  # fmt: skip
    return csv_lines(chain([["number", "text", "supplier", "price", "currency", "for"]], rows))


def _quote(asked: Asked) -> tuple[Quote, list[QuoteRow]]:
    """Coming, the way in, then each line of works: in money, and in words."""
    state, figures, book = asked.state, asked.figures, asked.book
    way = state.plan.way if state.plan else None
    agreement = state.facts.agreement()
    paid_for: set[str] = set()
    priced: list[Priced] = [Priced(str(book["row"]["call_out"]), 0.0, fixed=figures.call_out)]
    names: list[str | None] = [None]
    unpriced: list[list[str]] = [[]]
    if way is not None:
        # of all that comes off, whether it is off already: a quote does not melt while one works
        minutes = sum(row.open_minutes for row in way.off) + sum(row.close_minutes for row in way.closing)
        priced.append(Priced(str(book["row"]["way_in"]), minutes))
        names.append(None)
        unpriced.append([])
    for line in state.works.wanted:
        prices = []
        missing = []
        for part, needed in asked.parts(line.act).items():
            if part in paid_for:
                continue
            said = asked.said.get(part)
            chosen = next((i for i in asked.serving(part) if said and i.number == said.number), None)
            paid_for.update(chosen.covers if chosen else {part})
            price = asked.price(part)
            prices.append(None if price is None else price * (said.count if said else needed))
            if price is None:
                missing.append(asked.words.thing("part", part))
        priced.append(Priced(asked.words.act(line.act.name), line.act.minutes, tuple(prices)))
        names.append(line.act.name)
        unpriced.append(missing)
    quote = quoted(priced, figures)
    rows = [
        QuoteRow(
            line=name, text=row.name, minutes=given.minutes, labour=asked.sum(row.labour), parts=asked.sum(row.parts),
            net=asked.sum(row.net), unpriced=missing,
            agreed=agreement is not None and name not in state.unagreed,
        )
        for name, given, row, missing in zip(names, priced, quote.lines, unpriced, strict=True)
        if row.net or name is not None
    ]  # fmt: skip
    return quote, rows


def needed_by(asked: Asked) -> dict[str, Need]:
    """Parts that a job needs for certain, then those that it may need. While nobody knows the cause they follow from
    the verdict."""
    state = asked.state
    wanted = [line for line in state.works.wanted if line.became != "done"]
    needs: dict[str, Need] = {}
    for line in wanted:
        for part, count in asked.parts(line.act).items():
            needs.setdefault(part, Need(1.0, line.act, count))
    for row in brings_now(state):
        needs.setdefault(row.part, Need(row.probability, row.act))
    return needs


def brings_now(state: JobState) -> tuple[Brings, ...]:
    """Parts that may turn out to be needed, as the job stands."""
    if not state.works.wanted and not state.facts.handed_over:
        return brings_of_verdict(state.verdict, state.acts_for)
    return brings_of([line for line in state.works.wanted if line.became != "done"])


def kinds_needed(state: JobState) -> set[str]:
    """Kinds of parts that the catalogue is asked for: what is used up, done or not, and what may be needed."""
    sure = {part for line in state.works.wanted for part in kinds_of(state, line.act)}
    return sure | {row.part for row in brings_now(state)}


def _needed(asked: Asked, part: str, need: Need, packing: Packing) -> NeededAnswer:
    chance, act = need.chance, need.act
    book, words = asked.book, asked.words
    weighed = next((row for row in packing.rows if row.part == part), None)
    bring = chance >= 1 or (weighed is not None and weighed.bring and asked.trip > 0)
    said: PartSaid | None = next((row for row in asked.state.facts.parts_said() if row.part == part), None)
    said = asked.said.get(part, said)
    old = asked.state.facts.old_part(part)
    ranked = asked.ranked(part)[:MOST_OFFERED]
    pick = next((item.key for item in ranked if asked.suits(part, item)[0] == "fits"), None)
    percent = f"{round(chance * 100)} %"
    key: Literal["sure", "yes", "no"] = "sure" if chance >= 1 else "yes" if bring else "no"
    spares = asked.money(max(0.0, weighed.spares)) if weighed else ""
    why = str(book["bring"][key]).format(chance=percent, spares=spares)
    if chance < 1 and not asked.trip:
        why = str(book["bring"]["no_trip"])
    return NeededAnswer(
        part=part, text=words.thing("part", part), count=need.count,
        line=step_of(LINE, act.name), probability=chance, bring=bring,
        why=why,
        state=said.state if said else None, number=said.number if said else "", store=said.store if said else "",
        old=MarksAnswer(old.id, marks_in_words(old.marks, words)) if old else None,
        asks=[_asked_mark(name, words) for name in _asked_marks(asked, part)],
        items=[_item(asked, part, item, item.key == pick) for item in ranked],
        pair=_pair(asked, part, chance),
    )  # fmt: skip


def _asked_marks(asked: Asked, part: str) -> list[str]:
    """What tells parts of a kind apart: what has to be known, and what is printed on those that are for sale."""
    wanted = set(asked_of(part))
    if wanted:
        wanted |= {name for item in asked.serving(part) if item.marks and item.kind == part
                   for name in PROPERTIES if getattr(item.marks, name) is not None}  # fmt: skip
    return [name for name in PROPERTIES if name in wanted]


def _asked_mark(name: str, words: Words) -> AskedMark:
    book = words.texts("mending")
    such_as = f"120 {MARKED[name][1]}" if name in MARKED else ""
    return AskedMark(name, book["property"][name], such_as, dict(book["resets"]) if name == "resets" else {})


def _item(asked: Asked, part: str, item: Item, pick: bool) -> ItemAnswer:
    words, says = asked.words, asked.book["says"]
    verdict, reasons = asked.suits(part, item)
    offer = asked.offer(item)
    old_number = next((row.number for row in asked.items.values() if row.superseded_by and row.key != item.key
                       and current(row, asked.items).key == item.key), None)  # fmt: skip
    text = item.text if old_number is None else _beside(item.text, says["superseded"].format(number=old_number))
    return ItemAnswer(
        number=item.number, text=text,
        origin="" if item.original is None else str(says["original" if item.original else "other"]),
        supplier=offer.supplier if offer else "", price=str(offer.price) if offer else None,
        days=offer.days if offer else None,
        expected=asked.sum(fitted_cost(float(offer.price), item.original, float(asked.trip))) if offer else None,
        held=[HeldAnswer(store, count) for store, count in asked.held.get(item.key, {}).items() if count],
        contains=[words.thing("part", other) for other in sorted(item.covers - {part})],
        fits_machine=item.fits_machine(asked.shop.plate), verdict=verdict, reasons=reasons, pick=pick,
    )  # fmt: skip


def _beside(*texts: str) -> str:
    return " · ".join(filter(None, texts))


def _pair(asked: Asked, part: str, chance: float) -> str | None:
    """Whether a guard that may fail next is changed along, where its price is known and a trip has one."""
    price = asked.price(part)
    if part not in MATES or chance >= 1 or price is None or not asked.trip:
        return None
    key = "both" if pair_pays(float(price), chance, float(asked.trip)) else "one"
    later = asked.money(chance * float(asked.trip + price))
    mate = asked.words.thing("part", part)
    return str(asked.book["pair"][key]).format(mate=mate, price=asked.money(price), later=later)


def _trip(asked: Asked, packing: Packing) -> str:
    if not asked.trip or not packing.rows or packing.second_trip_without == 0:
        return ""
    chances = {"with": packing.second_trip, "without": packing.second_trip_without}
    return str(asked.book["bring"]["trip"]).format(**{key: f"{round(p * 100)} %" for key, p in chances.items()})


def _order(asked: Asked, needs: Mapping[str, Need], bring: Mapping[str, bool]) -> OrderAnswer:
    """What is wanted and neither at hand nor taken already."""
    wanted = [
        part for part, need in needs.items()
        if (need.chance >= 1 or (bring.get(part) and asked.trip)) and part not in asked.said
        and not asked.at_hand(part)
    ][:MOST_PARTS]  # fmt: skip
    # a price is for as many as are needed
    items = {item.key: asked.times(item, needs[part].count) for part in wanted for item in asked.adequate(part)}
    order = cheapest(wanted, items.values(), asked.figures.delivery)
    words = asked.words
    return OrderAnswer(
        rows=[
            OrderRow(
                number=row.item.number, text=row.item.text, supplier=row.offer.supplier, price=str(row.offer.price),
                days=row.offer.days, covers=[words.thing("part", part) for part in row.covers],
                count=max(needs[part].count for part in row.covers),
            )
            for row in order.bought
        ],
        cost=asked.sum(order.cost), unmet=[words.thing("part", part) for part in order.unmet],
    )  # fmt: skip


def _agreed(asked: Asked, agreement: Agreement | None, quote: Quote) -> AgreedAnswer | None:
    if agreement is None:
        return None
    beyond = max(Decimal(0), quote.total - agreement.total) if agreement.currency == asked.figures.currency else None
    return AgreedAnswer(
        **asdict(agreement_answer(agreement)), by=agreement.by, beyond=asked.sum(beyond or Decimal(0)),
        lines=[asked.words.act(name) for name in asked.state.unagreed],
    )  # fmt: skip


def _within(text: str) -> str:
    return text[:1].lower() + text[1:]


def _worth(asked: Asked, quote: Quote) -> WorthAnswer | None:
    figures, machine = asked.figures, asked.state.facts.machine
    if figures.hour is None or not asked.state.works.wanted:
        return None
    undone = sum(line.became == "declined" for line in asked.state.works.lines)
    rows = compared(
        float(quote.total), machine.age_years, undone,
        None if figures.machine is None else float(figures.machine),
        None if figures.assembly is None else float(figures.assembly),
    )  # fmt: skip
    book = asked.book
    texts = {way: str(book["way"][way]) for way in get_args(Way)}
    least, *others = rows
    alike = bool(others) and others[0].over_years < least.over_years * (1 + ALIKE_SHARE)
    said = str(book["worth"]["alike" if alike else "says" if others else "alone"]).format(
        years=YEARS, way=_within(texts[least.way]), least=asked.about(least.over_years),
        next=asked.about(others[0].over_years) if others else "",
        other=_within(texts[others[0].way]) if others else "",
    )  # fmt: skip
    if machine.age_years is None:
        said += " " + str(book["worth"]["age_guessed"]).format(age=f"{USUAL_AGE:g}")
    return WorthAnswer(
        rows=[WorthRow(row.way, texts[row.way], asked.sum(row.now), asked.sum(row.over_years)) for row in rows],
        text=said,
    )
