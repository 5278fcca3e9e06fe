"""The verbs vent, meter and dry: what they print, and how they refuse what is damaged."""

import csv
import json

import pytest
from pytest import approx

from warmdraft.__main__ import main
from warmdraft.jobfile import SCHEMAS


def q(value, unit):
    return {"value": value, "unit": unit}


def vent(*pieces, **changes):
    return {"format": "warm-draft/vent", "version": 1, "diameter": q(4, "in"), "flow": q(100, "cfm"),
            "pieces": list(pieces)} | changes  # fmt: skip


def straight(feet=10, **changes):
    return {"piece": "straight", "length": q(feet, "ft"), "material": "galvanised"} | changes


def meter(*tests, supply="two-leg-240", **changes):
    return {"format": "warm-draft/meter", "version": 1, "supply": supply, "tests": list(tests)} | changes


def fuse(**changes):
    return {"part": "thermal_fuse", "instrument": "digital", "isolated": True, "reading": q(0.4, "ohm")} | changes


def load(**changes):
    return {"format": "warm-draft/job", "version": 1, "load": {"dry_mass": q(8.45, "lb"), "moisture": 0.575}} | changes


HOOD = {"piece": "hood", "style": "flap"}


@pytest.fixture
def run(tmp_path, capsys):
    """Run a verb over a document; (exit status, answer or None, what stood on stderr)."""

    def go(verb, document, *options):
        file = tmp_path / "case.json"
        file.write_text(document if isinstance(document, str) else json.dumps(document))
        status = main([verb, *options, str(file)])
        out, err = capsys.readouterr()
        return status, json.loads(out) if out else None, err

    return go


DAMAGED = {
    "vent": {
        "not JSON": "{",
        "another format": vent() | {"format": "warm-draft/job"},
        "no version": {k: v for k, v in vent(straight()).items() if k != "version"},
        "no pieces": vent(),
        "no flow": {k: v for k, v in vent(straight()).items() if k != "flow"},
        "a flow of a storm": vent(straight(), flow=q(5, "m3/s")),
        "an unknown piece": vent({"piece": "knot"}),
        "a straight without its length": vent({"piece": "straight", "material": "galvanised"}),
        "an unknown material": vent(straight(material="cardboard")),
        "a length of nothing": vent(straight(0)),
        "an elbow of a style of hoods": vent({"piece": "elbow", "angle": 90, "style": "flap"}),
        "an elbow of 400 degrees": vent({"piece": "elbow", "angle": 400, "style": "mitred"}),
        "a compression of 15": vent({"piece": "flexible", "length": q(1, "m"), "compression": 15}),
        "a pinch that is shut": vent({"piece": "pinch", "open_share": 0}),
        "lint that fills the bore": vent(straight(), lint_layer=q(60, "mm")),
        "an unknown code profile": vent(straight(), code_profile="nobody's"),
        "a furlong": vent({"piece": "straight", "length": q(1, "furlong"), "material": "smooth"}),
        "an unknown key": vent(straight(), colour="red"),
        "a diameter that is null": vent(straight(), diameter=None),
        "a list": "[]",
    },
    "meter": {
        "no tests": meter(),
        "an unknown supply": meter(fuse(), supply="three-leg"),
        "an unknown part": meter(fuse(part="flux")),
        "a needle on a digital meter": meter(fuse(reading="needle_at_zero")),
        "an unknown word": meter(fuse(reading="fine")),
        "not said whether it is isolated": meter({k: v for k, v in fuse().items() if k != "isolated"}),
        "a negative resistance": meter(fuse(reading=q(-1, "ohm"))),
        "a reading in cfm": meter(fuse(reading=q(1, "cfm"))),
        "a thermistor without its temperature": meter(fuse(part="thermistor", reading=q(5, "kohm"))),
        "legs of a fuse": meter(fuse(between="leg_leg")),
        "not a number": json.dumps(meter(fuse())).replace("0.4", "NaN"),
        "isolated, perhaps": meter(fuse(isolated="perhaps")),
        "a thermistor of no B": meter(fuse(part="thermistor", temperature=q(20, "degC"), b=q(3, "K"))),
    },
    "dry": {
        "no load": {"format": "warm-draft/job", "version": 1},
        "a load that is dry": load(load={"dry_mass": q(3, "kg"), "moisture": 0.03}),
        "a load of nothing": load(load={"dry_mass": q(0, "kg"), "moisture": 0.5}),
        "a moisture below 0": load(load={"dry_mass": q(3, "kg"), "moisture": -0.5}),
    },
}  # fmt: skip


@pytest.mark.parametrize(("verb", "damage"), [(verb, damage) for verb in DAMAGED for damage in DAMAGED[verb]])
def test_a_damaged_file_gives_one_line_and_exit_2(run, verb, damage):
    status, answer, err = run(verb, DAMAGED[verb][damage])
    assert status == 2 and answer is None
    assert err.count("\n") == 1 and "case.json: $" in err and "Traceback" not in err and "pydantic" not in err


# Source: ASHRAE friction chart, 4 in galvanised duct at 21 °C, inH2O per 100 ft
@pytest.mark.parametrize(("cfm", "inches"), [(100, 0.60), (150, 1.28)])
def test_a_straight_run_loses_what_the_chart_says(run, cfm, inches):
    _, answer, _ = run("vent", vent(straight(100), flow=q(cfm, "cfm")))
    assert answer["pressure_drop"]["value"] / 249.09 == approx(inches, rel=0.03)
    assert answer["within_allowance"] is False and answer["pieces"][0]["piece"] == "straight"


# Source: ASHRAE Fundamentals, duct design, and Weisbach, from memory: multipliers of flexible duct, K of a pinch
def test_a_slack_flexible_and_a_pinch_lose_what_they_should(run):
    flexible = {"piece": "flexible", "length": q(2, "m"), "compression": 0.0}
    _, answer, _ = run("vent", vent(flexible, flexible | {"compression": 0.15}, {"piece": "pinch", "open_share": 0.5}))
    tight, slack, pinch = (piece["pressure_drop"]["value"] for piece in answer["pieces"])
    assert slack / tight == approx(6.25, rel=0.01)
    velocity_pressure = 0.5 * 1.194 * answer["air_speed"]["value"] ** 2
    assert pinch / velocity_pressure == approx(4.0, rel=0.02)


def test_a_profile_of_ones_own_is_used(run):
    own = {"title": "Shop rule", "source": "our lead", "max_length": q(8, "m"), "bore": q(4, "in"),
           "fittings": [{"style": "mitred", "angle": 90, "takes": q(3, "m")}]}  # fmt: skip
    bend = {"piece": "elbow", "angle": 90, "style": "mitred"}
    _, answer, _ = run("vent", vent(straight(20), bend, HOOD, code_profile=own))
    assert answer["allowed_length"]["value"] == approx(5.0) and answer["within_allowance"] is False
    status, _, err = run("vent", vent(bend | {"angle": 180}, HOOD, code_profile=own | {"fittings": []}))
    assert status == 2 and "says nothing of a bend" in err


def test_verdicts_come_in_the_order_of_the_tests(run):
    tests = [
        fuse(),
        fuse(reading="open"),
        fuse(isolated=False),
        fuse(instrument="analogue", reading="needle_at_infinity"),
    ]
    _, answer, _ = run("meter", meter(*tests))
    assert [row["verdict"] for row in answer["verdicts"]] == ["good", "failed", "repeat", "failed"]
    assert all(row["means"]["text"] and row["then"]["code"] for row in answer["verdicts"])


def test_a_run_is_traced_and_a_restricted_one_takes_longer(run, tmp_path):
    trace = tmp_path / "run.csv"
    _, healthy, _ = run("dry", load(), "--csv", str(trace))
    _, packed, _ = run("dry", load(suppose=[{"fault": "vent_run_packed", "severity": 30}]))
    assert healthy["trips"] == [] and healthy["stopped_by"] is None and healthy["energy"]["unit"] == "kWh"
    assert packed["minutes"] > 1.2 * healthy["minutes"]
    assert {trip["limit"] for trip in packed["trips"]} == {"high_limit"}
    rows = list(csv.DictReader(trace.open()))
    moisture = [float(row["value"]) for row in rows if row["kind"] == "moisture"]
    assert moisture[0] == approx(0.575) and moisture[-1] == approx(0.04, abs=1e-3)
    assert float(rows[-1]["time"]) == approx(healthy["minutes"], abs=0.01)


def test_a_trace_that_cannot_be_written_is_said(run, tmp_path):
    status, answer, err = run("dry", load(), "--csv", str(tmp_path / "nowhere" / "run.csv"))
    assert status == 2 and answer is None and "cannot be written" in err


def test_a_weak_high_limit_cycles_on_a_machine_that_breathes(run):
    _, answer, _ = run(
        "dry", load(suppose=[{"fault": "high_limit_weak"}, {"fault": "lint_duct_packed", "severity": 4}])
    )
    assert {trip["limit"] for trip in answer["trips"]} == {"high_limit"}


@pytest.mark.parametrize("name", ["job", "vent", "meter"])
def test_every_format_has_a_schema_of_its_own(name):
    schema = SCHEMAS[name]()
    assert schema["properties"]["format"]["const"] == f"warm-draft/{name}" and "version" in schema["required"]
