"""Meter rules. Values: common practice, no source, unless a line says otherwise."""

import math

import pytest
from pytest import approx

from warmdraft.meter import MeterTest, judge, parts, supplies, thermistor_ohm
from warmdraft.tables import texts
from warmdraft.words import words_for

OPEN = math.inf
TWO = "two-leg-240"


@pytest.mark.parametrize(
    ("test", "verdict", "means"),
    [
        ({"part": "thermal_fuse", "ohm": 0.4}, "good", "closed"),
        ({"part": "thermal_fuse", "ohm": 2.3, "lead_ohm": 0.5}, "good", "closed"),  # leads are subtracted
        ({"part": "thermal_fuse", "ohm": OPEN}, "failed", "open_one_shot"),  # infinity never means it works
        ({"part": "thermal_fuse", "ohm": OPEN, "instrument": "analogue"}, "failed", "open_one_shot"),
        ({"part": "thermal_fuse", "ohm": 0.0, "instrument": "analogue"}, "good", "closed"),
        ({"part": "thermal_fuse", "ohm": OPEN, "part_hot": True}, "failed", "open_one_shot"),  # it does not reset
        ({"part": "thermal_cutoff", "ohm": 35.0}, "suspect", "burnt_contact"),
        # I²R: 1.8 ohm at 22.5 A are 911 W; the motor's circuit carries a fifth of that current
        ({"part": "thermal_cutoff", "ohm": 1.8}, "suspect", "heats_itself"),
        ({"part": "high_limit", "ohm": 0.8, "lead_ohm": 0.4}, "good", "closed"),
        ({"part": "thermal_fuse", "ohm": 1.8}, "good", "closed"),
        ({"part": "door_switch", "ohm": 5000.0}, "failed", "high_resistance"),
        ({"part": "high_limit", "ohm": OPEN, "part_hot": True}, "working_as_meant", "open_while_hot"),
        ({"part": "high_limit", "ohm": OPEN}, "failed", "open"),
        ({"part": "belt_switch", "ohm": 0.3, "isolated": False}, "repeat", "not_isolated"),
        ({"part": "belt_switch", "volt": 120.0}, "repeat", "wrong_reading"),
        ({"part": "heating_element", "ohm": 10.9}, "good", "element_right"),
        ({"part": "heating_element", "ohm": 12.8}, "suspect", "element_off"),
        ({"part": "heating_element", "ohm": 21.0}, "failed", "element_failed"),
        ({"part": "heating_element", "ohm": OPEN}, "failed", "open"),
        ({"part": "heating_element", "ohm": 0.1}, "failed", "shorted"),
        ({"part": "element_to_cabinet", "ohm": OPEN}, "good", "insulated"),
        ({"part": "element_to_cabinet", "ohm": 20e6}, "good", "insulated"),
        ({"part": "element_to_cabinet", "ohm": 0.5e6}, "suspect", "damp"),
        ({"part": "element_to_cabinet", "ohm": 2e5}, "failed", "shock"),
        ({"part": "thermistor", "ohm": 5300.0, "temperature_c": 40.0}, "good", "as_table"),
        ({"part": "thermistor", "ohm": 10_000.0, "temperature_c": 60.0}, "failed", "far_off_table"),
        ({"part": "thermistor", "ohm": 5300.0}, "repeat", "wrong_reading"),
        ({"part": "motor_winding", "ohm": 2.4}, "good", "winding_right"),
        ({"part": "motor_winding", "ohm": OPEN, "part_hot": True}, "working_as_meant", "overload_open"),
        ({"part": "igniter", "ohm": 90.0}, "good", "as_its_kind"),
        ({"part": "igniter", "ohm": OPEN}, "failed", "open"),
        ({"part": "igniter", "ohm": 9000.0}, "failed", "high_resistance"),
        ({"part": "igniter", "ohm": 0.1}, "failed", "shorted"),
        ({"part": "valve_coils", "ohm": 1300.0}, "good", "as_its_kind"),
        ({"part": "valve_coils", "ohm": 150.0}, "suspect", "not_as_its_kind"),
        ({"part": "flame_sensor", "ohm": 0.1}, "good", "closed"),
        ({"part": "flame_sensor", "ohm": OPEN, "part_hot": True}, "working_as_meant", "open_while_hot"),
        ({"part": "receptacle", "volt": 236.0}, "good", "supply_right"),
        ({"part": "receptacle", "volt": 0.4}, "failed", "leg_lost"),
        ({"part": "receptacle", "volt": 120.0}, "failed", "half_voltage"),
        ({"part": "receptacle", "volt": 205.0}, "suspect", "supply_low"),
        ({"part": "receptacle", "volt": 268.0}, "suspect", "supply_high"),
        # fed back through the element a dead leg shows 120 V to neutral: leg to leg decides
        ({"part": "receptacle", "volt": 120.0, "between": "leg_neutral"}, "repeat", "perhaps_back_fed"),
        ({"part": "receptacle", "volt": 0.0, "between": "leg_neutral"}, "failed", "leg_lost"),
        ({"part": "receptacle", "ohm": 0.2}, "repeat", "wrong_reading"),
    ],
)  # fmt: skip
def test_what_a_reading_means(test, verdict, means):
    found = judge(MeterTest(**test), TWO)
    assert (found.verdict, found.means) == (verdict, means)


@pytest.mark.parametrize(("supply", "ohm"), [("two-leg-240", 10.67), ("single-phase-230", 9.8)])
def test_an_element_is_judged_by_its_power_at_its_supply(supply, ohm):
    found = judge(MeterTest("heating_element", ohm=ohm, rated_power_w=5400.0), supply)
    assert found.verdict == "good" and found.expected == approx(supplies()[supply].leg_leg_v ** 2 / 5400)


@pytest.mark.parametrize(("supply", "verdict"), [("two-leg-240", "suspect"), ("single-phase-230", "good")])
def test_a_winding_is_judged_by_its_supply(supply, verdict):
    # 230 V motors of this size show 20 to 40 ohm; common practice, no source
    assert judge(MeterTest("motor_winding", ohm=32.0), supply).verdict == verdict


def test_one_phase_has_no_leg_that_could_be_fed_back():
    assert judge(MeterTest("receptacle", volt=228.0, between="leg_neutral"), "single-phase-230").verdict == "good"


# Source: 10 kΩ, B 3977 K thermistor table, from memory
@pytest.mark.parametrize(("celsius", "kohm"), [(0, 33.9), (25, 10.0), (40, 5.28), (60, 2.46)])
def test_a_thermistor_follows_its_table(celsius, kohm):
    assert thermistor_ohm(celsius) / 1000 == approx(kohm, rel=0.01)


@pytest.mark.parametrize("part", parts())
def test_every_part_says_where_how_and_what_good_looks_like(part):
    row = texts("meter")[part]
    assert row["words"] and row["where"] and row["isolate"] and row["range"] and all(row["good"].values())


@pytest.mark.parametrize("part", parts())
@pytest.mark.parametrize("reading", [0.0, 0.5, 30.0, 1e4, OPEN])
@pytest.mark.parametrize("hot", [True, False])
def test_every_verdict_has_words(part, reading, hot):
    tests = [MeterTest(part, ohm=reading, part_hot=hot, temperature_c=25.0)]
    tests += [MeterTest(part, volt=min(reading, 400.0), between=b) for b in ("leg_leg", "leg_neutral")]
    for test in tests:
        for supply in supplies():
            found = judge(test, supply)
            assert words_for().meter_means(found).endswith(".")
            assert words_for().meter_then(found).endswith(".")
            if parts()[part].kind == "continuity" and test.ohm == OPEN:
                assert found.verdict != "good"
