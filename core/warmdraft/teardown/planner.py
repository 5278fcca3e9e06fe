"""The way in that costs the fewest minutes of opening and closing, over an AND/OR graph with driver changes.

Branch and bound over which operations belong to the way. Whatever every choice of a need has in common (`must`) goes in
at once; then one open need at a time is settled by each of its choices. A branch is cut when its minutes, the cheapest
completion of needs that share nothing, and the driver changes that the order forces already cost more than the best
way known. How few driver changes a set of operations needs is itself searched exactly (A* over what is done): with one
driver in hand, doing all that it can do is never worse, because nothing that is done ever blocks anything.

Least-cost solutions of AND/OR graphs: Martelli and Montanari, "Optimizing decision trees through heuristically guided
search", Communications of the ACM 21 (1978); branch and bound: Land and Doig, Econometrica 28 (1960).
"""

from __future__ import annotations

import heapq
from collections.abc import Iterator, Sequence, Set
from dataclasses import dataclass
from itertools import pairwise

from warmdraft.errors import LayoutError
from warmdraft.teardown.layouts import Layout, Operation

#: Branches looked at before the best way known is given unproven: a few seconds.
MOST_BRANCHES = 20_000
#: States looked at before an order's driver changes are given unproven.
MOST_STATES = 20_000
_NEVER = 10**6  # changes of an order that does not exist
_SLACK = 1e-9  # minutes; sums of floats differ by less
#: One operation within an order: its bit, what has to be done before it, needs with a choice, its driver (-1: none).
_Turn = tuple[int, int, tuple[int, ...], int]


@dataclass(frozen=True, slots=True)
class Plan:
    """A way in and back.

    opened: what was off before it began, and has to go back too; in_hand: the driver it begins with, where one is in
    the hand already; optimal: proven least.
    """

    operations: tuple[Operation, ...]
    closing: tuple[Operation, ...]
    opened: tuple[Operation, ...]
    driver_change_minutes: float
    in_hand: str | None
    optimal: bool

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


def bits(mask: int) -> Iterator[int]:
    """Numbers of the bits that are set, the lowest first."""
    while mask:
        low = mask & -mask
        yield low.bit_length() - 1
        mask ^= low


def _circle(needs: list[set[int]]) -> list[int] | None:
    """A circle in a graph, in order; None where there is none."""
    state = [0] * len(needs)  # 0 new, 1 on the path, 2 done
    for root in range(len(needs)):
        if state[root]:
            continue
        path, stack = [root], [iter(sorted(needs[root]))]
        state[root] = 1
        while stack:
            following = next(stack[-1], None)
            if following is None:
                state[path.pop()] = 2
                stack.pop()
            elif state[following] == 1:
                return path[path.index(following) :]
            elif state[following] == 0:
                state[following] = 1
                path.append(following)
                stack.append(iter(sorted(needs[following])))
    return None


def check_needs(layout: Layout) -> tuple[int, ...]:
    """Numbers of the operations, each after all it may need. Raises LayoutError that names a circle."""
    number = {operation.id: i for i, operation in enumerate(layout.operations)}
    needs = [{number[name] for choice in operation.needs for name in choice} for operation in layout.operations]
    circle = _circle(needs)
    if circle is not None:
        names = [layout.operations[i].id for i in circle]
        raise LayoutError(
            f"needs go in a circle: {' → '.join([*names, names[0]])}; take one of these needs out",
            f"[{circle[0]}].needs",
        )
    order: list[int] = []
    left = set(range(len(needs)))
    while left:
        ready = sorted(i for i in left if not needs[i] & left)
        order += ready
        left -= set(ready)
    return tuple(order)


class _Graph:
    """A layout as bit masks, for one question: what is open already, what is not to be used."""

    def __init__(self, layout: Layout, opened: Set[str], avoid: Set[str], in_hand: str | None) -> None:
        #: Numbered so that each comes after all it may need.
        operations = tuple(layout.operations[i] for i in check_needs(layout))
        self.operations = operations
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
        return sum(self.weight[i] for i in bits(mask))

    def distinct(self, mask: int) -> int:
        """How many drivers a set asks for."""
        return sum(1 for used in self.with_driver if used & mask)


class _Orders:
    """Orders of a set of operations with the fewest driver changes, each worked out once."""

    def __init__(self, graph: _Graph) -> None:
        self.graph = graph
        self.proven = True
        self._least: dict[tuple[int, int, bool], int] = {}

    def least(self, chosen: int, excluded: int, closing: bool) -> int:
        """Fewest changes of opening a set (or of closing it, read backwards); _NEVER where there is no order.

        excluded: what will not be added to the set; a need that something else may still meet holds only as far as
        every way of meeting it agrees. So this is no more than the changes of any larger set; with everything else
        excluded it is the set's own.
        """
        around = 0
        for i in bits(chosen):
            around |= self.graph.around[i]
        closing = closing and any(self.graph.behind[i] & chosen for i in bits(chosen & self.graph.with_behind))
        key = (chosen, excluded & around & ~chosen, closing)
        if key not in self._least:
            self._least[key] = self._fewest(chosen, excluded, closing)[0]
        return self._least[key]

    def batches(self, chosen: int, closing: bool) -> list[int]:
        """What is done with each driver in turn, by the order with the fewest changes; first what needs none."""
        return self._fewest(chosen, ~chosen, closing)[1]

    def _fewest(self, chosen: int, excluded: int, closing: bool) -> tuple[int, list[int]]:
        turns = self._needs(chosen, excluded, closing)
        if closing:
            return _fewest(turns, 0, -1, self)
        return _fewest(turns, chosen & self.graph.opened, self.graph.in_hand, self)

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


def _fewest(turns: list[_Turn], begun: int, in_hand: int, told: _Orders) -> tuple[int, list[int]]:
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
        _, less, _, done = heapq.heappop(heap)
        if done == chosen:
            return max(0, -less - taken_up), _trace(came_from, done, begun)
        if -less > came_from[done][0]:
            continue
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
        if len(came_from) > MOST_STATES:
            told.proven = False
            changes, batches = _greedy(moves, start, chosen, begun)
            return max(0, changes - taken_up), batches
    return _NEVER, []


def _greedy(moves: list[tuple[list[_Turn], int]], start: int, chosen: int, begun: int) -> tuple[int, list[int]]:
    """An order without proof: the driver that does the most, again and again."""
    done, batches = start, [start & ~begun]
    while done != chosen:
        following = max((_closure(done, usable) for usable, _ in moves), key=int.bit_count)
        if following == done:
            return _NEVER, []
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


class _Search:
    """Branch and bound over sets of operations."""

    def __init__(self, graph: _Graph, asked: tuple[int, ...]) -> None:
        self.graph, self.asked = graph, asked
        self.orders = _Orders(graph)
        self.best, self.best_minutes = 0, float("inf")
        self.branches, self.proven = 0, True
        #: Sets whose every need is met and that have been weighed: ways to one set are many.
        self.weighed: set[tuple[int, int]] = set()

    def run(self) -> None:
        """Leave the best set in `best`; 0 where there is none."""
        # what is open has to be closed, whatever it was opened for
        self._branch(self.graph.common(self.asked) | self.graph.opened, 0, 0)

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

    def _branch(self, chosen: int, excluded: int, changes: int) -> None:
        if self.branches >= MOST_BRANCHES:
            self.proven = False
            return
        self.branches += 1
        graph = self.graph
        chosen, needs = self._open_needs(chosen, excluded)
        if needs is None:
            return
        floor = graph.minutes(chosen) + self._completion(chosen, needs)
        to_open = graph.distinct(chosen & ~graph.opened)
        if self._too_dear(floor + graph.change * (max(0, to_open - 1) + max(0, graph.distinct(chosen) - 1))):
            return
        if self._too_dear(floor + graph.change * changes):
            return
        changes = self.orders.least(chosen, excluded, False) + self.orders.least(chosen, excluded, True)
        if changes >= _NEVER or self._too_dear(floor + graph.change * changes):
            return
        if not needs:
            self._settled(chosen, excluded, changes)
            return
        group = min(needs, key=int.bit_count)
        ways = sorted(bits(group), key=lambda o: (graph.minutes(graph.must[o] & ~chosen), o))
        for option in ways:
            if not graph.must[option] & excluded:
                self._branch(chosen | graph.must[option], excluded, changes)
            excluded |= 1 << option

    def _settled(self, chosen: int, excluded: int, least_changes: int) -> None:
        """Every need is met: weigh it; and whatever more is off may still spare driver changes."""
        if (chosen, excluded) in self.weighed:
            return
        self.weighed.add((chosen, excluded))
        graph = self.graph
        changes = self.orders.least(chosen, ~chosen, False) + self.orders.least(chosen, ~chosen, True)
        minutes = graph.minutes(chosen) + graph.change * changes
        if changes < _NEVER and not self._too_dear(minutes):
            self.best, self.best_minutes = chosen, minutes
        spared = graph.change * (changes - least_changes)
        if spared <= _SLACK:
            return
        more = 0
        for i in bits(chosen):
            more |= graph.around[i]
        for option in bits(more & ~chosen & ~excluded):
            extra = graph.must[option] & ~chosen
            if not extra & excluded and graph.minutes(extra) < spared:
                self._branch(chosen | extra, excluded, least_changes)
                excluded |= 1 << option


def plan_way(
    layout: Layout, reach: Sequence[str], *, opened: Set[str] = frozenset(), avoid: Set[str] = frozenset(),
    through: Set[str] = frozenset(), in_hand: str | None = None,
) -> Plan:  # fmt: skip
    """The way of least total minutes that reaches every part.

    Parameters: reach, names of parts; opened, operations that are off already: they cost no opening, and go back too;
    avoid, operations not to be used; through, those that have to belong to the way; in_hand, the driver in the hand.
    Raises LayoutError where a part cannot be reached, where needs go in a circle, or where no order closes.
    """
    graph = _Graph(layout, opened, avoid, in_hand)
    asked = []
    for part in dict.fromkeys(reach):
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
    search = _Search(graph, tuple(asked))
    search.run()
    if search.best_minutes == float("inf"):
        raise LayoutError(_no_order(graph))
    chosen = search.best
    opening = _in_order(graph, search.orders.batches(chosen, False), chosen, closing=False)
    closing = _in_order(graph, search.orders.batches(chosen, True), chosen, closing=True)[::-1]
    return Plan(
        tuple(op for op in opening if op.id not in opened),
        tuple(closing),
        tuple(op for op in layout.operations if op.id in opened),
        layout.driver_change_minutes,
        in_hand,
        search.proven and search.orders.proven,
    )


def _in_order(graph: _Graph, batches: list[int], chosen: int, closing: bool) -> list[Operation]:
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


def _unreachable(layout: Layout, part: str, blocked: bool) -> str:
    if blocked:
        return f"'{part}' cannot be reached without what is to be avoided; allow one of these, or leave the part out"
    known = sorted({name for operation in layout.operations for name in operation.reaches})
    return f"nothing reaches '{part}'; parts that are reached here: {', '.join(known) or 'none'}"


def _no_order(graph: _Graph) -> str:
    before = [(must & ~(1 << i)) | graph.behind[i] for i, must in enumerate(graph.must)]
    circle = _circle([set(bits(mask)) for mask in before])
    names = [graph.operations[i].id for i in circle or ()]
    said = f": {' → '.join([*names, names[0]])}" if names else ""
    return f"no order closes this way, 'close_before' and 'needs' go in a circle{said}; take one of them out"
