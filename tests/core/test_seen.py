"""One look that is nearly decisive is believed; many that find nothing are believed too. Common practice, no source."""

from dataclasses import replace

import pytest

from warmdraft.checks import checks
from warmdraft.diagnosis import Case, FindingFact, ReadingFact, diagnose
from warmdraft.jobfile import read_job
from warmdraft.machine import profile
from warmdraft.teardown import layout
from warmdraft.work import state_of

FULL_SIZE = profile("full-size-electric")
NOT_DRAWN = replace(FULL_SIZE, airway=replace(FULL_SIZE.airway, unknown=("run", "transition")))
LONG = frozenset({"long_drying"})


def faults(machine, *found, complaints=LONG, readings=()):
    case = Case(machine, complaints=complaints, findings=tuple(FindingFact(*one) for one in found), readings=readings)
    return {row.fault: row.probability for row in diagnose(case).faults}


@pytest.mark.parametrize("machine", [FULL_SIZE, NOT_DRAWN], ids=["drawn", "not drawn"])
@pytest.mark.parametrize(
    ("check", "result", "fault"),
    [
        ("wheel_lamp", "cracked", "blower_wheel_damaged"),
        ("inlet_louvres", "covered", "inlet_blocked"),
        ("collar_wiggle", "adrift", "exhaust_pipe_parted"),
        ("run_count", "over", "run_overlong"),
        ("room_door_open", "stronger", "room_starved"),
        ("drum_spin", "no_drag", "belt_broken"),
        ("lint_duct_lamp", "object", "object_in_duct"),
        ("hood_look", "nest", "nest_in_vent"),
        ("rollers_by_hand", "stuck", "roller_seized"),
    ],
)
def test_a_decisive_look_alone_is_believed(machine, check, result, fault):
    assert faults(machine, (check, result))[fault] >= 0.7


@pytest.mark.parametrize(
    ("seen", "metered", "fault"),
    [
        ([("igniter_glow", "dark")], ("meter_igniter", "failed"), "igniter_failed"),
        ([("igniter_glow", "glows")], ("meter_flame_sensor", "failed"), "flame_sensor_stuck"),
        ([("flame_look", "drops_out")], ("meter_valve_coils", "failed"), "valve_coils_failing"),
    ],
)
def test_a_gas_machine_without_heat_is_told_by_its_igniter_and_the_meter_and_an_electric_one_has_none(
    seen, metered, fault
):
    cold = frozenset({"no_heat"})
    before, after = (faults(profile("full-size-gas"), *found, complaints=cold) for found in (seen, [*seen, metered]))
    assert before[fault] > 0.05 and after[fault] > max(0.7, before[fault])
    assert faults(FULL_SIZE, complaints=cold)[fault] < 1e-4


#: Everything that can be looked at before the machine is opened, and what it looks like where nothing is wrong.
GOOD = {
    name: check.results[0]
    for name, check in checks().items()
    if check.access in ("outside", "behind") and check.results and not check.meters and not check.logs
    and check.energy != "gas" and (not check.complaints or "long_drying" in check.complaints)
}  # fmt: skip
GOOD |= {"hood_flap_held": "same", "room_door_open": "same", "screen_out": "same",
         "pulled_out": "same", "vent_off": "little_change", "vent_off_at_wall": "little_change",
         "restarts_cooled": "never_stopped"}  # fmt: skip


@pytest.mark.parametrize("machine", [FULL_SIZE, NOT_DRAWN], ids=["drawn", "not drawn"])
def test_many_good_looks_leave_nothing_wrong_or_its_use(machine):
    assert len(GOOD) >= 27
    found = faults(machine, *GOOD.items())
    assert found["none"] + found["load_too_wet"] + found["wrong_setting"] >= 0.6


@pytest.mark.parametrize("degrees", [58.0, 60.0, 64.0])
def test_an_exhaust_within_its_own_cycle_is_no_weak_heat(degrees):
    flow = ReadingFact("outlet_flow", 0.079)
    found = faults(FULL_SIZE, readings=(flow, ReadingFact("exhaust_temperature", degrees, heat_on=True)))
    assert found["heat_source_weak"] + found["cycling_thermostat_off"] <= 0.2


@pytest.mark.parametrize("kind", ["full-size-gas", "full-size-electric-50hz", "compact-electric-50hz"])
def test_a_leg_is_lost_only_where_there_are_two(kind):
    found = faults(profile(kind), ("what_runs", "drum_no_heat"), complaints=frozenset({"no_heat"}))
    assert found["supply_leg_lost"] <= 0.2
    two = faults(FULL_SIZE, ("what_runs", "drum_no_heat"), complaints=frozenset({"no_heat"}))
    assert two["supply_leg_lost"] > 0.2


def test_the_good_element_of_a_compact_is_good():
    # 2200 W at 230 V: 24.0 ohm
    test = {"part": "heating_element", "instrument": "digital", "isolated": True, "part_hot": False,
            "reading": {"value": 24.0, "unit": "ohm"}}  # fmt: skip
    state = state_of(read_job({
        "format": "warm-draft/job", "version": 1, "complaints": ["no_heat"],
        "machine": {"profile": "compact-electric-50hz"}, "meter": [test],
    }).facts)  # fmt: skip
    assert state.meter[0].verdict == "good"
    weak = next(row.probability for row in state.verdict.faults if row.fault == "heat_source_weak")
    assert weak <= 0.2


#: What is found once it is open, and where one goes on from there.
INSIDE = [
    ("wheel_lamp", "clean"), ("wheel_lamp", "light_lint"), ("wheel_by_hand", "firm"), ("duct_seam_lamp", "tight"),
    ("rear_felt_lamp", "whole"), ("terminals_look", "clean"), ("duct_seam_lamp", "lint_streak"),
]  # fmt: skip


@pytest.mark.parametrize("found", INSIDE)
@pytest.mark.parametrize("complaint", ["long_drying", "overheats", "rumbles", "damp_or_linty_room"])
def test_nothing_that_needs_it_running_is_proposed_while_it_stands_open(found, complaint):
    case = Case(NOT_DRAWN, complaints=frozenset({complaint}), findings=(FindingFact(*found),))
    first = diagnose(case).next_checks[0]
    check = checks()[first.check]
    assert check.stopped or check.access not in ("outside", "behind")
    closed = diagnose(replace(case, stands_open=False)).next_checks
    outlet = next(row for row in closed if row.check == "outlet_static_pressure")
    assert outlet.minutes == 3.0 + 5.0 + 4.0  # closed again: pulled out, a tap drilled, three minutes


PANEL = layout("top_screen_rear_duct").operation("rear_panel")
REAR_PANEL = PANEL.open_minutes + PANEL.close_minutes


@pytest.mark.parametrize(
    ("done", "minutes"),
    [
        ([], 5.0),
        (["open.pull_out"], 0.0),  # pulled out, it runs as before
        (["open.pull_out", "open.rear_panel"], REAR_PANEL),  # closing it, and opening it again
        (["open.pull_out", "open.rear_panel", "close.rear_panel"], 0.0),
    ],
)
def test_what_is_off_and_back_says_whether_it_can_run(done, minutes):
    marks = [{"step": step, "state": "done", "at": f"2026-11-26T08:{i:02}:00+00:00"} for i, step in enumerate(done)]
    state = state_of(read_job({
        "format": "warm-draft/job", "version": 1, "complaints": ["long_drying"],
        "machine": {"profile": "full-size-electric", "layout": "top_screen_rear_duct"}, "marks": marks,
    }).facts)  # fmt: skip
    outlet = next(row for row in state.verdict.next_checks if row.check == "outlet_static_pressure")
    assert outlet.minutes == 3.0 + 4.0 + minutes  # the reading, a tap for it, and getting there
