"""Looks, felt and swapped; pairs of faults; what hangs under a cause; what comes next."""

from dataclasses import replace
from statistics import median

import numpy as np
import pytest
from pytest import approx

from strategies import exact_readings
from warmdraft.airway import READING_KINDS, Conditions
from warmdraft.checks import checks, legs, rows_of
from warmdraft.diagnosis import Case, FindingFact, ReadingFact, diagnose
from warmdraft.diagnosis.hypotheses import hypotheses_of, look_row
from warmdraft.machine import profile
from warmdraft.teardown import layout, layout_names, plan_way
from warmdraft.work import JobFacts, as_it_stands

MACHINE = profile("full-size-electric")
COLLAR = ("outlet_flow", "outlet_static_pressure", "blower_inlet_suction")
HYPOTHESES = hypotheses_of(MACHINE, Conditions())


def probability(check, result, fault, place=-1):
    """P(result) at a place of the fault's severity grid, mildest first."""
    here = next(span for row, span in HYPOTHESES.spans if row.name == fault)
    of_look = HYPOTHESES.look(check, rows_of(checks()[check]))
    return of_look[here, checks()[check].results.index(result)][place]


def test_every_look_is_a_distribution_under_every_hypothesis():
    for name in look_row():
        table = HYPOTHESES.look(name, rows_of(checks()[name]))
        assert table.sum(axis=1) == approx(np.ones(len(HYPOTHESES)))
        assert (table > 0).all() and (table < 1).all()


# facts of the trade, common practice, no source: what shows, and where it does not
@pytest.mark.parametrize(
    ("check", "result", "shown_by", "not_by"),
    [
        ("hood_air", "weak", "vent_run_packed", "heat_source_weak"),
        ("hood_flap_by_finger", "stuck", "hood_blocked", "vent_run_packed"),
        ("vent_off", "recovers", "hood_blocked", "lint_duct_packed"),
        ("vent_off_at_wall", "recovers", "vent_run_packed", "transition_crushed"),
        ("screen_out", "stronger", "lint_screen_blinded", "vent_run_packed"),
        ("room_door_open", "stronger", "room_starved", "vent_run_packed"),
        ("pulled_out", "stronger", "transition_crushed", "hood_blocked"),
        ("wheel_by_hand", "turns_on_shaft", "blower_wheel_slipping", "blower_wheel_fouled"),
        ("pipe_from_collar", "vanes_packed", "blower_wheel_fouled", "exhaust_pipe_blocked"),
        ("air_after_hour", "weaker", "motor_fading", "vent_run_packed"),
        ("behind_look", "apart", "transition_detached", "transition_crushed"),
        ("drum_spin", "no_drag", "belt_broken", "lint_screen_blinded"),
        ("load_wetness", "dripping", "load_too_wet", "vent_run_packed"),
        ("meter_heating_element", "failed", "heat_source_weak", "high_limit_weak"),
        ("meter_thermal_fuse", "failed", "vent_run_packed", "none"),
    ],
)
def test_a_look_tells_the_fault_it_is_for(check, result, shown_by, not_by):
    assert probability(check, result, shown_by) > 2.5 * probability(check, result, not_by)


@pytest.mark.parametrize("check", ["vent_off", "screen_out", "hood_air", "behind_look", "wheel_lamp"])
def test_a_mild_fault_shows_less(check):
    fault = {"vent_off": "vent_run_packed", "screen_out": "lint_screen_blinded", "hood_air": "hood_blocked",
             "behind_look": "transition_crushed", "wheel_lamp": "blower_wheel_fouled"}[check]  # fmt: skip
    clean = {"vent_off": "little_change", "screen_out": "same", "hood_air": "strong", "behind_look": "round",
             "wheel_lamp": "clean"}[check]  # fmt: skip
    assert probability(check, clean, fault, 0) > probability(check, clean, fault, -1)


def test_a_bag_reads_a_little_low_and_is_taken_for_it():
    flow = exact_readings(())["hood_flow"]
    by_bag = Case(MACHINE, readings=(ReadingFact("hood_flow", 0.95 * flow, instrument="bag_and_watch"),))
    by_vane = Case(MACHINE, readings=(ReadingFact("hood_flow", flow, instrument="vane_anemometer"),))
    assert diagnose(by_bag).implied_readings["hood_flow"] == approx(diagnose(by_vane).implied_readings["hood_flow"],
                                                                    rel=0.01)  # fmt: skip


def case_of(supposed, kinds=COLLAR, findings=()):
    exact = exact_readings(supposed)
    return Case(MACHINE, readings=tuple(ReadingFact(k, exact[k]) for k in kinds), findings=tuple(findings))


TAPS = (*COLLAR, "screen_duct_suction", "wall_static_pressure", "hood_static_pressure", "hood_flow")


def test_two_faults_at_once_are_named_where_one_does_not_explain():
    verdict = diagnose(case_of((("lint_screen_blinded", 25.0), ("hood_blocked", 40.0)), TAPS))
    assert verdict.pair_share > 0.8
    assert set(verdict.pairs[0][0]) == {"lint_screen_blinded", "hood_blocked"}
    assert sum(p for _, p in verdict.pairs) == approx(1) and verdict.misfits == ()


@pytest.mark.parametrize("fault", ["lint_duct_packed", "vent_run_packed", "blower_wheel_slipping"])
def test_one_fault_is_not_taken_for_two(fault):
    severity = 0.6 if fault == "blower_wheel_slipping" else 15.0
    assert diagnose(case_of(((fault, severity),), TAPS)).pair_share < 0.25


def test_a_reading_that_cannot_be_is_a_slip_not_a_second_fault():
    case = case_of((("vent_run_packed", 10.0),), TAPS)
    readings = tuple(replace(r, value=r.value * 10) if r.kind == "hood_flow" else r for r in case.readings)
    assert [m.reading for m in diagnose(replace(case, readings=readings)).misfits] == ["hood_flow"]


def test_the_fuse_hangs_under_what_made_the_heat():
    fuse = FindingFact("meter_thermal_fuse", "failed")
    found = diagnose(case_of((("transition_crushed", 80.0),), TAPS, [fuse])).consequences
    assert {(row.part, row.of) for row in found} >= {("thermal_fuse_open", "transition_crushed"),
                                                     ("high_limit_cycling", "transition_crushed")}  # fmt: skip
    steady = FindingFact("air_after_hour", "same")  # nor is it the motor that fades once it is hot
    alone = diagnose(case_of((), tuple(READING_KINDS), [fuse, steady])).consequences
    assert [(row.part, row.of) for row in alone] == [("thermal_fuse_open", None)]


def checks_of(verdict):
    return [row.check for row in verdict.next_checks]


def test_what_is_asked_follows_what_is_carried_allowed_and_done():
    everything = checks_of(diagnose(Case(MACHINE)))
    assert {"outlet_flow", "heater_current", "power_watch"} <= set(everything) and "flame_look" not in everything
    hands = Case(MACHINE, carries=frozenset(), qualified=frozenset())
    assert all(checks()[name].observes is None for name in checks_of(diagnose(hands)))
    assert "meter_receptacle" not in checks_of(diagnose(hands))
    gas = checks_of(diagnose(Case(profile("full-size-gas"))))
    assert "flame_look" in gas and "power_watch" not in gas
    done = Case(MACHINE, findings=(FindingFact("hood_air", "not_possible"),))
    assert "hood_air" not in checks_of(diagnose(done))


def test_a_kind_read_with_one_instrument_may_be_read_with_a_better_one():
    case = Case(MACHINE, readings=(ReadingFact("hood_flow", 0.05, instrument="bag_and_watch"),))
    left = checks_of(diagnose(case))
    assert "hood_bag" not in left and "hood_flow" in left


def test_a_machine_that_does_not_start_is_not_asked_to_run():
    dead = Case(MACHINE, complaints=frozenset({"no_start"}))
    asked = set(checks_of(diagnose(dead)))
    assert {"what_runs", "meter_thermal_fuse", "hood_look"} <= asked
    assert not {"outlet_flow", "hood_air", "vent_off", "heater_rise"} & asked
    tried = replace(dead, findings=(FindingFact("what_runs", "all"),))
    assert "outlet_flow" in checks_of(diagnose(tried))


def test_a_motor_that_fades_may_look_healthy_on_arrival():
    cold = case_of((), COLLAR)
    log = replace(cold, findings=(FindingFact("log_flow", "fade"),))
    before, after = ({f.fault: f.probability for f in diagnose(c).faults} for c in (cold, log))
    assert after["motor_fading"] > 0.2 and after["motor_fading"] > 5 * before["motor_fading"]


def test_getting_there_counts_once():
    """Pulled out, drilled, walked to and opened: paid with the first check that asks for it."""
    closed = minutes_of(Case(MACHINE))
    assert closed["outlet_flow"] == 5 + 3 and closed["outlet_static_pressure"] == 5 + 4 + 3
    assert closed["hood_look"] == 3 + 2 and closed["hood_flow"] == 3 + 4
    behind = minutes_of(Case(MACHINE, readings=(ReadingFact("outlet_static_pressure", 94.0),)))
    assert behind["outlet_flow"] == 3 and behind["still_pressure"] == 1  # out already, and by the same tap
    assert behind["wall_static_pressure"] == closed["wall_static_pressure"] - 5  # a tap of its own
    outdoors = minutes_of(Case(MACHINE, findings=(FindingFact("hood_look", "clear"),)))
    assert outdoors["hood_flow"] == 4 and outdoors["outlet_flow"] == closed["outlet_flow"]
    opened = minutes_of(Case(MACHINE, findings=(FindingFact("duct_seam_lamp", "tight"),)))
    assert opened["wheel_lamp"] < closed["wheel_lamp"]
    assert minutes_of(Case(MACHINE, findings=(FindingFact("wheel_by_hand", "firm"),)))["wheel_lamp"] == 3


@pytest.mark.parametrize("name", layout_names())
def test_opening_takes_what_the_plan_of_this_machine_says(name):
    lay = layout(name)
    facts = JobFacts(MACHINE, layout=lay)
    told = minutes_of(as_it_stands(facts, Case(MACHINE)))
    for check, part in (("wheel_lamp", "blower_wheel"), ("duct_seam_lamp", "lint_duct_seal"),
                        ("terminals_look", "heater_terminals")):  # fmt: skip
        plan = plan_way(lay, (part,))
        assert told[check] == approx(3 + plan.open_minutes + plan.close_minutes, abs=0.5 + 0.5 * plan.driver_changes)
    # and once it is open to the wheel, what lies on the way is nearer
    seen = Case(MACHINE, findings=(FindingFact("wheel_by_hand", "firm"),))
    assert minutes_of(as_it_stands(facts, seen))["wheel_lamp"] == 3


def test_where_nobody_knows_the_way_in_it_takes_what_our_layouts_take():
    for leg in legs().values():
        if leg.reaches is None:
            continue
        ours = [layout(name, frozenset({("energy", "gas" if leg.reaches == "burner" else "electric")}))
                for name in layout_names()]  # fmt: skip
        taken = [plan_way(lay, (leg.reaches,)) for lay in ours if leg.reaches in lay.parts]
        assert leg.minutes == approx(median([plan.open_minutes + plan.close_minutes for plan in taken]), abs=1.0)


def test_rounds_are_what_is_worth_doing_where_one_stands():
    found = diagnose(Case(MACHINE)).next_checks
    worth = [row for row in found if row.worth_it]
    assert worth[0].round == 1 and {row.round for row in worth if row.place == worth[0].place} == {1}
    assert len({row.place for row in worth}) == len({row.round for row in worth})
    assert all(row.round > max(row.round for row in worth) for row in found if not row.worth_it)


def minutes_of(case):
    return {row.check: row.minutes for row in diagnose(case).next_checks}


def test_a_run_that_was_always_too_long_is_not_taken_for_a_packed_one():
    airway = MACHINE.airway
    drops = list(airway.drops_pa)
    drops[6] *= 2.4
    long = replace(MACHINE, airway=replace(airway, drops_pa=tuple(drops), run_within_allowance=False))
    exact = exact_readings((), long)
    built = Case(long, readings=tuple(ReadingFact(k, exact[k]) for k in TAPS))
    assert diagnose(built).faults[0].fault == "run_overlong"
    packed = exact_readings((("vent_run_packed", 8.0),), long)
    case = Case(long, readings=tuple(ReadingFact(k, packed[k]) for k in TAPS))
    assert diagnose(case).faults[0].fault == "vent_run_packed"
