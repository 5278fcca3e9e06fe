"""Balancing: the standard's figures, the circles drawn by hand, rotors that are known, what cannot be told."""

import json
import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pytest import approx
from scipy.optimize import fsolve

from warmdraft.__main__ import main
from warmdraft.answers import balance_answer
from warmdraft.balance import Run, balance, grade_mm_s, permissible_kg_m, turning_force_n
from warmdraft.errors import BalanceError, DocumentError
from warmdraft.words import words_for

G = 1e-3


def shaken(unbalance, influence, runs, vanes=36, phases=True):
    """Runs of a rotor that is known; runs: (kg, vane)."""
    made = []
    for mass, vane in runs:
        whole = influence * (unbalance + mass * np.exp(2j * math.pi * vane / vanes))
        made.append(Run(mass, vane, abs(whole), math.degrees(np.angle(whole)) if phases else None))
    return made


def at(grams, vane, vanes=36):
    return grams * G * np.exp(2j * math.pi * vane / vanes)


@pytest.mark.parametrize(
    ("grade", "mass", "speed", "g_mm"),
    [
        (2.5, 3600, 3000, 28_650),  # ISO 21940-11, example of a turbine's rotor, from memory
        (6.3, 1, 3000, 20.05),  # its chart of permissible e against speed, from memory
        (16, 1, 950, 160.8),  # the same
        (6.3, 0.35, 1725, 12.2),  # a dryer's wheel, by the same formula
    ],
)
def test_the_permissible_residual_unbalance_is_the_standards(grade, mass, speed, g_mm):
    assert permissible_kg_m(grade, mass, speed) * 1e6 == approx(g_mm, rel=0.01)
    assert grade_mm_s(g_mm * 1e-6, mass, speed) == approx(grade, rel=0.01)


def test_a_clump_of_lint_turns_with_the_force_of_a_full_bottle():
    # 5 g at 80 mm: 400 g·mm, a force of 13 N; mechanics
    assert turning_force_n(5 * G * 0.08, 1725) == approx(0.0004 * (2 * math.pi * 28.75) ** 2)


def test_one_trial_mass_with_phase_is_the_vector_diagram():
    # by hand: V0 = 6 at 0°, V1 = 6 at 90° with 10 g on vane 0: V1 − V0 = 8.49 at 135°, so that
    # U = 10 g · V0 / (V1 − V0) = 7.07 g at −135°, vane 22.5 of 36; the vector diagram of every handbook
    found = balance(36, [Run(0, 0, 6, 0), Run(10 * G, 0, 6, 90)])
    assert found.mass_kg == approx(7.07 * G, rel=1e-3) and found.vane == approx(22.5)
    # opposite, on the two whole vanes about 4.5
    assert [vane for vane, _ in found.add] == [4, 5]
    assert abs(sum(at(mass / G, vane) for vane, mass in found.add) + at(7.0711, 22.5)) < 1e-6


def test_without_phase_it_is_where_the_circles_meet():
    runs = shaken(at(7, 13.4), 800 * np.exp(0.7j), [(0, 0), (10 * G, 0), (10 * G, 12), (10 * G, 24)], phases=False)
    found = balance(36, runs)
    # drawn by hand: circles about minus each mass, radii as the amplitudes; a general solver finds where they meet
    size = [run.amplitude / runs[0].amplitude for run in runs]

    def apart(u):
        whole = complex(*u)
        return [abs(whole + at(10, 12 * k)) - size[k + 1] * abs(whole) for k in (0, 1)]

    met = complex(*fsolve(apart, [found.mass_kg, 1e-3]))
    assert abs(met) == approx(7 * G, rel=1e-6) and found.mass_kg == approx(7 * G, rel=1e-4)
    assert found.vane == approx(13.4, abs=1e-3)


@settings(max_examples=60, deadline=None)
@given(
    vanes=st.integers(6, 60), grams=st.floats(0.5, 40), place=st.floats(0, 1), lag=st.floats(-3, 3),
    gain=st.floats(1, 1e4), phases=st.booleans(),
)  # fmt: skip
def test_a_known_rotor_comes_out(vanes, grams, place, lag, gain, phases):
    trial = [(0, 0), (10 * G, 0), (10 * G, vanes // 3), (10 * G, 2 * vanes // 3)]
    there = at(grams, place * vanes, vanes)
    found = balance(vanes, shaken(there, gain * np.exp(1j * lag), trial, vanes, phases))
    assert found.mass_kg * np.exp(2j * math.pi * found.vane / vanes) == approx(there, abs=2e-5 * (1 + grams))
    assert len(found.add) <= 2 and all(0 <= vane < vanes and mass > 0 for vane, mass in found.add)
    left = there + sum(at(mass / G, vane, vanes) for vane, mass in found.add)
    assert abs(left) <= 0.05 * abs(there) + 1e-6
    assert found.left[0] <= found.left[1] <= found.left[2]


def test_noise_says_how_sure_and_more_runs_are_surer():
    rng = np.random.default_rng(4)
    few = [(0, 0), (10 * G, 0), (10 * G, 12), (10 * G, 24)]
    many = few + [(10 * G, v) for v in (6, 18, 30, 3, 9, 15, 21, 27, 33)]

    def off(runs):
        noisy = [Run(r.mass_kg, r.vane, r.amplitude * (1 + 0.05 * rng.standard_normal()))
                 for r in shaken(at(8, 20), 500, runs, phases=False)]  # fmt: skip
        return balance(36, noisy)

    one, other = (np.mean([off(runs).left[2] for _ in range(20)]) for runs in (few, many))
    assert other < one < 1.5
    # what is said to be left is what is left, nine in ten
    held = []
    for _ in range(60):
        found = off(few)
        left = abs(at(8, 20) + sum(at(m / G, v) for v, m in found.add)) / (8 * G)
        held.append(left <= found.left[2])
    assert np.mean(held) > 0.8


@pytest.mark.parametrize(
    ("runs", "said"),
    [
        ([Run(10 * G, 0, 5)], "first run has a mass"),
        ([Run(0, 0, 5), Run(10 * G, 0, 6)], "three"),
        ([Run(0, 0, 5, 10)], "one with a trial mass"),
        ([Run(0, 0, 5), *[Run(10 * G, 4, 6)] * 3], "too few places"),
        ([Run(0, 0, 5, 10), Run(10 * G, 0, 5, 10)], "too little"),
        ([Run(0, 0, 5), Run(10 * G, 0, 5), Run(10 * G, 12, 5), Run(10 * G, 24, 5)], "too little"),
    ],
)
def test_what_cannot_be_told_says_what_would(runs, said):
    with pytest.raises(BalanceError, match=said):
        balance(36, runs)


def test_a_wheel_that_does_not_shake_needs_nothing():
    assert balance(36, [Run(0, 0, 0.0)]).add == ()


def test_one_vane_is_enough_where_the_other_would_hold_hardly_any():
    found = balance(36, shaken(at(9, 3.01), 100, [(0, 0), (5 * G, 9)]))
    assert [vane for vane, _ in found.add] == [21] and json.dumps(found.add)


def runs(**more):
    three = [
        {"mass": {"value": 5, "unit": "g"}, "vane": vane, "amplitude": a} for vane, a in ((0, 4.1), (12, 2), (24, 4.4))
    ]
    return {"format": "warm-draft/balance", "version": 1, "vanes": 36, "radius": {"value": 80, "unit": "mm"},
            "runs": [{"mass": {"value": 0, "unit": "g"}, "vane": None, "amplitude": 3.2}, *three]} | more  # fmt: skip


def test_the_verb_says_what_to_do_in_order_cleaning_first(tmp_path, capsys):
    file = tmp_path / "runs.json"
    file.write_text(json.dumps(runs()))
    assert main(["balance", str(file)]) == 0
    answer = json.loads(capsys.readouterr().out)
    assert {"unbalance", "add", "left_share", "sure"} <= answer.keys()
    assert len(answer["add"]) <= 2 and all(row["vane"] == int(row["vane"]) for row in answer["add"])
    assert answer["cleaning_first"] and answer["text"][0].startswith("Clean the wheel first")
    unbalance = answer["unbalance"]["mass"]["value"] * 0.08
    assert answer["force"]["value"] == approx(turning_force_n(unbalance, 1725))
    heavy = json.loads(json.dumps(runs()).replace('"unit": "g"', '"unit": "oz"'))
    assert balance_answer(heavy, words_for()).text[0].endswith("not balanced.")


def test_a_wheel_within_its_grade_gets_nothing():
    answer = balance_answer(runs(grade=4000), words_for())
    assert answer.text[0].startswith("Within G4000") and len(answer.text) == 1


@pytest.mark.parametrize(
    ("change", "at_path", "said"),
    [
        ({"vanes": 2}, "$.vanes", "3"),
        ({"runs": []}, "$.runs", "at least one"),
        ({"runs": [{"amplitude": 1}, {"amplitude": 1, "vane": 0}]}, "$.runs[1].mass", "missing"),
        (
            {"runs": [{"amplitude": 1}, {"amplitude": 1, "mass": {"value": 5, "unit": "g"}}]},
            "$.runs[1].vane",
            "missing",
        ),
        ({"runs": [{"amplitude": 1, "vane": 40}]}, "$.runs[0].vane", "count from 0"),
        ({"runs": [{"amplitude": 1, "mass": {"value": 5, "unit": "g"}, "vane": 1}]}, "$.runs[0].mass", "without"),
        ({"runs": [{"amplitude": 1}]}, "$.runs", "three"),
        ({"radius": {"value": 80, "unit": "furlong"}}, "$.radius.unit", "mm"),
    ],
)
def test_a_bad_file_is_told_by_its_place(change, at_path, said):
    with pytest.raises(DocumentError) as raised:
        balance_answer(runs(**change), words_for())
    assert raised.value.path == at_path and said in raised.value.message
