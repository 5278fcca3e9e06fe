"""A layout as bit masks, and how few driver changes a set of its operations needs, in which order.

With one driver in hand, doing all that it can do is never worse: nothing that is done ever blocks anything. So an order
is a row of drivers, and A* over what is done finds the shortest.
"""

from __future__ import annotations

import heapq
import time
from collections.abc import Iterable, Iterator, Set
from dataclasses import dataclass
from graphlib import CycleError, TopologicalSorter

from warmdraft.errors import LayoutError
from warmdraft.teardown.layouts import Layout, Operation

#: States looked at before an order's driver changes are given unproven.
MOST_STATES = 20_000
NEVER = 10**6  # changes of an order that does not exist
#: One operation within an order: its bit, what has to be done before it, needs with a choice, its driver (-1: none).
_Turn = tuple[int, int, tuple[int, ...], int]


def bits(mask: int) -> Iterator[int]:
    """Numbers of the bits that are set, the lowest first."""
    while mask:
        low = mask & -mask
        yield low.bit_length() - 1
        mask ^= low


def circle_in(needs: Iterable[Set[int]]) -> list[int] | None:
    """A circle in a graph, each before one that it needs; None where there is none."""
    try:
        TopologicalSorter(dict(enumerate(needs))).prepare()
    except CycleError as found:  # names each before one that needs it, and the first again at the end
        return list(found.args[1][:0:-1])
    return None


def check_needs(layout: Layout) -> tuple[int, ...]:
    """Numbers of the operations, each after all it may need. Raises LayoutError that names a circle.

    >>> from warmdraft.teardown import layout
    >>> len(check_needs(layout('two_motors'))) == len(layout('two_motors').operations)
    True
    """
    number = {operation.id: i for i, operation in enumerate(layout.operations)}
    needs = [{number[name] for choice in operation.needs for name in choice} for operation in layout.operations]
    circle = circle_in(needs)
    if circle is not None:
        names = [layout.operations[i].id for i in circle]
        raise LayoutError(
            f"needs go in a circle: {' → '.join([*names, names[0]])}; take one of these needs out",
            f"[{circle[0]}].needs",
        )
    sorter = TopologicalSorter(dict(enumerate(needs)))
    sorter.prepare()
    order: list[int] = []
    while ready := sorted(sorter.get_ready()):  # level by level, so that the same layout is always numbered the same
        order += ready
        sorter.done(*ready)
    return tuple(order)


class Graph:
    """A layout as bit masks, for one question: what is open already, what is not to be used."""

    def __init__(self, layout: Layout, opened: Set[str], avoid: Set[str], in_hand: str | None) -> None:
        #: Numbered so that each comes after all it may need.
        operations = tuple(layout.operations[i] for i in check_needs(layout))
        self.operations = operations
        self.size = len(operations)
        self.change = layout.driver_change_minutes
        number = {operation.id: i for i, operation in enumerate(operations)}
        self.opened = sum(1 << number[name] for name in opened)
        usable = ~sum(1 << number[name] for name in avoid if name not in opened)
        drivers = {name: i for i, name in enumerate(dict.fromkeys(op.driver for op in operations if op.driver))}
        self.in_hand = -1 if in_hand is None else drivers.get(in_hand, len(drivers))
        self.driver = [drivers[op.driver] if op.driver else -1 for op in operations]
        self.with_driver = [
            sum(1 << i for i, driver in enumerate(self.driver) if driver == d) for d in range(len(drivers))
        ]
        self.weight = [(0.0 if self.opened >> i & 1 else op.open_minutes) + op.close_minutes
                       for i, op in enumerate(operations)]  # fmt: skip
        #: By operation: those that go back before it, so that they come after it when closing is read backwards.
        self.behind = [0] * len(operations)
        for i, op in enumerate(operations):
            for name in op.close_before:
                self.behind[i] |= 1 << number[name]
        self.groups: list[tuple[int, ...]] = [()] * len(operations)
        self.must = [0] * len(operations)  # 0: cannot be done
        for i in range(len(operations)):
            groups = tuple(sum(1 << number[name] for name in set(choice)) & usable for choice in operations[i].needs)
            if self.opened >> i & 1:  # its needs were met, however
                groups = tuple(met for group in groups if (met := group & self.opened))
            groups = tuple(sum(1 << o for o in bits(group) if self.must[o]) for group in groups)
            self.groups[i] = groups
            if all(groups) and usable >> i & 1:
                self.must[i] = 1 << i | self.common(groups)
        self.with_behind = sum(1 << i for i, mask in enumerate(self.behind) if mask)
        self._minutes: dict[int, float] = {}
        self.around = [sum({1 << o for group in groups for o in bits(group)}) for groups in self.groups]

    def common(self, groups: tuple[int, ...]) -> int:
        """What every way of meeting these needs contains."""
        mask = 0
        for group in groups:
            shared = -1
            for option in bits(group):
                shared &= self.must[option]
            mask |= shared
        return mask

    def minutes(self, mask: int) -> float:
        """Hands-on minutes of a set."""
        known = self._minutes.get(mask)
        if known is None:
            known = self._minutes[mask] = sum(self.weight[i] for i in bits(mask))
        return known

    def distinct(self, mask: int) -> int:
        """How many drivers a set asks for."""
        return sum(1 for used in self.with_driver if used & mask)


@dataclass(frozen=True, slots=True)
class Order:
    """An order of a set: its driver changes, what is done with each driver in turn (first what needs none), and the
    fewest changes that any order of the set can have, as far as that is proven. NEVER where there is no order."""

    changes: int
    batches: list[int]
    least: int


class Orders:
    """Orders of a set of operations with the fewest driver changes, each worked out once.

    until: moment of this thread's clock (time.thread_time) after which an order is given unproven.
    """

    def __init__(self, graph: Graph, until: float) -> None:
        self.graph, self.until = graph, until
        self._known: dict[tuple[int, int, bool], Order] = {}

    def least(self, chosen: int, excluded: int, closing: bool) -> int:
        """Fewest changes of opening a set (or of closing it, read backwards); NEVER where there is no order.

        excluded: what will not be added to the set; a need that something else may still meet holds only as far as
        every way of meeting it agrees. So this is no more than the changes of any larger set; with everything else
        excluded it is the set's own.
        """
        return self._order(chosen, excluded, closing).least

    def of(self, chosen: int, closing: bool) -> Order:
        """The best order known of a whole set."""
        return self._order(chosen, ~chosen, closing)

    def _order(self, chosen: int, excluded: int, closing: bool) -> Order:
        around = 0
        for i in bits(chosen):
            around |= self.graph.around[i]
        as_opening = closing and not any(self.graph.behind[i] & chosen for i in bits(chosen & self.graph.with_behind))
        key = (chosen, excluded & around & ~chosen, closing)
        if as_opening and not chosen & self.graph.opened and self.graph.in_hand < 0:
            key = (*key[:2], False)
        if key not in self._known:
            turns = self._needs(chosen, excluded, key[2])
            begun, in_hand = (0, -1) if key[2] else (chosen & self.graph.opened, self.graph.in_hand)
            self._known[key] = _fewest(turns, begun, in_hand, self.until)
        return self._known[key]

    def _needs(self, chosen: int, excluded: int, closing: bool) -> list[_Turn]:
        graph = self.graph
        turns = []
        for i in bits(chosen):
            every, some = graph.must[i] & chosen & ~(1 << i), []
            for group in graph.groups[i]:
                inside = group & chosen
                if group & ~chosen & ~excluded or inside & every:
                    continue
                if inside & (inside - 1):
                    some.append(inside)
                else:
                    every |= inside
            if closing:
                every |= graph.behind[i] & chosen
            turns.append((1 << i, every, tuple(some), graph.driver[i]))
        return turns


def _closure(done: int, turns: list[_Turn]) -> int:
    """All that can be done by these, one after the other."""
    while True:
        before = done
        for bit, every, some, _ in turns:
            if not done & bit and not every & ~done and all(group & done for group in some):
                done |= bit
        if done == before:
            return done


def _fewest(turns: list[_Turn], begun: int, in_hand: int, until: float) -> Order:
    """Fewest driver changes and what is done with each driver, by A* over what is done."""
    chosen = sum(bit for bit, *_ in turns)
    start = _closure(begun, [turn for turn in turns if turn[3] in (in_hand, -1)])
    taken_up = 1 if in_hand < 0 else 0  # the first driver, when none is in the hand, is no change
    by_driver: dict[int, list[_Turn]] = {}
    for turn in turns:
        if turn[3] >= 0 and not start & turn[0]:
            by_driver.setdefault(turn[3], [])
    moves = [
        ([turn for turn in turns if turn[3] in (driver, -1) and not start & turn[0]],
         sum(turn[0] for turn in turns if turn[3] == driver and not start & turn[0]))
        for driver in by_driver
    ]  # fmt: skip
    came_from: dict[int, tuple[int, int]] = {start: (0, -1)}
    heap = [(len(moves), 0, 0, start)]
    while heap:
        least, less, _, done = heapq.heappop(heap)
        if done == chosen:
            changes = max(0, -less - taken_up)
            return Order(changes, _trace(came_from, done, begun), changes)
        if -less > came_from[done][0]:
            continue
        if len(came_from) > MOST_STATES or time.thread_time() > until:
            changes, batches = _greedy(moves, start, chosen, begun)
            return Order(max(0, changes - taken_up), batches, max(0, least - taken_up))
        for usable, own in moves:
            if not own & ~done:
                continue
            following = _closure(done, usable)
            if following & own == done & own:
                continue
            known = came_from.get(following)
            if known is not None and known[0] <= 1 - less:
                continue
            came_from[following] = (1 - less, done)
            left = sum(1 for _, other in moves if other & ~following)
            heapq.heappush(heap, (1 - less + left, less - 1, len(came_from), following))
    return Order(NEVER, [], NEVER)


def _greedy(moves: list[tuple[list[_Turn], int]], start: int, chosen: int, begun: int) -> tuple[int, list[int]]:
    """An order without proof: the driver that does the most, again and again."""
    done, batches = start, [start & ~begun]
    while done != chosen:
        following = max((_closure(done, usable) for usable, _ in moves), key=int.bit_count)
        if following == done:
            return NEVER, []
        batches.append(following & ~done)
        done = following
    return len(batches) - 1, batches


def _trace(came_from: dict[int, tuple[int, int]], done: int, begun: int) -> list[int]:
    batches = []
    while done != -1:
        before = came_from[done][1]
        batches.append(done & ~(before if before != -1 else begun))
        done = before
    return batches[::-1]


def in_order(graph: Graph, batches: list[int], chosen: int, closing: bool) -> list[Operation]:
    """Operations of an order, batch by batch; within one as the layout lists them."""
    done = 0 if closing else graph.opened
    order: list[int] = []
    for batch in batches:
        left = batch
        while left:
            i = next(
                i
                for i in bits(left)
                if all(group & done for group in graph.groups[i]) and not (closing and graph.behind[i] & chosen & ~done)
            )
            order.append(i)
            done |= 1 << i
            left &= ~(1 << i)
    return [graph.operations[i] for i in order]
