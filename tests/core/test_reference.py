"""A machine that was measured healthy is its own reference; a run that nobody knows is counted before it is blamed."""

import pytest

from strategies import exact_readings
from warmdraft.airway import reading_dimensions
from warmdraft.jobfile import read_job
from warmdraft.units import UNITS
from warmdraft.work import state_of

COLLAR = ("outlet_flow", "outlet_static_pressure", "screen_duct_suction")


def read(suppose, kinds=COLLAR):
    exact = exact_readings(suppose)
    return [{"kind": k, "value": exact[k], "unit": UNITS[reading_dimensions()[k]].canonical} for k in kinds]


#: A run within its allowance, twice as long as the profile's: 35 ft instead of 12.7, and two bends.
LONG = (("vent_run_packed", 3.5),)


def state(readings, then=None, **more):
    machine = {"profile": "full-size-electric"} | ({"measured_healthy": then} if then else {})
    document = {"format": "warm-draft/job", "version": 1, "complaints": ["long_drying"], "machine": machine}
    return state_of(read_job(document | {"readings": readings} | more).facts)


def zones(found):
    return dict(found.verdict.zones)


def test_its_own_healthy_readings_of_a_year_ago_acquit_a_long_run():
    alone, known = state(read(LONG)), state(read(LONG), read(LONG))
    vent = ("transition", "run", "hood")
    assert sum(zones(alone)[zone] for zone in vent) > 0.3
    assert sum(zones(known)[zone] for zone in vent) < 0.1
    assert known.facts.machine.airway.own is not None and not known.facts.machine.airway.unknown
    assert known.verdict.healthy_readings["outlet_flow"] < 0.9 * alone.verdict.healthy_readings["outlet_flow"]


def test_what_has_changed_since_stands_out_the_more():
    packed = (*LONG, ("lint_duct_packed", 12.0))
    alone, known = (state(read(packed), then) for then in (None, read(LONG)))
    assert known.verdict.faults[0].zone in ("upstream", "blower")
    worse = (("vent_run_packed", 12.0),)
    known = state(read(worse), read(LONG))
    assert sum(zones(known)[zone] for zone in ("transition", "run", "hood")) > 0.9
    assert alone.verdict.faults[0].zone in ("upstream", "blower")


@pytest.mark.parametrize(
    "then",
    [
        read((("transition_crushed", 100.0),)),  # no healthy machine, whatever was done to it
        read((), ("outlet_flow",)),  # one number says too little
    ],
)
def test_what_does_not_show_it_healthy_is_no_reference(then):
    assert state(read(()), then).facts.machine.airway.own is None


def test_a_run_nobody_knows_is_counted_before_it_is_blamed():
    safe = [step.id for step in state(read(())).safety]
    marks = [{"step": step, "state": "done", "at": "2026-11-26T08:00:00+00:00"} for step in safe]
    kinds = (*COLLAR, "wall_static_pressure", "hood_static_pressure", "still_pressure")
    packed = read((("vent_run_packed", 15.0),), kinds)
    asked = state(packed, marks=marks)
    assert (asked.next.code, asked.next.subject) == ("check", "run_count")
    counted = state(packed, marks=marks, findings=[{"check": "run_count", "result": "within"}])
    assert (counted.next.code, counted.next.subject) == ("choose_cause", "vent_run_packed")
    drawn = state(packed, marks=marks, vent={
        "diameter": {"value": 4, "unit": "in"}, "flow": {"value": 160, "unit": "cfm"},
        "pieces": [{"piece": "straight", "length": {"value": 12, "unit": "ft"}, "material": "galvanised"}],
    })  # fmt: skip
    assert (drawn.next.code, drawn.next.subject) == ("choose_cause", "vent_run_packed")


def test_a_low_supply_is_asked_for_before_the_heater_is_blamed():
    marks = [{"step": step.id, "state": "done", "at": "2026-11-26T08:00:00+00:00"} for step in state(read(())).safety]
    kinds = (*COLLAR, "heater_current")
    weak = read((("heat_source_weak", 0.75),), kinds)  # what 208 V in the place of 240 leave of it
    asked = state(weak, marks=marks)
    assert (asked.next.code, asked.next.subject) == ("check", "supply_voltage")
    low = state([*weak, {"kind": "supply_voltage", "value": 208, "unit": "V"}], marks=marks)
    assert zones(low)["heat"] < 0.5 * zones(asked)["heat"] and low.next.subject != "heat_source_weak"
    sound = state([*weak, {"kind": "supply_voltage", "value": 240, "unit": "V"}], marks=marks)
    assert (sound.next.code, sound.next.subject) == ("choose_cause", "heat_source_weak")
