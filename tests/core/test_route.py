"""A new run on a grid: against a shortest path over cells and headings by a general library, and the command."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.sparse import coo_array
from scipy.sparse.csgraph import dijkstra

from warmdraft.answers import route_answer, vent_answer
from warmdraft.errors import DocumentError
from warmdraft.vent import HEADINGS, Opening, Ways, ahead, least_in_the_way
from warmdraft.words import words_for


def shortest(size, blocked, start, ends, straight, elbow) -> float | None:
    """The same question put to a general library: every cell and heading a node."""
    cells = [c for c in np.ndindex(*size) if c not in blocked]
    number = {(c, h): k for k, (c, h) in enumerate((c, h) for c in cells for h in HEADINGS)}
    edges = [
        (number[c, h], number[ahead(c, h), h], straight) for c in cells for h in HEADINGS if (ahead(c, h), h) in number
    ]
    edges += [(number[c, h], number[c, t], elbow) for c in cells for h in HEADINGS for t in HEADINGS if t[1] != h[1]]
    source, target, weight = zip(*edges, strict=True)
    graph = coo_array((weight, (source, target)), shape=(len(number),) * 2).tocsr()
    far = dijkstra(graph, indices=number[start.cell, start.heading])
    found = min((far[number[e.cell, e.heading]] for e in ends if e.cell not in blocked), default=np.inf)
    return None if np.isinf(found) else float(found)


@st.composite
def grids(draw):
    size = draw(st.tuples(*[st.integers(1, 5)] * 3))
    cell = st.tuples(*[st.integers(0, side - 1) for side in size])
    opening = st.builds(Opening, cell, st.sampled_from(HEADINGS))
    start = draw(opening)
    blocked = draw(st.sets(cell, max_size=size[0] * size[1] * size[2] * 2 // 3)) - {start.cell}
    weights = st.floats(0.01, 20)
    return size, blocked, start, draw(st.lists(opening, min_size=1, max_size=3)), draw(weights), draw(weights)


@settings(max_examples=300, deadline=None)
@given(grids())
def test_the_best_way_is_the_shortest_path_and_can_be_walked(grid):
    size, blocked, start, ends, straight, elbow = grid
    way = Ways(size, blocked, start).to(ends, straight, elbow)
    least = shortest(size, blocked, start, ends, straight, elbow)
    assert (way is None) == (least is None)
    if way is None:
        between = least_in_the_way(size, blocked, start, ends)
        assert between
        freed = Ways(size, blocked - set(between), start)
        assert freed.to(ends, straight, elbow) is not None
        return
    assert way.straights * straight + way.elbows * elbow == pytest.approx(least, rel=1e-9)
    cell, heading, turns = start.cell, start.heading, list(way.turns)
    for place in range(way.straights + 1):
        while turns and turns[0][0] == place:
            assert turns[0][1][1] != heading[1]  # no turning back
            heading = turns.pop(0)[1]
        assert cell == way.cells[place]
        assert cell not in blocked
        if place < way.straights:
            cell = ahead(cell, heading)
    assert Opening(cell, heading) == ends[way.end]


def document(**changes) -> dict:
    return {
        "format": "warm-draft/route", "version": 1, "cells": [30, 20, 8], "cell": {"value": 1, "unit": "ft"},
        "blocked": [[4, y, 0] for y in range(20)], "start": [2, 0, 0], "heading": "+y",
        "ends": [{"cell": [29, 10, 7], "heading": "+x"}, {"cell": [8, 19, 3], "heading": "+y"}],
        "diameter": {"value": 4, "unit": "in"}, "flow": {"value": 150, "unit": "cfm"}, "material": "galvanised",
        "elbow": {"style": "smooth", "radius": {"value": 6, "unit": "in"}}, "hood": {"style": "flap"},
    } | changes  # fmt: skip


def test_its_pieces_lose_in_the_vent_what_the_route_says():
    found = route_answer(document(air_temperature={"value": 50, "unit": "degC"}))
    assert found.end == 1
    assert found.optimal
    pieces = [piece for piece in found.pieces if piece["piece"] != "hood"]
    vent = {"format": "warm-draft/vent", "version": 1, "diameter": {"value": 4, "unit": "in"},
            "flow": {"value": 150, "unit": "cfm"}, "air_temperature": {"value": 50, "unit": "degC"}}  # fmt: skip
    told = vent_answer(vent | {"pieces": pieces}, words_for())
    assert told.pressure_drop.value == pytest.approx(found.pressure_drop.value)
    assert told.length.value == pytest.approx(found.length.value)
    assert vent_answer(vent | {"pieces": found.pieces}, words_for()).pressure_drop.value > found.pressure_drop.value
    assert len([piece for piece in pieces if piece["piece"] == "elbow"]) == found.elbows == 3


def test_a_hood_is_named_by_its_style_too():
    assert route_answer(document(hood="flap")) == route_answer(document())


def test_where_nothing_leads_it_says_what_is_in_the_way():
    walled = [[4, y, z] for y in range(20) for z in range(8)]
    with pytest.raises(DocumentError, match=r"no way leads from \[2, 0, 0\] to any end; .* 1 blocked cells \(\[4, "):
        route_answer(document(blocked=walled))


@pytest.mark.parametrize(
    ("changes", "path", "says"),
    [
        ({"start": [2, 0, 9]}, "$.start", r"outside the grid; give a cell from \[0, 0, 0\] to \[29, 19, 7\]"),
        ({"start": [4, 0, 0]}, "$.start", "is blocked"),
        ({"blocked": [[0, 0, 0], [30, 0, 0]]}, "$.blocked[1]", "outside the grid"),
        ({"ends": [{"cell": [0, 0, -1], "heading": "+x"}]}, "$.ends[0].cell", "outside the grid"),
        ({"ends": [{"cell": [0, 0], "heading": "+x"}]}, "$.ends[0].cell", "is no cell; give three whole numbers"),
        ({"ends": []}, "$.ends", "at least one"),
        ({"heading": "up"}, "$.heading", r"give one of \+x, -x"),
        ({"cells": [1000, 1000, 8]}, "$.cells", "is no grid"),
        ({"cells": [30, 20.5, 8]}, "$.cells", "is no cell"),
        ({"hood": "screen"}, "$.hood.style", "give one of flap, open"),
        ({"elbow": {"style": "bent"}}, "$.elbow.style", "give one of mitred, smooth"),
    ],
)
def test_what_is_wrong_is_named(changes, path, says):
    with pytest.raises(DocumentError, match=says) as caught:
        route_answer(document(**changes))
    assert caught.value.path == path
