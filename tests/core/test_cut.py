"""Pieces from standard lengths: against the exact optimum of a general integer programme, and its bounds."""

from decimal import Decimal
from random import Random

import numpy as np
import pytest
from scipy.optimize import Bounds, LinearConstraint, milp

from warmdraft.answers import cut_answer
from warmdraft.errors import DocumentError
from warmdraft.stock import Stock, cut_list


def exact(stock: list[tuple[float, float]], pieces: list[float], kerf: float) -> tuple[float, float]:
    """(price, length bought) by an integer programme that assigns each piece to a length: slow, nothing like ours."""
    n, m = len(pieces), len(stock)
    bars = n * m
    put = np.arange(n * bars).reshape(n, bars)
    used = n * bars + np.arange(bars)
    lengths, prices = (np.repeat([row[k] for row in stock], n) for k in (0, 1))
    rows, low, high = [], [], []

    def row(entries, least, most):
        line = np.zeros(n * bars + bars)
        for columns, values in entries:
            line[columns] = values
        rows.append(line)
        low.append(least)
        high.append(most)

    for piece in range(n):
        row([(put[piece], 1)], 1, 1)
    for bar in range(bars):
        row([(put[:, bar], np.array(pieces) + kerf), (used[bar], -(lengths[bar] + kerf + 2e-6))], -np.inf, 0)
        if bar % n:
            row([(used[bar], 1), (used[bar - 1], -1)], -np.inf, 0)
    cost = np.zeros(n * bars + bars)
    cost[used] = prices + 1e-5 * lengths  # price first, then length
    solved = milp(cost, integrality=np.ones_like(cost), bounds=Bounds(0, 1), options={"mip_rel_gap": 0},
                  constraints=LinearConstraint(np.array(rows), low, high))  # fmt: skip
    bought = np.round(solved.x[used])
    return float(bought @ prices), float(bought @ lengths)


def drawn(seed: int, most_pieces: int, most_stock: int, exactly: bool = False):
    rng = Random(seed)
    count = most_pieces if exactly else rng.randint(1, most_pieces)
    lengths = [round(rng.uniform(1, 6), 2) for _ in range(rng.randint(1, most_stock))]
    stock = [(length, round(length * rng.uniform(3, 5), 2)) for length in lengths]
    longest = max(lengths) * rng.choice([0.4, 0.6, 0.9])
    pieces = [round(rng.uniform(0.15, longest), rng.choice([2, 3, 12])) for _ in range(count)]
    return stock, pieces, rng.choice([0.0, 0.003])


@pytest.mark.parametrize("seed", range(40))
def test_it_is_the_exact_optimum(seed):
    stock, pieces, kerf = drawn(seed, 7, 3)
    cuts = cut_list([Stock(length, Decimal(str(price))) for length, price in stock], pieces, kerf)
    assert cuts.optimal
    bought = (float(cuts.cost), sum(stock[bar.stock][0] for bar in cuts.bars))
    assert bought == pytest.approx(exact(stock, pieces, kerf), abs=1e-6)


@pytest.mark.parametrize("seed", range(100, 120))
def test_forty_pieces_are_cut_each_once_and_fit(seed):
    stock, pieces, kerf = drawn(seed, 40, 5, exactly=True)
    cuts = cut_list([Stock(length, Decimal(str(price))) for length, price in stock], pieces, kerf)
    assert sorted(piece for bar in cuts.bars for piece in bar.pieces_m) == sorted(pieces)
    for bar in cuts.bars:
        taken = sum(bar.pieces_m) + kerf * (len(bar.pieces_m) - 1)
        assert taken <= stock[bar.stock][0] + 3e-6
        assert bar.left_m == pytest.approx(max(0.0, stock[bar.stock][0] - taken - kerf), abs=3e-6)
    assert cuts.waste_m == pytest.approx(sum(bar.left_m for bar in cuts.bars))
    assert cuts.cost == sum(Decimal(str(stock[bar.stock][1])) for bar in cuts.bars)


def test_nearly_all_of_forty_pieces_are_proven():
    unproven = [seed for seed in range(30) if not _proven(seed)]
    assert len(unproven) <= 1, unproven


def _proven(seed: int) -> bool:
    stock, pieces, kerf = drawn(seed, 40, 5, exactly=True)
    return cut_list([Stock(length, Decimal(str(price))) for length, price in stock], pieces, kerf).optimal


def feet(value: float) -> dict:
    return {"value": value, "unit": "ft"}


def document(**changes) -> dict:
    stock = [{"length": feet(5), "price": 15.5}, {"length": feet(2), "price": 8}]
    return {"format": "warm-draft/cut", "version": 1, "stock": stock, "pieces": [feet(4), feet(1), feet(1.5)]} | changes


def test_the_command_says_what_to_buy_and_what_is_left():
    found = cut_answer(document())
    assert [(bar.stock, [round(piece.value / 0.3048, 6) for piece in bar.pieces]) for bar in found.bars] == [
        (0, [4.0, 1.0]), (1, [1.5]),
    ]  # fmt: skip
    assert (found.cost, found.optimal) == (23.5, True)
    assert found.waste.value == pytest.approx(0.1524)


def test_pieces_that_add_up_exactly_fit_whatever_unit_they_are_in():
    thirds = cut_answer(document(pieces=[feet(5 / 3)] * 3, stock=[{"length": {"value": 60, "unit": "in"}, "price": 1}]))
    assert len(thirds.bars) == 1


def test_the_last_piece_of_a_length_needs_no_cut():
    found = cut_answer(document(pieces=[feet(2.5), {"value": 0.7606, "unit": "m"}], kerf={"value": 1.4, "unit": "mm"}))
    assert len(found.bars) == 1
    assert found.waste.value == 0


def test_of_equal_prices_the_shorter_is_bought_and_a_length_for_nothing_first():
    stock = [{"length": feet(6), "price": 10}, {"length": feet(5), "price": 10}]
    assert [bar.stock for bar in cut_answer(document(stock=stock, pieces=[feet(4)])).bars] == [1]
    rest = [*stock, {"length": feet(4.5), "price": 0}]
    assert cut_answer(document(stock=rest, pieces=[feet(4)] * 3)).cost == 0


@pytest.mark.parametrize(
    ("changes", "path", "says"),
    [
        ({"pieces": [feet(1), feet(7)]}, "$.pieces[1]", r"2.1336 m long, the longest stock 1.524 m"),
        ({"pieces": []}, "$.pieces", "at least one"),
        ({"pieces": [feet(1)] * 201}, "$.pieces", "201 entries; give at most 200 pieces"),
        ({"stock": [{"length": feet(5), "price": -1}]}, "$.stock[0].price", "-1 is no price"),
        ({"stock": [{"length": feet(5), "price": "8"}]}, "$.stock[0].price", "'8' is no price; give a number"),
        ({"stock": [{"length": feet(0), "price": 8}]}, "$.stock[0].length", "give one above 0"),
        ({"kerf": {"value": 1, "unit": "ft"}}, "$.kerf", "no kerf; give what a saw takes"),
    ],
)
def test_what_is_wrong_is_named(changes, path, says):
    with pytest.raises(DocumentError, match=says) as caught:
        cut_answer(document(**changes))
    assert caught.value.path.startswith(path)
