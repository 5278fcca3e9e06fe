"""A shared riser: against the same network put to a general solver of equations, and what holds in any."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import root

from warmdraft.airway import healthy_state, solve
from warmdraft.errors import VentError
from warmdraft.machine import profile
from warmdraft.vent import Elbow, Hood, Riser, Straight, Tap, VentRun, head_and_resistance, patterns, shared
from warmdraft.vent.losses import piece_drops_pa

AIRWAYS = [profile(name).airway for name in ("full-size-electric", "full-size-electric-50hz")]


def run(length: float, bore: float, bends: int = 0, hood: bool = False) -> VentRun:
    pieces = (Straight(length, "galvanised"), *[Elbow(90, "mitred")] * bends, *([Hood("flap")] if hood else []))
    return VentRun(bore, pieces)


@st.composite
def risers(draw):
    count = draw(st.integers(1, 6))
    taps = tuple(
        Tap(draw(st.sampled_from(AIRWAYS)), run(draw(st.floats(0.5, 6)), 0.1016, draw(st.integers(0, 3))))
        for _ in range(count)
    )
    bore = draw(st.sampled_from([0.127, 0.1524, 0.2032]))
    lengths = tuple(run(draw(st.floats(1, 8)), bore, hood=k == count - 1) for k in range(count))
    fan = draw(st.sampled_from([0.0, 40.0]))
    on = draw(st.lists(st.booleans(), min_size=count, max_size=count).filter(any))
    return Riser(taps, lengths, fan), on


@settings(max_examples=60, deadline=None)
@given(risers())
def test_it_is_the_network_that_a_general_solver_finds(case):
    """Unknowns: every flow and every pressure at once, Newton by scipy; ours goes from the foot up by halving."""
    riser, on = case
    count = len(on)
    rated = max(tap.airway.rated_flow_m3s for tap in riser.taps)
    heads, own = zip(*map(head_and_resistance, riser.taps), strict=True)
    along = [sum(piece_drops_pa(length, rated)) / rated**2 for length in riser.lengths]

    def misses(unknown):
        flow, pressure = unknown[:count], unknown[count:] * 100
        through = np.cumsum(flow)
        beyond = np.append(pressure[1:], -riser.fan_pa)
        machines = [
            heads[k] - own[k] * flow[k] * abs(flow[k]) - pressure[k] if on[k] else flow[k] * 1000 for k in range(count)
        ]
        return np.concatenate([machines, pressure - beyond - along * through * np.abs(through)])

    begin = np.concatenate([np.where(on, 0.04, 0.0), np.linspace(1.5, 0.2, count)])
    found = root(misses, begin, method="hybr", options={"xtol": 1e-12, "maxfev": 20_000})
    assert np.abs(misses(found.x)).max() < 1e-3
    ours = shared(riser, [on])
    if (found.x[:count] < -1e-9).any():  # blown back through a machine that runs: its flap is shut, as ours has it
        assert (ours.flow_m3s[0] == 0).any()
        return
    assert ours.flow_m3s[0] == pytest.approx(found.x[:count], abs=1e-6)
    assert ours.pressure_pa[0] == pytest.approx(found.x[count:] * 100, abs=1e-2)


def test_one_machine_alone_is_the_machine_on_its_own_run():
    """A riser of one tap is a run: the airway's own operating point has to come out."""
    airway, lateral, length = AIRWAYS[0], run(2.0, 0.1016, 1), run(3.0, 0.1016, hood=True)
    rated = airway.rated_flow_m3s
    state = healthy_state(airway)
    drops = sum(piece_drops_pa(lateral, rated)) + sum(piece_drops_pa(length, rated))
    resistance = state.resistance.copy()
    resistance[0, -2:] = [drops / rated**2, 0.0]
    alone = solve(replace(state, resistance=resistance), airway.fan)
    found = shared(Riser((Tap(airway, lateral),), (length,)), [[True]])
    assert found.flow_m3s[0, 0] == pytest.approx(float(alone.outlet[0]), rel=1e-9)


def test_the_more_run_the_less_each_gets_and_a_fan_at_the_end_gives_all_more():
    taps = tuple(Tap(AIRWAYS[0], run(1.0, 0.1016, 1)) for _ in range(5))
    lengths = tuple(run(3.0, 0.1524, hood=k == 4) for k in range(5))
    found = shared(Riser(taps, lengths), patterns(5))
    alone, every_other, all_on = found.flow_m3s[:5].max(axis=0), found.flow_m3s[5], found.flow_m3s[6]
    assert (all_on < alone).all()
    assert (all_on[[0, 2, 4]] < every_other[[0, 2, 4]]).all()
    assert all_on[0] < all_on[4]  # the foot has the longest way
    assert found.speed_m_s[0, 0] < found.speed_m_s[6, 4]  # alone, lint settles in the wide duct
    drawn = shared(Riser(taps, lengths, fan_pa=60.0), patterns(5))
    assert (drawn.flow_m3s[6] > all_on).all()


@pytest.mark.parametrize(
    ("riser", "on", "says"),
    [
        (Riser((), ()), [[]], "are no riser"),
        (Riser((Tap(AIRWAYS[0], run(1, 0.1)),), ()), [[True]], "1 machines on 0 lengths"),
        (Riser((Tap(AIRWAYS[0], run(1, 0.1)),), (run(1, 0.1),)), [[True, True]], "say it of each"),
    ],
)
def test_what_is_no_riser_is_named(riser, on, says):
    with pytest.raises(VentError, match=says):
        shared(riser, on)
