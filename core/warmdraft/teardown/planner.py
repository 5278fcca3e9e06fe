"""The way in that costs the fewest minutes of opening and closing, over an AND/OR graph with driver changes.

A good way first: many are thrown, each need settled by a choice that chance leans towards the cheap, and the best of
them is mended, one operation after the other left out and done without. Then branch and bound over which operations
belong to the way. Whatever every choice of a need has in common (`must`) goes in at once; then one open need at a time,
the dearest, is settled by each of its choices. A branch is cut when its minutes, the cheapest completion of needs that
share nothing, and the driver changes that the order forces already cost more than the best way known, and when the same
set was opened before with no more left out. How few driver changes a set of operations needs is itself searched exactly
(A* over what is done): with one driver in hand, doing all that it can do is never worse, because nothing that is done
ever blocks anything.

The search ends by the clock of its own work, so that a busy machine plans no worse; what it has not looked at is at
least as dear as the bound it was left with, and so the most by which the way given may be too dear is known.

Least-cost solutions of AND/OR graphs: Martelli and Montanari, "Optimizing decision trees through heuristically guided
search", Communications of the ACM 21 (1978); branch and bound: Land and Doig, Econometrica 28 (1960).
"""

from __future__ import annotations

import math
import random
import time
from collections.abc import Sequence, Set
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise

from warmdraft.errors import LayoutError
from warmdraft.teardown.layouts import Layout, Operation
from warmdraft.teardown.orders import NEVER, Graph, Orders, bits, circle_in, in_order

#: Seconds of work after which the best way known is given, with the most it may be too dear.
MOST_SECONDS = 4.0
#: So many times more while no way is known at all.
_TO_FIND_ONE = 2
#: Ways thrown before the search, and how often in a row one may bring nothing (own choices, by measuring).
_THROWS, _IN_VAIN = 160, 40
#: What a thrown choice costs is taken times e to a normal number of this spread.
_LEANING = (0.3, 1.0)
#: By how much what is taken anyway is cheaper than all else.
_ANYWAY = 1e-13
#: Ways that are kept: hands come back to the same few, one step after the other.
_WAYS_KEPT = 1024
_SLACK = 1e-9  # minutes; sums of floats differ by less


@dataclass(frozen=True, slots=True)
class Plan:
    """A way in and back.

    opened: what was off before it began, and has to go back too; in_hand: the driver it begins with, where one is in
    the hand already; gap_minutes: no way costs less than this one less the gap.
    """

    operations: tuple[Operation, ...]
    closing: tuple[Operation, ...]
    opened: tuple[Operation, ...]
    driver_change_minutes: float
    in_hand: str | None
    gap_minutes: float

    @property
    def optimal(self) -> bool:
        """Proven least."""
        return self.gap_minutes <= _SLACK

    @property
    def off(self) -> tuple[Operation, ...]:
        """All that is off once it is open, as it came or comes off."""
        return (*self.opened, *self.operations)

    @property
    def people(self) -> int:
        """Hands that the operation with the most of them asks for."""
        return max((operation.people for operation in self.off), default=1)

    def fasteners(self, state: str) -> int:
        """How many fasteners come out, or are loosened."""
        return sum(f.count for operation in self.off for f in operation.fasteners if f.state == state)

    @property
    def open_minutes(self) -> float:
        """Minutes of hands on opening."""
        return sum(operation.open_minutes for operation in self.operations)

    @property
    def close_minutes(self) -> float:
        """Minutes of hands on closing."""
        return sum(operation.close_minutes for operation in self.closing)

    @property
    def driver_changes(self) -> int:
        """Changes between neighbours that use a driver, opening and closing."""
        return changes_of(self.operations, self.in_hand) + changes_of(self.closing)

    @property
    def total_minutes(self) -> float:
        """Opening, closing and driver changes."""
        return self.open_minutes + self.close_minutes + self.driver_change_minutes * self.driver_changes

    @property
    def drivers(self) -> tuple[str, ...]:
        """Drivers in the order they are first taken up."""
        used = (operation.driver for operation in (*self.operations, *self.closing))
        return tuple(dict.fromkeys(driver for driver in used if driver is not None))


def changes_of(operations: tuple[Operation, ...], in_hand: str | None = None) -> int:
    """Driver changes of an order: those without a driver change nothing."""
    drivers = [name for name in (in_hand, *(operation.driver for operation in operations)) if name is not None]
    return sum(a != b for a, b in pairwise(drivers))


@lru_cache(maxsize=64)
def _leanings(size: int) -> tuple[tuple[float, ...], ...]:
    """By how much each throw takes each operation for dearer or cheaper; the first takes all as they are."""
    chance = random.Random(1)  # noqa: S311 – no secret hangs on it
    spreads = (_LEANING[k % len(_LEANING)] for k in range(1, _THROWS))
    thrown = (tuple(math.exp(chance.gauss(0, spread)) for _ in range(size)) for spread in spreads)
    return ((1.0,) * size, *thrown)


class _Search:
    """Throwing, mending, then branch and bound over sets of operations."""

    def __init__(self, graph: Graph, asked: tuple[int, ...], seconds: float) -> None:
        self.graph, self.asked = graph, asked
        self.began, self.seconds = time.thread_time(), seconds
        self.orders = Orders(graph, self.began + _TO_FIND_ONE * seconds)
        self.best, self.best_minutes = 0, float("inf")
        #: Least that a way nobody looked at may cost.
        self.unseen_minutes = float("inf")
        #: What was left out when a set was opened, and when one whose every need is met was weighed.
        self.opened: dict[int, list[int]] = {}
        self.weighed: dict[int, list[int]] = {}

    @property
    def gap_minutes(self) -> float:
        """The most by which the best way known may be too dear."""
        return max(0.0, self.best_minutes - self.unseen_minutes)

    def run(self) -> None:
        """Leave the best set in `best`; 0 where there is none."""
        # what is open has to be closed, whatever it was opened for
        start = self.graph.common(self.asked) | self.graph.opened
        self._throw(start)
        self._mend(start)
        self._branch(start, 0, 0, 0.0)

    def _late(self) -> bool:
        return time.thread_time() - self.began > self.seconds * (1 if self.best else _TO_FIND_ONE)

    def _throw(self, start: int) -> None:
        """Many ways by chance, the same at every search: the best is kept."""
        in_vain, thrown = 0, set()
        for k, lean in enumerate(_leanings(self.graph.size)):
            if k and (in_vain >= _IN_VAIN or self._late()):
                return
            was = self.best_minutes
            chosen = self._completed(start, 0, lean)
            if chosen is not None and chosen not in thrown:
                thrown.add(chosen)
                self._weigh(chosen)
            in_vain = 0 if self.best_minutes < was else in_vain + 1

    def _completed(self, chosen: int, excluded: int, lean: Sequence[float]) -> int | None:
        """A set with every need met, each by what is cheapest as `lean` bends it, a factor for each operation; None
        where one cannot be met."""
        graph = self.graph
        while True:
            chosen, needs = self._open_needs(chosen, excluded)
            if needs is None:
                return None
            if not needs:
                return chosen
            usable = [o for o in bits(needs[0]) if not graph.must[o] & excluded]
            if not usable:
                return None
            option = min(usable, key=lambda o: graph.minutes(graph.must[o] & ~chosen) * lean[o])
            chosen |= graph.must[option]

    def _mend(self, start: int) -> None:
        """Leave out one operation of the best way after the other, as long as that spares minutes."""
        graph = self.graph
        better = True
        while better and not self._late():
            better, was = False, self.best
            for i in bits(was & ~start):
                lean = [_ANYWAY if was >> o & 1 else 1.0 for o in range(graph.size)]  # what is in it anyway, by choice
                chosen = self._completed(start, 1 << i, lean)
                if chosen is not None:
                    self._weigh(chosen)
                if self.best != was:
                    better = True
                    break

    def _weigh(self, chosen: int) -> float:
        """Minutes of a set with every need met; it is kept where it is the best."""
        graph = self.graph
        floor = graph.minutes(chosen) + graph.change * self._fewest_changes(chosen)
        if self._too_dear(floor):
            return floor
        changes = self.orders.of(chosen, False).changes + self.orders.of(chosen, True).changes
        minutes = graph.minutes(chosen) + graph.change * changes
        if changes < NEVER and not self._too_dear(minutes):
            self.best, self.best_minutes = chosen, minutes
        return minutes

    def _fewest_changes(self, chosen: int) -> int:
        """Driver changes of opening and closing that any order has: one less than the drivers it asks for."""
        graph = self.graph
        to_open = graph.distinct(chosen & ~graph.opened)
        return max(0, to_open - 1) + max(0, graph.distinct(chosen) - 1)

    def _open_needs(self, chosen: int, excluded: int) -> tuple[int, list[int] | None]:
        """Take in what has become without a choice; the needs still open, None where one cannot be met."""
        graph = self.graph
        while True:
            grown, needs = chosen, []
            for groups in (self.asked, *(graph.groups[i] for i in bits(chosen))):
                for group in groups:
                    if group & chosen:
                        continue
                    left = group & ~excluded
                    if not left:
                        return chosen, None
                    if left & (left - 1) == 0:
                        grown |= graph.must[left.bit_length() - 1]
                    else:
                        needs.append(left)
            if grown == chosen:
                return chosen, needs
            if grown & excluded:
                return grown, None
            chosen = grown

    def _completion(self, chosen: int, needs: list[int]) -> float:
        """Least minutes that open needs still ask for: those counted together share no operation."""
        graph = self.graph
        rows = []
        for group in dict.fromkeys(needs):
            ways = [graph.must[o] & ~chosen for o in bits(group)]
            union = 0
            for way in ways:
                union |= way
            rows.append((min(graph.minutes(way) for way in ways), union))
        rows.sort(reverse=True)
        total, used = 0.0, 0
        for minutes, union in rows:
            if not union & used:
                total += minutes
                used |= union
        return total

    def _too_dear(self, minutes: float) -> bool:
        return minutes >= self.best_minutes - _SLACK

    def _branch(self, chosen: int, excluded: int, changes: int, floor: float) -> None:
        """Look at every set that holds `chosen` and nothing of `excluded`. changes, floor: no such set has fewer driver
        changes, or costs less."""
        if self._too_dear(floor):
            return
        graph = self.graph
        chosen, needs = self._open_needs(chosen, excluded)
        if needs is None or _seen_before(self.opened, chosen, excluded):
            return
        hands_on = graph.minutes(chosen) + self._completion(chosen, needs)
        floor = max(floor, hands_on + graph.change * max(changes, self._fewest_changes(chosen)))
        if self._too_dear(floor):
            return
        if self._late():
            self.unseen_minutes = min(self.unseen_minutes, floor)
            return
        changes = self.orders.least(chosen, excluded, False) + self.orders.least(chosen, excluded, True)
        floor = hands_on + graph.change * changes
        if changes >= NEVER or self._too_dear(floor):
            return
        if not needs:
            self._settled(chosen, excluded, changes)
            return
        group = max(needs, key=lambda need: min(graph.minutes(graph.must[o] & ~chosen) for o in bits(need)))
        ways = sorted(bits(group), key=lambda o: (graph.minutes(graph.must[o] & ~chosen), o))
        for option in ways:
            if not graph.must[option] & excluded:
                self._branch(chosen | graph.must[option], excluded, changes, floor)
            excluded |= 1 << option

    def _settled(self, chosen: int, excluded: int, least_changes: int) -> None:
        """Every need is met: weigh it; and whatever more is off may still spare driver changes."""
        if _seen_before(self.weighed, chosen, excluded):
            return
        graph = self.graph
        minutes = self._weigh(chosen)
        floor = graph.minutes(chosen) + graph.change * least_changes
        own = self.orders.least(chosen, ~chosen, False) + self.orders.least(chosen, ~chosen, True)
        if self.orders.of(chosen, False).changes + self.orders.of(chosen, True).changes > own:  # its order is unproven
            self.unseen_minutes = min(self.unseen_minutes, graph.minutes(chosen) + graph.change * own)
        spared = minutes - floor
        if spared <= _SLACK:
            return
        more = 0
        for i in bits(chosen):
            more |= graph.around[i]
        for option in bits(more & ~chosen & ~excluded):
            extra = graph.must[option] & ~chosen
            if not extra & excluded and graph.minutes(extra) < spared:
                self._branch(chosen | extra, excluded, least_changes, floor + graph.minutes(extra))
                excluded |= 1 << option


def _seen_before(seen: dict[int, list[int]], chosen: int, excluded: int) -> bool:
    """Whether a set was looked at with no more left out; if not, it is remembered."""
    before = seen.setdefault(chosen, [])
    if any(not left_out & ~excluded for left_out in before):
        return True
    before[:] = [left_out for left_out in before if excluded & ~left_out] + [excluded]
    return False


def plan_way(
    layout: Layout, reach: Sequence[str], *, opened: Set[str] = frozenset(), avoid: Set[str] = frozenset(),
    through: Set[str] = frozenset(), in_hand: str | None = None, seconds: float = MOST_SECONDS,
) -> Plan:  # fmt: skip
    """The way of least total minutes that reaches every part.

    Parameters: reach, names of parts; opened, operations that are off already: they cost no opening, and go back too;
    avoid, operations not to be used; through, those that have to belong to the way; in_hand, the driver in the hand;
    seconds, after which the best way known is given (twice as many where none is).
    Raises LayoutError where a part cannot be reached, where needs go in a circle, or where no order closes.

    Minutes; the sources of the search stand at the head of this file.

    >>> from warmdraft.teardown import layout
    >>> plan = plan_way(layout('two_motors'), ['blower_wheel'])
    >>> plan.optimal, plan.total_minutes > plan.open_minutes
    (True, True)
    """
    try:
        return _way(layout, tuple(dict.fromkeys(reach)), frozenset(opened), frozenset(avoid), frozenset(through),
                    in_hand, seconds)  # fmt: skip
    except _Unproven as best:
        return best.plan


class _Unproven(Exception):
    """The best way found in the time there was: not kept, for another time there may be more of it."""

    def __init__(self, plan: Plan) -> None:
        super().__init__()
        self.plan = plan


@lru_cache(maxsize=_WAYS_KEPT)
def _way(
    layout: Layout, reach: tuple[str, ...], opened: frozenset[str], avoid: frozenset[str], through: frozenset[str],
    in_hand: str | None, seconds: float,
) -> Plan:  # fmt: skip
    graph = Graph(layout, opened, avoid, in_hand)
    asked = []
    for part in reach:
        reaching = sum(1 << i for i, op in enumerate(graph.operations) if part in op.reaches)
        usable = sum(1 << i for i in bits(reaching) if graph.must[i])
        if not usable:
            raise LayoutError(_unreachable(layout, part, bool(reaching)))
        asked.append(usable)
    for i, operation in enumerate(graph.operations):
        if operation.id in through:
            if not graph.must[i]:
                raise LayoutError(f"'{operation.id}' cannot be done without what is to be avoided")
            asked.append(1 << i)
    search = _Search(graph, tuple(asked), seconds)
    search.run()
    if search.best_minutes == float("inf"):
        if search.unseen_minutes < float("inf"):
            raise LayoutError("these operations hang together too tangled for a way to be found; ask for fewer choices")
        raise LayoutError(_no_order(graph))
    chosen = search.best
    opening = in_order(graph, search.orders.of(chosen, False).batches, chosen, closing=False)
    closing = in_order(graph, search.orders.of(chosen, True).batches, chosen, closing=True)[::-1]
    plan = Plan(
        tuple(op for op in opening if op.id not in opened),
        tuple(closing),
        tuple(op for op in layout.operations if op.id in opened),
        layout.driver_change_minutes,
        in_hand,
        search.gap_minutes,
    )
    if not plan.optimal:
        raise _Unproven(plan)
    return plan


def _unreachable(layout: Layout, part: str, blocked: bool) -> str:
    if blocked:
        return f"'{part}' cannot be reached without what is to be avoided; allow one of these, or leave the part out"
    known = sorted({name for operation in layout.operations for name in operation.reaches})
    return f"nothing reaches '{part}'; parts that are reached here: {', '.join(known) or 'none'}"


def _no_order(graph: Graph) -> str:
    before = [(must & ~(1 << i)) | graph.behind[i] for i, must in enumerate(graph.must)]
    circle = circle_in([set(bits(mask)) for mask in before])
    names = [graph.operations[i].id for i in circle or ()]
    said = f": {' → '.join([*names, names[0]])}" if names else ""
    return f"no order closes this way, 'close_before' and 'needs' go in a circle{said}; take one of them out"
