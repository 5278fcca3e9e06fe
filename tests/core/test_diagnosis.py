"""What the verdict promises, in the trade's words."""

import itertools
import math
import random
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pytest import approx

from strategies import FULL_SIZE, exact_readings, facts
from warmdraft.air import AirState
from warmdraft.checks import checks
from warmdraft.diagnosis import Case, FindingFact, ReadingFact, Verdict, diagnose, gain_of
from warmdraft.diagnosis.attribution import chi_square_bound
from warmdraft.diagnosis.posterior import mixture_quantiles
from warmdraft.faults import Told, catalogue, log_priors
from warmdraft.machine import profile

COLLAR = ("outlet_flow", "outlet_static_pressure", "blower_inlet_suction")


def case_of(fault: str, severity: float | None, kinds=COLLAR, **more) -> Case:
    exact = exact_readings(((fault, severity),))
    return Case(FULL_SIZE, readings=tuple(ReadingFact(kind, exact[kind]) for kind in kinds), **more)


def zones(verdict: Verdict) -> dict[str, float]:
    return dict(verdict.zones)


def faults(verdict: Verdict) -> dict[str, float]:
    return {row.fault: row.probability for row in verdict.faults}


@settings(max_examples=40, deadline=None)
@given(facts())
def test_probabilities_sum_to_one_and_every_list_is_complete(found):
    readings, findings = found
    verdict = diagnose(Case(FULL_SIZE, readings=readings, findings=findings))
    for rows in (zones(verdict), dict(verdict.elements), faults(verdict)):
        assert sum(rows.values()) == approx(1, abs=1e-9)
        assert list(rows.values()) == sorted(rows.values(), reverse=True)
    assert set(faults(verdict)) == set(catalogue())
    for row in verdict.faults:
        if row.severity:
            low, middle, high = row.severity
            assert low <= middle <= high
    done = {r.kind for r in readings} | {f.check for f in findings} - {m.reading for m in verdict.misfits}
    assert not done & {row.check for row in verdict.next_checks} - {m.reading for m in verdict.misfits}


@settings(max_examples=25, deadline=None)
@given(facts(), st.integers(0, 2**32))
def test_the_order_of_readings_does_not_matter(found, seed):
    readings, findings = found
    shuffled = list(readings)
    random.Random(seed).shuffle(shuffled)
    one = diagnose(Case(FULL_SIZE, readings=readings, findings=findings))
    other = diagnose(Case(FULL_SIZE, readings=tuple(shuffled), findings=findings))
    assert faults(one) == approx(faults(other), abs=1e-12)


def test_without_facts_the_verdict_is_the_prior():
    expected = dict(zip(catalogue(), np.exp(log_priors(Told(energy="electric"))), strict=True))
    assert faults(diagnose(Case(FULL_SIZE))) == approx(expected, abs=1e-9)


def test_high_pressure_and_little_flow_are_held_up_after_the_machine_and_look_alike_from_the_collar():
    verdict = diagnose(case_of("hood_blocked", 20.0))
    assert zones(verdict)["transition"] + zones(verdict)["run"] + zones(verdict)["hood"] > 0.99
    assert set(verdict.inseparable[0]) == {"hood_blocked", "vent_run_packed", "transition_crushed"}


@pytest.mark.parametrize(
    ("fault", "severity", "kinds", "zone"),
    [
        ("lint_screen_blinded", 12.0, (*COLLAR, "screen_duct_suction"), "upstream"),
        ("blower_wheel_slipping", 0.6, (*COLLAR, "blower_speed"), "blower"),
        ("transition_crushed", 60.0, (*COLLAR, "wall_static_pressure"), "transition"),
        ("hood_blocked", 30.0, (*COLLAR, "wall_static_pressure", "hood_static_pressure"), "hood"),
        ("transition_detached", 2.0, (*COLLAR, "hood_flow"), "transition"),
        ("heat_source_weak", 0.5, (*COLLAR, "heater_current"), "heat"),
    ],
)
def test_with_the_right_tap_the_place_is_certain(fault, severity, kinds, zone):
    assert zones(diagnose(case_of(fault, severity, kinds)))[zone] > 0.9


def test_a_tap_at_the_wall_separates_what_the_collar_cannot():
    # looked alike: wall pressure falls only behind a crushed transition
    verdict = diagnose(case_of("transition_crushed", 60.0, (*COLLAR, "wall_static_pressure")))
    assert faults(verdict)["transition_crushed"] > 0.95
    assert not any("transition_crushed" in group for group in verdict.inseparable)


def test_the_next_check_splits_the_places_left_and_says_how_sure_one_would_be():
    first = diagnose(case_of("hood_blocked", 20.0)).next_checks[0]
    assert first.worth_it
    assert first.sure_after > first.sure_now + 0.1
    assert {"transition", "run"} <= {*first.splits, "run"}
    rates = [row.bits_per_minute for row in diagnose(case_of("hood_blocked", 20.0)).next_checks]
    assert all(later <= earlier * 1.06 for earlier, later in itertools.pairwise(rates))


def test_nothing_is_worth_its_minutes_once_all_is_known():
    seen = (FindingFact("hood_look", "blocked"),)  # by lint, not by a nest: no reading tells
    verdict = diagnose(case_of("hood_blocked", 20.0, tuple(exact_readings(())), findings=seen))
    assert faults(verdict)["hood_blocked"] > 0.99
    assert not any(row.worth_it for row in verdict.next_checks)


def test_expected_information_is_what_a_simulation_finds():
    # mutual information by drawing outcomes of a look from its own table
    case = case_of("hood_blocked", 20.0)
    row = next(r for r in diagnose(case).next_checks if r.check == "behind_look")
    now = faults(diagnose(case))
    gained, sure, sure_of_cause = 0.0, 0.0, 0.0
    total = 0.0
    for result in checks()["behind_look"].results:
        after = diagnose(replace(case, findings=(FindingFact("behind_look", result),)))
        # P(result) by the identity p(r) = p(f) p(r|f) / p(f|r), at a fault whose table is the plain `rest`
        rest = dict(zip(checks()["behind_look"].results, checks()["behind_look"].rows["rest"], strict=True))
        chance = now["vent_run_packed"] * rest[result] / faults(after)["vent_run_packed"]
        total += chance
        gained += chance * sum(-p * math.log2(p) for p in faults(after).values() if p > 0)
        sure += chance * after.zones[0][1]
        sure_of_cause += chance * max(faults(after).values())
    entropy = sum(-p * math.log2(p) for p in now.values() if p > 0)
    assert total == approx(1, abs=1e-6)
    assert row.bits == approx(entropy - gained, abs=1e-3)
    assert row.sure_after == approx(sure, abs=1e-3)
    assert row.cause_now == approx(max(now.values()), abs=1e-4)
    assert row.cause_after == approx(sure_of_cause, abs=1e-3)


def test_where_no_place_gets_surer_the_gain_is_told_of_the_cause():
    # the readings say the wheel; what is wrong with it, its speed tells, and nothing of the air
    gains = {row.check: gain_of(row) for row in diagnose(case_of("blower_wheel_slipping", 0.6)).next_checks}
    assert gains["pipe_from_collar"].of == "place"
    assert gains["blower_speed"].of == "cause" and gains["blower_speed"].after > gains["blower_speed"].now + 0.2
    assert gains["screen_light"] is None


def test_high_outlet_pressure_speaks_for_a_blocked_vent_and_low_pressure_against():
    high = diagnose(case_of("vent_run_packed", 8.0)).for_and_against
    assert high[0].evidence == "outlet_static_pressure"
    assert high[0].nats > 3
    clean = FindingFact("behind_look", "round")
    rows = diagnose(case_of("transition_crushed", 60.0, (*COLLAR, "wall_static_pressure"), findings=(clean,)))
    against = next(row for row in rows.for_and_against if row.evidence == "behind_look")
    assert against.nats < 0


def test_no_current_is_the_supply_or_what_stands_in_the_heaters_circuit_until_it_is_metered():
    found = case_of("supply_leg_lost", None, (*COLLAR, "heater_current"))
    told = zones(diagnose(found))
    assert told["electrical"] + told["heat"] > 0.95 and min(told["electrical"], told["heat"]) > 0.2
    for check, zone in (("meter_receptacle", "electrical"), ("meter_cycling_thermostat", "heat")):
        metered = replace(found, findings=(FindingFact(check, "failed"),))
        assert zones(diagnose(metered))[zone] > 0.9


def test_two_pieces_of_evidence_add_up_to_the_whole_shift():
    # for two pieces the mean of first and last is the Shapley value, so they sum to the change of the log odds
    case = case_of("transition_crushed", 60.0, ("outlet_static_pressure",))
    case = replace(case, findings=(FindingFact("behind_look", "flat"),))
    verdict = diagnose(case)
    group = next((g for g in verdict.inseparable if verdict.faults[0].fault in g), (verdict.faults[0].fault,))

    def log_odds(of: Verdict) -> float:
        p = sum(faults(of)[name] for name in group)
        return math.log(p / (1 - p))

    moved = log_odds(verdict) - log_odds(diagnose(Case(FULL_SIZE)))
    assert sum(row.nats for row in verdict.for_and_against) == approx(moved, abs=3e-3)  # thinned


def test_a_reading_that_fits_nothing_is_named_left_out_and_asked_for_again():
    good = case_of("vent_run_packed", 6.0, (*COLLAR, "wall_static_pressure"))
    wrong = tuple(replace(r, value=420.0) if r.kind == "blower_inlet_suction" else r for r in good.readings)
    verdict = diagnose(replace(good, readings=wrong))
    assert [row.reading for row in verdict.misfits] == ["blower_inlet_suction"]
    truth = exact_readings((("vent_run_packed", 6.0),))["blower_inlet_suction"]
    assert verdict.misfits[0].expected_low < truth < verdict.misfits[0].expected_high
    assert "blower_inlet_suction" in {row.check for row in verdict.next_checks}
    without = diagnose(replace(good, readings=tuple(r for r in good.readings if r.kind != "blower_inlet_suction")))
    assert faults(verdict) == approx(faults(without), abs=1e-9)


@settings(max_examples=30, deadline=None)
@given(st.integers(0, 10_000))
def test_honest_readings_are_rarely_called_misfits(seed):
    rng = np.random.default_rng(seed)
    exact = exact_readings((("lint_duct_packed", 10.0),))
    readings = tuple(ReadingFact(k, v * (1 + 0.06 * np.clip(rng.standard_normal(), -2, 2))) for k, v in exact.items()
                     if k in COLLAR)  # fmt: skip
    assert diagnose(Case(FULL_SIZE, readings=readings)).misfits == ()


def test_repeats_with_one_instrument_add_less_than_another_instrument():
    # the better part of an instrument's error is its own: reading often does not average it out
    once = case_of("heat_source_weak", 0.7, ("heater_rise",))
    often = replace(once, readings=once.readings * 30)
    other = replace(once, readings=(*once.readings, replace(once.readings[0], instrument="thermometer")))
    sure = [faults(diagnose(case))["heat_source_weak"] for case in (once, often, other)]
    assert sure[0] < sure[1] < sure[2]


def test_hot_readings_are_judged_by_hot_expectations():
    # heat on: pressures × 0.88, rise × 1.14 (own model); the same machine either way
    cold = case_of("vent_run_packed", 8.0)
    hot = tuple(
        replace(r, value=r.value * (1 if r.kind == "outlet_flow" else 0.88), heat_on=True) for r in cold.readings
    )
    assert faults(diagnose(replace(cold, readings=hot))) == approx(faults(diagnose(cold)), abs=0.02)


def test_thin_air_is_not_taken_for_a_weak_wheel():
    low = AirState.of_room(21, 84_556, 0.5)
    exact = exact_readings(())
    ratio = low.density_kg_m3 / 1.2
    readings = (
        ReadingFact("outlet_flow", exact["outlet_flow"]),
        ReadingFact("outlet_static_pressure", exact["outlet_static_pressure"] * ratio),
        ReadingFact("blower_inlet_suction", exact["blower_inlet_suction"] * ratio),
    )
    here, unaware = diagnose(Case(FULL_SIZE, air=low, readings=readings)), diagnose(Case(FULL_SIZE, readings=readings))
    assert zones(here)["blower"] < zones(unaware)["blower"]


def test_low_voltage_explains_a_low_current():
    exact = exact_readings(())
    readings = (ReadingFact("heater_current", exact["heater_current"] * 208 / 240),)
    unaware = diagnose(Case(FULL_SIZE, readings=readings))
    aware = diagnose(Case(FULL_SIZE, readings=(*readings, ReadingFact("supply_voltage", 208.0))))
    assert zones(aware)["heat"] < 0.5 * zones(unaware)["heat"]


def test_circumstances_move_what_they_should_and_complaints_move_the_air_mildly():
    plain = faults(diagnose(Case(FULL_SIZE)))
    foil = faults(diagnose(Case(FULL_SIZE, circumstances=frozenset({"soft_foil_transition"}))))
    assert foil["transition_crushed"] > 2 * plain["transition_crushed"]
    still = faults(diagnose(Case(FULL_SIZE, complaints=frozenset({"drum_does_not_turn"}))))
    assert still["belt_broken"] > 0.2 > 0.01 > plain["belt_broken"]
    for complaint, name in (
        ("rumbles", "blower_wheel_fouled"), ("damp_or_linty_room", "transition_detached"),
        ("scrapes", "blower_wheel_damaged"), ("service_due", "none"),
    ):  # fmt: skip
        said = faults(diagnose(Case(FULL_SIZE, complaints=frozenset({complaint}))))
        assert said[name] > 1.3 * plain[name]
        if complaint != "service_due":  # nobody is convicted by a complaint
            assert max(said[name] for name, fault in catalogue().items() if fault.of_the_air) < 0.25


def test_a_machine_that_is_due_for_service_has_probably_nothing_wrong():
    assert faults(diagnose(Case(FULL_SIZE, complaints=frozenset({"service_due"}))))["none"] > 0.6


def test_the_layout_says_which_motor_turns_what():
    """A drum that turns as it should says nothing of a blower with a motor of its own."""
    one, two = (Case(FULL_SIZE, motors=motors, findings=(FindingFact("log_flow", "fade"),)) for motors in (1, 2))
    turns = FindingFact("drum_turns_late", "right")
    fading = [faults(diagnose(case))["motor_fading"] for case in (one, two)]
    then = [faults(diagnose(replace(case, findings=(*case.findings, turns))))["motor_fading"] for case in (one, two)]
    assert then[0] < 0.6 * fading[0] and then[1] == approx(fading[1], rel=1e-3)
    assert "drum_turns_late" not in {row.check for row in diagnose(two).next_checks}
    still = FindingFact("wheel_turns", "still")
    dead = [faults(diagnose(replace(case, findings=(still,))))["blower_motor_dead"] for case in (one, two)]
    assert dead[0] < 0.01 and dead[1] > 0.6


#: What is found of faults that are rare, and hard to take for anything else.
FOUND = [
    ("blower_still", ("wheel_turns", "still")), ("object_in_wheel", ("wheel_lamp", "caught")),
    ("cycling_thermostat_open", ("meter_cycling_thermostat", "failed")),
    ("high_limit_resistive", ("meter_high_limit", "failed"), ("power_watch", "part")),
    ("lint_duct_broken", ("duct_seam_lamp", "off_rim")),
    ("blower_housing_open", ("cabinet_lint", "everywhere"), ("housing_lamp", "open")),
]  # fmt: skip


@pytest.mark.parametrize(("fault", "looks"), [(fault, looks) for fault, *looks in FOUND])
def test_what_is_rare_can_be_thought_of(fault, looks):
    complaints = frozenset({"no_heat"} if fault == "cycling_thermostat_open" else {"long_drying"})
    plain = faults(diagnose(Case(FULL_SIZE, complaints=complaints)))
    seen = faults(diagnose(Case(FULL_SIZE, complaints=complaints, findings=tuple(FindingFact(*one) for one in looks))))
    assert seen[fault] > 4 * plain[fault]
    assert list(seen).index(fault) < 3


@pytest.mark.parametrize(
    ("kind", "slipped", "slip"),
    [
        ("outlet_static_pressure", lambda pa: pa / 249.09, "unit"),  # inH2O written as Pa
        ("wall_static_pressure", lambda pa: -pa, "sign"),
        ("outlet_static_pressure", lambda _: 0.0, "hose_off"),
        ("outlet_flow", lambda flow: flow * 2.1189, "unit"),  # L/s written as cfm, the other way round
        ("blower_inlet_suction", lambda pa: pa * 10, "point"),
    ],
)
def test_a_reading_that_fits_nothing_says_what_likely_went_wrong(kind, slipped, slip):
    good = case_of("vent_run_packed", 6.0, (*COLLAR, "wall_static_pressure", "screen_duct_suction"))
    wrong = tuple(replace(r, value=slipped(r.value)) if r.kind == kind else r for r in good.readings)
    misfits = diagnose(replace(good, readings=wrong)).misfits
    assert [(row.reading, row.slip) for row in misfits] == [(kind, slip)]


def test_what_is_not_of_the_air_holds_at_most_a_twentieth_unasked():
    quiet = [name for name, fault in catalogue().items() if not fault.of_the_air]
    assert sum(faults(diagnose(Case(FULL_SIZE)))[name] for name in quiet) <= 0.05


def test_a_second_felt_look_counts_half():
    # one hand feels both: own rule
    one = diagnose(Case(FULL_SIZE, findings=(FindingFact("hood_air", "weak"),)))
    both = diagnose(Case(FULL_SIZE, findings=(FindingFact("hood_air", "weak"), FindingFact("hood_flap_opens", "half"))))
    flap = diagnose(Case(FULL_SIZE, findings=(FindingFact("hood_flap_opens", "half"),)))
    prior = diagnose(Case(FULL_SIZE))

    def healthy_odds(verdict: Verdict) -> float:
        return math.log(faults(verdict)["none"] / faults(verdict)["heat_source_weak"])

    assert healthy_odds(both) == approx(healthy_odds(one), abs=1e-9)  # neither look speaks of heat or none

    def towards_hood(verdict: Verdict) -> float:
        return math.log(faults(verdict)["room_starved"] / faults(verdict)["none"])

    alone = towards_hood(flap) - towards_hood(prior)
    added = towards_hood(both) - towards_hood(one)
    assert 0 < added < 0.75 * alone


def test_the_same_look_again_replaces_the_first():
    again = (FindingFact("behind_look", "flat"), FindingFact("behind_look", "round"))
    assert faults(diagnose(Case(FULL_SIZE, findings=again))) == faults(diagnose(Case(FULL_SIZE, findings=again[1:])))


def test_what_cannot_be_done_here_says_nothing_and_is_not_asked_again():
    verdict = diagnose(Case(FULL_SIZE, findings=(FindingFact("hood_air", "not_possible"),)))
    assert faults(verdict) == approx(faults(diagnose(Case(FULL_SIZE))), abs=1e-12)
    assert "hood_air" not in {row.check for row in verdict.next_checks}


def test_the_severity_interval_holds_the_truth():
    verdict = diagnose(case_of("vent_run_packed", 8.0, (*COLLAR, "wall_static_pressure", "hood_static_pressure")))
    low, middle, high = next(row.severity for row in verdict.faults if row.fault == "vent_run_packed")
    assert low < 8.0 < high
    assert middle == approx(8.0, rel=0.15)


def test_the_draft_line_is_pinned_where_it_is_measured_and_branches_where_it_is_not():
    line = diagnose(case_of("hood_blocked", 20.0)).draft_line
    pinned = dict(zip(("room", "inlet", "drum", "lint_screen", "lint_duct", "blower", "exhaust_pipe", "transition",
                       "run", "hood"), line.pinned, strict=True))  # fmt: skip
    assert pinned["lint_duct"] and pinned["exhaust_pipe"] and pinned["room"] and pinned["hood"]
    assert not pinned["transition"] and not pinned["run"]
    assert {story.fault for story in line.stories} == {"hood_blocked", "vent_run_packed", "transition_crushed"}
    for story in line.stories:
        assert story.pressure[6] == approx(line.points[-1].pressure, rel=0.1)
    assert [point.at for point in line.points] == ["lint_duct", "exhaust_pipe"]
    assert line.points[0].pressure < 0 < line.points[1].pressure


def test_a_healthy_machine_lies_in_its_band():
    verdict = diagnose(case_of("none", None, (*COLLAR, "wall_static_pressure", "hood_static_pressure", "heater_rise")))
    line = verdict.draft_line
    assert np.all(line.now >= line.band_low - 1e-9) and np.all(line.now <= line.band_high + 1e-9)
    assert verdict.faults[0].fault == "none"


@pytest.mark.parametrize("name", ["full-size-gas", "full-size-electric-50hz", "compact-electric-50hz"])
def test_every_profile_finds_its_own_blocked_run(name):
    machine = profile(name)
    exact = exact_readings((("vent_run_packed", 10.0),), machine)
    kinds = (*COLLAR, "wall_static_pressure", "hood_static_pressure")
    verdict = diagnose(Case(machine, readings=tuple(ReadingFact(k, exact[k]) for k in kinds)))
    assert zones(verdict)["run"] > 0.9


@pytest.mark.parametrize(("degrees", "exact"), [(1, 8.81), (3, 13.93), (8, 23.40)])
def test_the_misfit_bound_is_the_chi_squares(degrees, exact):
    # scipy.stats.chi2.ppf(0.997, k)
    assert chi_square_bound(degrees) == approx(exact, rel=0.02)


def test_quantiles_of_a_mixture_are_those_of_its_parts():
    mean, sd = np.array([[0.0], [100.0]]), np.array([[1.0], [1.0]])
    low, high = mixture_quantiles(mean, sd, np.array([0.5, 0.5]), np.array([0.25, 0.75]))[:, 0]
    assert low == approx(0, abs=0.6) and high == approx(100, abs=0.6)
