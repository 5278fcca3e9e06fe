"""Parts as things that are bought: a catalogue as CSV, what to bring, what to order, a quote, what pays."""

import csv
import io
import itertools
from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from warmdraft.mending import Part
from warmdraft.stock import (
    COLUMNS,
    Figures,
    Item,
    MayNeed,
    Offer,
    Priced,
    SheetError,
    cheapest,
    compared,
    current,
    fitted_cost,
    key_of,
    pair_pays,
    quoted,
    read_sheet,
    sheet_of,
    what_to_bring,
)

LIMIT = Part("high_limit", "self", opens_at=121.0, closes_at=93.0, voltage=250.0, current=25.0)


def sheet(*rows: dict[str, str], columns=COLUMNS) -> bytes:
    out = io.StringIO()
    writer = csv.DictWriter(out, columns, restval="")
    writer.writeheader()
    writer.writerows(rows)
    return out.getvalue().encode()


def test_a_catalogue_comes_back_as_it_went():
    items = [
        Item("WX-10 448", "high_limit", 'heater box, "flat"', True, LIMIT, fits=("HM 300", "HM 301"),
             offers=(Offer("Northpass", Decimal("12.50"), 3), Offer("Lakeside", Decimal("11.9")))),
        Item("K7", "blower_wheel", "=kit\nwith clamp", False, contains=("wheel_clamp",), superseded_by="K8"),
        Item("K8", "blower_wheel", "-"),
    ]  # fmt: skip
    assert read_sheet("".join(sheet_of(items)).encode()) == items


def test_a_sheet_from_another_program():
    """With a mark of its encoding and semicolons, in UTF-16, with numbers written in two ways."""
    text = "Number;Kind;Opens_at;Supplier;Price\r\nA-1;high_limit;250 °F;North;3\r\na 1;high_limit;250 F;South;4\r\n"
    for raw in (text.encode("utf-8-sig"), text.encode("utf-16")):
        (item,) = read_sheet(raw)
        assert item.marks.opens_at == pytest.approx(121.11, abs=0.01)
        assert [offer.supplier for offer in item.offers] == ["North", "South"]


GOOD = {"number": "A1", "kind": "belt", "supplier": "North", "price": "3.20", "days": "2"}
DAMAGED = [
    ({"number": " - "}, "number"),
    ({"number": "x" * 61}, "number"),
    ({"kind": "flux capacitor"}, "kind"),
    ({"original": "perhaps"}, "original"),
    ({"contains": "belt|wing"}, "contains"),
    ({"superseded_by": "a-1"}, "superseded_by"),
    ({"price": "3,20"}, "price"),
    ({"price": "-1"}, "price"),
    ({"price": "NaN"}, "price"),
    ({"price": "1e99"}, "price"),
    ({"price": "1.00001"}, "price"),
    ({"price": ""}, "price"),
    ({"supplier": ""}, "supplier"),
    ({"days": "two"}, "days"),
    ({"days": "²"}, "days"),
    ({"opens_at": "250"}, "opens_at"),
    ({"opens_at": "250 V"}, "opens_at"),
    ({"current": "lots"}, "current"),
    ({"resets": "sometimes"}, "resets"),
    ({"terminals": "-2"}, "terminals"),
    ({"text": "x" * 201}, "text"),
    ({"fits": "y" * 61}, "fits"),
]


@pytest.mark.parametrize(("damage", "column"), DAMAGED)
def test_a_damaged_row_is_named_by_line_and_column(damage, column):
    with pytest.raises(SheetError) as caught:
        read_sheet(sheet(GOOD | {"number": "A0", "text": "two\nlines"}, GOOD | damage, GOOD | {"number": "A2"}))
    assert {(row.line, row.column) for row in caught.value.troubles} == {(4, column)}


NO_SHEETS = [
    (b"", 1, "is missing"),
    (b"\x89PNG\r\n\x1a\n", 1, "is not UTF-8"),
    (b"number,kind\nA1,bel\xff\n", 2, "is not UTF-8"),
    (b"number,kind\nA\x00,belt\n", 2, "no text"),
    (b"number,kind,colour\nA1,belt,red\n", 1, "is no column"),
    (b"number,kind,number\nA1,belt,B\n", 1, "twice"),
    (b"number,price\nA1,3\n", 1, "is missing"),
    (b"number,kind\n", 1, "no row follows"),
    (b"number,kind\nA1,belt,3\n", 2, "3 fields"),
    (b'number,kind\nA1,belt\nA2,"belt\nA3,belt\n', 3, "no row of a CSV"),
    (b"number,kind\nA1,belt\n\nA1,belt\n", 4, "stands in line 2 already"),
    (b"number,kind,superseded_by\nA1,belt,A2\nA2,belt,A3\nA3,belt,A1\n", 2, "circle"),
    (b"number,kind,supplier,price\nA1,belt,N,3\nA1,idler,S,3\n", 3, "says otherwise"),
    (b"number,kind,supplier,price\nA1,belt,N,3\nA1,belt,n,4\n", 3, "already"),
    (b"number,kind\n" + b'A1,"' + b"x" * 200_000 + b'"\n', 2, "no row of a CSV"),
]


@pytest.mark.parametrize(("raw", "line", "says"), NO_SHEETS)
def test_what_is_no_catalogue_is_refused_whole(raw, line, says):
    with pytest.raises(SheetError) as caught:
        read_sheet(raw)
    assert any(row.line == line and says in row.message for row in caught.value.troubles), caught.value.troubles


def test_so_many_troubles_are_counted_not_told():
    with pytest.raises(SheetError) as caught:
        read_sheet(sheet(*[GOOD | {"number": f"A{i}", "kind": "wing"} for i in range(300)]))
    assert (len(caught.value.troubles), caught.value.more) == (50, 250)


@given(st.binary(max_size=400))
def test_no_bytes_break_it(raw):
    try:
        read_sheet(b"number,kind,price,supplier,opens_at\n" + raw)
    except SheetError as error:
        assert error.troubles


def test_what_is_sold_in_its_place():
    items = {row.key: row for row in (Item("A1", "belt", superseded_by="a-2"), Item("A2", "belt", superseded_by="A9"))}
    assert current(items["A1"], items).number == "A2", "as far as the catalogue knows it"
    assert Item("A", "belt", fits=("HM-300",)).fits_machine("hm 300") is True
    assert Item("A", "belt", fits=("HM-300",)).fits_machine("HM301") is False
    assert Item("A", "belt").fits_machine("HM301") is None
    assert key_of("ｗ x/1") == "WX1"


@given(
    st.lists(st.tuples(st.floats(0, 1), st.floats(0, 500), st.none() | st.floats(0, 20)), min_size=1, max_size=6),
    st.floats(0, 300),
)
def test_nothing_else_that_could_be_brought_costs_less(needs, trip):
    """Beside every other set, reckoned outcome by outcome."""
    rows = [MayNeed(str(i), *need) for i, need in enumerate(needs)]

    def costs(brought: set[str]) -> float:
        whole = 0.0
        for outcome in itertools.product((True, False), repeat=len(rows)):
            chance = 1.0
            for needed, row in zip(outcome, rows, strict=True):
                chance *= row.probability if needed else 1 - row.probability
            again = any(needed and row.part not in brought for needed, row in zip(outcome, rows, strict=True))
            idle = [row for needed, row in zip(outcome, rows, strict=True) if row.part in brought and not needed]
            carried = sum(0.05 * row.price if row.delivery is None else 0.2 * row.price + row.delivery for row in idle)
            whole += chance * (carried + trip * again)
        return whole

    found = what_to_bring(rows, trip)
    mine = costs({row.part for row in found.rows if row.bring})
    for size in range(len(rows) + 1):
        for some in itertools.combinations([row.part for row in rows], size):
            assert mine <= costs(set(some)) + 1e-6
    for row in found.rows:
        assert (row.spares >= -1e-6) is row.bring or abs(row.spares) < 1e-6


def test_a_quote_by_hand():
    """20 minutes at 66.00 an hour are 22.00; 12.345 and a tenth more are 13.58 (a half goes up)."""
    figures = Figures("EUR", hour=Decimal(66), markup_percent=Decimal(10), tax_percent=Decimal(20))
    rows = [Priced("wheel", 20, (Decimal("12.345"), None)), Priced("duct", 5)]
    quote = quoted(rows, figures)
    assert [(line.labour, line.parts, line.unpriced) for line in quote.lines] == [
        (Decimal("22.00"), Decimal("13.58"), 1), (Decimal("5.50"), Decimal("0.00"), 0)]  # fmt: skip
    assert (quote.net, quote.tax, quote.total) == (Decimal("41.08"), Decimal("8.22"), Decimal("49.30"))
    assert not quote.complete


@pytest.mark.parametrize(
    ("more", "tax"),
    [
        ({"taxed": "parts"}, "0.10"), ({"taxed": "labour"}, "0.30"), ({"rounds": "line"}, "0.39"),
        ({"rounds": "total"}, "0.40"), ({"currency": "JPY", "hour": Decimal(60)}, "0"), ({"currency": "KWD"}, "0.401"),
    ],
)  # fmt: skip
def test_the_rule_of_tax_is_the_workshops(more, tax):
    """Three lines of 1.005 in labour and 0.333 in parts at 10 %: each rounded, or the sum of them."""
    figures = Figures(**{"currency": "EUR", "hour": Decimal("60.3"), "tax_percent": Decimal(10)} | more)
    rows = [Priced(str(i), 1.0, (Decimal("0.333"),)) for i in range(3)]
    assert quoted(rows, figures).tax == Decimal(tax)


@given(
    st.lists(
        st.tuples(st.floats(0, 500), st.decimals(0, 5000, places=2)), min_size=1, max_size=8),
    st.decimals(0, 200, places=2), st.decimals(0, 30, places=1),
)  # fmt: skip
def test_the_lines_make_up_the_sum_to_the_cent(rows, hour, percent):
    quote = quoted(
        [Priced(str(i), minutes, (price,)) for i, (minutes, price) in enumerate(rows)],
        Figures("EUR", hour=hour, tax_percent=percent),
    )
    assert quote.total == sum(line.labour + line.parts for line in quote.lines) + quote.tax
    assert abs(quote.tax - quote.net * percent / 100) <= Decimal("0.005")
    assert all(sum_.as_tuple().exponent == -2 for sum_ in (quote.net, quote.tax))


def test_old_and_worn_asks_for_another_machine_and_young_for_a_repair():
    young = compared(180.0, 1.0, 0, machine=700.0, assembly=None)
    old = compared(420.0, 14.0, 3, machine=700.0, assembly=None)
    assert (young[0].way, old[0].way) == ("repair", "machine")
    cheap = compared(300.0, 8.0, 0, machine=None, assembly=310.0)
    assert [row.way for row in cheap] == ["assembly", "repair"]
    worse = {row.way: row.over_years for row in compared(300.0, 8.0, 2, None, 310.0)}
    assert worse["repair"] > next(row.over_years for row in cheap if row.way == "repair")


def test_both_schools_by_what_they_cost():
    assert fitted_cost(9.0, False, 90.0) < fitted_cost(12.0, True, 90.0), "cheap enough to risk it"
    assert fitted_cost(11.5, False, 90.0) > fitted_cost(12.0, True, 90.0), "another's, for the same money, is not"
    assert pair_pays(12.0, 0.5, 80.0)
    assert not pair_pays(60.0, 0.1, 80.0)


def test_a_kit_is_taken_where_it_spares_a_delivery():
    north, south = (lambda price: (Offer("North", Decimal(price)),)), (lambda price: (Offer("South", Decimal(price)),))
    items = [Item("W", "blower_wheel", offers=north(20)), Item("C", "wheel_clamp", offers=south(5)),
             Item("K", "blower_wheel", contains=("wheel_clamp",), offers=north(28))]  # fmt: skip
    parts = ["blower_wheel", "wheel_clamp"]
    assert [row.item.number for row in cheapest(parts, items).bought] == ["W", "C"]
    with_delivery = cheapest(parts, items, Decimal(6))
    assert [row.item.number for row in with_delivery.bought] == ["K"]
    assert with_delivery.cost == 34
    assert cheapest([*parts, "belt"], items).unmet == ("belt",)
    assert cheapest(["belt"], items).bought == ()
