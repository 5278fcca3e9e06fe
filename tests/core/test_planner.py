"""The planner against an exhaustive search, and what a plan may never be."""

import random
from functools import lru_cache

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from strategies import deep_task, random_layout
from warmdraft.errors import LayoutError
from warmdraft.teardown import Layout, Operation, layout, layout_names, plan_way
from warmdraft.teardown.planner import changes_of


def cheapest(lay: Layout, reach: list[str], opened: frozenset[str], in_hand: str | None) -> float | None:
    """Least total minutes by trying every set and, step by step, every order; None where nothing does."""
    ops, number = lay.operations, {op.id: i for i, op in enumerate(lay.operations)}
    begun = sum(1 << number[name] for name in opened)
    best = None
    for chosen in range(1 << len(ops)):
        members = [i for i in range(len(ops)) if chosen >> i & 1]
        if begun & ~chosen or any(all(part not in ops[i].reaches for i in members) for part in reach):
            continue

        @lru_cache(None)
        def changes(done: int, last: str | None, closing: bool, chosen: int = chosen, members=tuple(members)) -> float:
            if done == chosen:
                return 0
            least = float("inf")
            for i in members:
                groups = [{number[o] for o in group} for group in ops[i].needs]
                if begun >> i & 1:  # its needs were met, however
                    groups = [met for group in groups if (met := {o for o in group if begun >> o & 1})]
                if done >> i & 1 or not all(any(done >> o & 1 for o in group) for group in groups):
                    continue
                after = [number[o] for o in ops[i].close_before]
                if closing and any(chosen >> o & 1 and not done >> o & 1 for o in after):
                    continue
                driver = ops[i].driver
                change = 1 if driver and last and driver != last else 0
                least = min(least, change + changes(done | 1 << i, driver or last, closing, chosen, members))
            return least

        times = changes(begun, in_hand, False) + changes(0, None, True)
        if times == float("inf"):
            continue
        minutes = sum(ops[i].close_minutes + (0 if begun >> i & 1 else ops[i].open_minutes) for i in members)
        minutes += lay.driver_change_minutes * times
        best = minutes if best is None else min(best, minutes)
    return best


def holds(lay: Layout, plan) -> None:
    """What every plan keeps: needs met in order, and a closing that read backwards is an opening too."""
    opened = {op.id for op in plan.opened}
    off = set(opened)
    for op in plan.operations:
        assert all(off & set(group) for group in op.needs), op.id
        off.add(op.id)
    assert off == {op.id for op in plan.closing}
    back: list[str] = []
    for op in plan.closing[::-1]:
        if op.id not in opened:
            assert all(set(back) & set(group) for group in op.needs), op.id
        assert not (set(op.close_before) & off) - set(back), op.id
        back.append(op.id)


@pytest.mark.parametrize("seed", range(150))
def test_a_plan_is_as_cheap_as_the_best_of_all(seed):
    rng = random.Random(seed)
    lay = random_layout(rng, rng.randint(2, 7), drivers=rng.randint(1, 3))
    reach = [f"p{i}" for i in rng.sample(range(len(lay.operations)), rng.randint(1, 2))]
    opened, in_hand = frozenset(), None
    if seed % 3 == 0:
        opened = frozenset(op.id for op in lay.operations if rng.random() < 0.3)
        in_hand = rng.choice([None, "d0", "d1", "d9"])
    want = cheapest(lay, reach, opened, in_hand)
    if want is None:
        with pytest.raises(LayoutError):
            plan_way(lay, reach, opened=opened, in_hand=in_hand)
        return
    plan = plan_way(lay, reach, opened=opened, in_hand=in_hand)
    assert plan.optimal
    assert plan.total_minutes == pytest.approx(want)
    holds(lay, plan)


@settings(max_examples=60, deadline=None)
@given(seed=st.integers(0, 10**6), size=st.integers(10, 60))
def test_larger_plans_hold(seed, size):
    rng = random.Random(seed)
    lay = random_layout(rng, size, drivers=5, back_to_front=0.0)
    plan = plan_way(lay, [f"p{size - 1}", f"p{size // 2}"])
    holds(lay, plan)
    needed = plan_way(lay, [f"p{size - 1}"])
    assert needed.total_minutes <= plan.total_minutes + 1e-9


def _thrown(rng: random.Random, lay: Layout, reach: list[str]) -> float:
    """Minutes of a way by chance: needs met at random, with the driver in hand whatever it can do."""
    by_id = {op.id: op for op in lay.operations}
    off: set[str] = set()
    open_needs = [tuple(op.id for op in lay.operations if part in op.reaches) for part in reach]
    while open_needs:
        need = open_needs.pop()
        if not off & set(need):
            picked = by_id[rng.choice(need)]
            off.add(picked.id)
            open_needs += picked.needs
    done: set[str] = set()
    changes, driver = -1, None
    while done != off:
        ready = [by_id[o] for o in sorted(off - done) if all(done & set(need) for need in by_id[o].needs)]
        if driver is None or not any(op.driver in (None, driver) for op in ready):
            driver = rng.choice([op.driver for op in ready])
            changes += driver is not None
        done |= {op.id for op in ready if op.driver in (None, driver)}
    hands_on = sum(by_id[o].open_minutes + by_id[o].close_minutes for o in off)
    return hands_on + 2 * lay.driver_change_minutes * max(0, changes)


@pytest.mark.parametrize("seed", range(12))
def test_a_deep_layout_is_planned_as_cheap_as_any_way_by_chance(seed):
    lay, reach = deep_task(random.Random(seed), 60)
    plan = plan_way(lay, reach, seconds=20.0)
    assert plan.optimal
    holds(lay, plan)
    rng = random.Random(seed)
    assert plan.total_minutes <= min(_thrown(rng, lay, reach) for _ in range(400)) + 1e-9


def _chain(**needs: list[list[str]]) -> Layout:
    return Layout("x", tuple(Operation(name, name, 1.0, 1.0, None, tuple(map(tuple, groups)), (name,))
                             for name, groups in needs.items()))  # fmt: skip


def test_a_circle_is_named():
    with pytest.raises(LayoutError, match=r"a → b → a"):
        plan_way(_chain(a=[["b"]], b=[["a"]], c=[]), ["c"])


def test_a_closing_that_cannot_be_is_named():
    lay = Layout("x", (Operation("a", "a", 1, 1), Operation("b", "b", 1, 1, needs=(("a",),), reaches=("b",))))
    last = Operation("a", "a", 1, 1, close_before=("b",))
    assert plan_way(lay, ["b"]).closing[-1].id == "a"
    with pytest.raises(LayoutError, match=r"(a → b → a|b → a → b)"):
        plan_way(Layout("x", (last, lay.operations[1])), ["b"])


def test_what_nothing_reaches_is_named_with_what_is_reached():
    with pytest.raises(LayoutError, match=r"nothing reaches 'moon'; parts that are reached here: a, b"):
        plan_way(_chain(a=[], b=[["a"]]), ["moon"])
    with pytest.raises(LayoutError, match="without what is to be avoided"):
        plan_way(_chain(a=[], b=[["a"]]), ["b"], avoid={"a"})


def test_an_extra_operation_is_taken_where_it_spares_changes():
    ops = (
        Operation("far", "", 1, 1, "d1", reaches=("far",)),
        Operation("near", "", 0.1, 0.1, None),
        Operation("deep", "", 1, 1, "d2", (("far", "near"),), ("deep",)),
        Operation("last", "", 1, 1, "d2", (), ("last",), close_before=("far",)),
    )
    lay = Layout("x", ops, 5.0)
    plan = plan_way(lay, ["far", "deep", "last"])
    assert plan.total_minutes == pytest.approx(cheapest(lay, ["far", "deep", "last"], frozenset(), None))


@pytest.mark.parametrize("name", layout_names())
def test_every_part_of_every_layout_has_a_plan_that_is_proven(name):
    lay = layout(name)
    for part in lay.parts:
        plan = plan_way(lay, [part])
        holds(lay, plan)
        assert plan.optimal
    everything = plan_way(lay, lay.parts)
    assert everything.optimal
    assert changes_of(everything.operations) + changes_of(everything.closing) == everything.driver_changes


@pytest.mark.parametrize("cut", ["time", "states"])
def test_what_is_not_proven_is_said_and_still_holds(monkeypatch, cut):
    lay, reach = deep_task(random.Random(9), 60)
    best = plan_way(lay, reach)
    if cut == "states":
        monkeypatch.setattr("warmdraft.teardown.orders.MOST_STATES", 2)
    plan = plan_way(lay, reach, seconds=0.0 if cut == "time" else 10.0)
    assert best.optimal and not plan.optimal
    holds(lay, plan)
    assert plan.total_minutes - plan.gap_minutes - 1e-9 <= best.total_minutes <= plan.total_minutes + 1e-9
    assert plan_way(lay, reach) is best  # what was proven before is kept


def test_what_is_open_costs_no_opening_and_goes_back():
    lay = _chain(a=[], b=[["a"]], c=[["b"]])
    plan = plan_way(lay, ["c"], opened={"a", "b"})
    assert [op.id for op in plan.operations] == ["c"]
    assert [op.id for op in plan.closing] == ["c", "b", "a"]
    assert [op.id for op in plan.opened] == ["a", "b"]
    assert (plan.open_minutes, plan.close_minutes) == (1.0, 3.0)


def test_through_and_avoid_are_kept_to_or_said_to_be_impossible():
    lay = _chain(a=[], b=[], c=[["a", "b"]])
    assert "b" in {op.id for op in plan_way(lay, ["c"], through={"b"}).operations}
    assert {op.id for op in plan_way(lay, ["c"], avoid={"a"}).operations} == {"b", "c"}
    with pytest.raises(LayoutError, match="cannot be done without"):
        plan_way(_chain(a=[], b=[["a"]], c=[]), ["c"], avoid={"a"}, through={"b"})


@pytest.mark.parametrize(
    ("drivers", "in_hand", "changes"),
    [
        ((), None, 0),
        ((None, None), None, 0),
        (("a", None, "a"), None, 0),
        (("a", None, "b", "a"), None, 2),
        (("a", "b"), "a", 1),
        (("a", "b"), "c", 2),
        ((None,), "c", 0),
    ],
)
def test_changes_fall_between_neighbours_that_use_a_driver(drivers, in_hand, changes):
    operations = tuple(Operation(str(i), "", 1, 1, driver) for i, driver in enumerate(drivers))
    assert changes_of(operations, in_hand) == changes
