"""The cheapest order beside a general integer programme, the law of failures beside a library's."""

from decimal import Decimal

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import LinearConstraint, milp
from scipy.stats import weibull_min

from warmdraft.stock import Item, Offer, cheapest
from warmdraft.stock.worth import LIFE_YEARS, SHAPE, chance_of_repair

PARTS = ("blower_wheel", "wheel_clamp", "motor", "belt", "idler")
SUPPLIERS = ("North", "South", "East")


def by_a_general_solver(needed, items, delivery: float) -> float:
    """Weighted set cover with a charge for each supplier, by HiGHS' branch and bound (scipy.optimize.milp)."""
    offers = [(item, offer) for item in items for offer in item.offers]
    n, m = len(offers), len(SUPPLIERS)
    cost = np.array([float(offer.price) for _, offer in offers] + [delivery] * m)
    covers = np.zeros((len(needed), n + m))
    charged = np.zeros((n, n + m))
    for j, (item, offer) in enumerate(offers):
        for i, part in enumerate(needed):
            covers[i, j] = part in item.covers
        charged[j, j] = -1
        charged[j, n + SUPPLIERS.index(offer.supplier)] = 1
    found = milp(
        cost, constraints=[LinearConstraint(covers, 1), LinearConstraint(charged, 0)],
        integrality=np.ones(n + m), bounds=(0, 1),
    )  # fmt: skip
    return float(found.fun) if found.success else np.inf


_OFFER = st.builds(Offer, st.sampled_from(SUPPLIERS), st.decimals(1, 99, places=2))


@settings(max_examples=150, deadline=None)
@given(
    st.lists(
        st.tuples(st.sampled_from(PARTS), st.lists(st.sampled_from(PARTS), max_size=2), _OFFER), min_size=1, max_size=9
    ),
    st.lists(st.sampled_from(PARTS), min_size=1, max_size=4, unique=True),
    st.integers(0, 15),
)
def test_the_order_is_the_cheapest(made, needed, delivery):
    items = [Item(str(i), kind, contains=tuple(more), offers=(offer,)) for i, (kind, more, offer) in enumerate(made)]
    order = cheapest(needed, items, Decimal(delivery))
    met = [part for part in needed if part not in order.unmet]
    assert {part for row in order.bought for part in row.covers} == set(met)
    if met:
        assert float(order.cost) == pytest.approx(by_a_general_solver(met, items, delivery))


@pytest.mark.parametrize("age", [0.0, 2.0, 8.5, 20.0])
def test_chances_of_another_repair_are_a_weibull_law(age):
    law = weibull_min(SHAPE, scale=LIFE_YEARS)
    assert chance_of_repair(age) == pytest.approx(1 - law.sf(age + 1) / law.sf(age))
