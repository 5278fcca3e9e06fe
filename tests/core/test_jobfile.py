"""The file format: what is written is read again, and what is damaged is refused in one line that says where."""

import itertools
import json
import subprocess
import sys
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pytest import approx

from strategies import exact_readings, plain
from warmdraft.__main__ import main
from warmdraft.airway import reading_dimensions
from warmdraft.answers import airway_answer, diagnose_answer
from warmdraft.errors import DocumentError
from warmdraft.faults import circumstance_names, complaint_names
from warmdraft.jobfile import SCHEMAS, parse_json, read_job, simulated_job
from warmdraft.jobfile.simulate import as_document
from warmdraft.machine import profile, profile_names
from warmdraft.units import UNITS, UnitError, from_si, parse_typed, to_si
from warmdraft.words import words_for

ID, OTHER = "0190b2c4-7d1e-7a3b-8c5d-0123456789ab", "0190b2c4-7d1e-7a3b-8c5d-0123456789ac"


def job(**parts):
    return {"format": "warm-draft/job", "version": 1} | parts


def reading(**parts):
    return {"kind": "outlet_flow", "value": 82, "unit": "cfm"} | parts


DAMAGED = {
    "not JSON": b'{"format": "warm-draft/job", ',
    "empty": b"",
    "only spaces": b"  \n ",
    "not UTF-8": b'{"format": "warm-draft/job\xff"}',
    "a list": b"[]",
    "a number": b"17",
    "NaN": b'{"format": "warm-draft/job", "version": 1, "machine": {"age_years": NaN}}',
    "infinite": b'{"format": "warm-draft/job", "version": 1, "load": {"moisture": Infinity}}',
    "overflow": b'{"format": "warm-draft/job", "version": 1, "machine": {"age_years": 1e999}}',
    "a key twice": b'{"format": "warm-draft/job", "version": 1, "version": 1}',
    "nested without end": b"[" * 100_000,
    "digits without end": b'{"format": "warm-draft/job", "version": ' + b"9" * 5000 + b"}",
    "no format": {"version": 1},
    "another format": {"format": "warm-draft/layout", "version": 1},
    "a later version": job(version=2),
    "an unknown key": job(colour="red"),
    "an unknown key inside": job(machine={"brand": "x"}),
    "a wrong unit": job(readings=[reading(unit="furlong")]),
    "a unit of something else": job(readings=[reading(unit="Pa")]),
    "a negative flow": job(readings=[reading(value=-1)]),
    "a flow no fan has": job(readings=[reading(value=9000)]),
    "a text for a number": job(readings=[reading(value="82")]),
    "a truth for a number": job(readings=[reading(value=True)]),
    "an unknown kind": job(readings=[reading(kind="smell")]),
    "no value": job(readings=[{"kind": "outlet_flow", "unit": "cfm"}]),
    "readings not a list": job(readings={"kind": "outlet_flow"}),
    "a reading that is null": job(readings=[None]),
    "negative suction": job(readings=[{"kind": "blower_inlet_suction", "value": -3, "unit": "Pa"}]),
    "11 kPa": job(readings=[{"kind": "outlet_static_pressure", "value": 11, "unit": "kPa"}]),
    "an id twice": job(readings=[reading(id=ID), reading(id=ID)]),
    "an id that is none": job(readings=[reading(id="seven")]),
    "supersedes nobody": job(readings=[reading(id=ID, supersedes=OTHER)]),
    "supersedes in a circle": job(readings=[reading(id=ID, supersedes=OTHER), reading(id=OTHER, supersedes=ID)]),
    "a moment without offset": job(readings=[reading(at="2027-02-03T10:20:00")]),
    "an unknown phase": job(readings=[reading(phase="during")]),
    "an unknown instrument": job(readings=[reading(instrument="nose")]),
    "an unknown check": job(findings=[{"check": "tea_leaves", "result": "good"}]),
    "an unknown result": job(findings=[{"check": "hood_air", "result": "so-so"}]),
    "an unknown fault": job(suppose=[{"fault": "gremlin"}]),
    "a severity no fault has": job(suppose=[{"fault": "blower_wheel_fouled", "severity": 1.5}]),
    "a severity where there is none": job(suppose=[{"fault": "none", "severity": 2}]),
    "a fault twice": job(suppose=[{"fault": "none"}, {"fault": "none"}]),
    "an unknown circumstance": job(circumstances=["full_moon"]),
    "a circumstance twice": job(circumstances=["pets", "pets"]),
    "an unknown complaint": job(complaints=["sulks"]),
    "an unknown profile": job(machine={"profile": "huge"}),
    "an age of 200": job(machine={"age_years": 200}),
    "a share over 1": job(air={"relative_humidity": 1.2}),
    "a leak share of 1": job(machine={"airway": {"leak_share": {"drum_seal": 1}}}),
    "no drop": job(machine={"airway": {"drop_at_rated_flow": {"run": {"value": 0, "unit": "Pa"}}}}),
    "a barometer on the moon": job(air={"pressure": {"value": 1, "unit": "Pa"}}),
    "half a vane": job(machine={"drive": {"wheel": {"vanes": 36.5}}}),
    "a vent of unknown pieces": job(vent={"diameter": {"value": 4, "unit": "in"}, "pieces": [{"piece": "knot"}]}),
    "a vent without its length": job(vent={"diameter": {"value": 4, "unit": "in"}, "pieces": [{"piece": "straight"}]}),
    "readings that are null": job(readings=None),
    "a severity that is null": job(suppose=[{"fault": "hood_blocked", "severity": None}]),
    "a title that is a number": job(title=7),
    "a NUL in the title": job(title="\x00"),
    "half a character": b'{"format": "warm-draft/job", "version": 1, "notes": "\\ud83d"}',
}  # fmt: skip


def written(value) -> bytes:
    return value if isinstance(value, bytes) else json.dumps(value).encode()


def test_there_are_more_than_thirty_ways_to_damage_a_file():
    assert len(DAMAGED) >= 30


@pytest.mark.parametrize("damage", DAMAGED)
def test_a_damaged_file_gives_one_line_and_exit_2(damage, tmp_path, capsys):
    file = tmp_path / "case.json"
    file.write_bytes(written(DAMAGED[damage]))
    assert main(["diagnose", str(file)]) == 2
    out, err = capsys.readouterr()
    assert out == ""
    assert err.count("\n") == 1 and err.startswith(f"{file}: $"), err
    assert "Traceback" not in err and "pydantic" not in err


def test_the_line_names_the_place_what_was_given_and_what_is_wanted(tmp_path, capsys):
    file = tmp_path / "case-7.json"
    file.write_text(json.dumps(job(readings=[reading(), reading(), {"kind": "outlet_static_pressure", "value": 1,
                                                                     "unit": "furlong"}])))  # fmt: skip
    main(["diagnose", str(file)])
    wanted = "$.readings[2].unit: 'furlong' is not a pressure; give one of Pa, kPa, hPa, mbar, inH2O, mmH2O, psi"
    assert capsys.readouterr().err == f"{file}: {wanted}\n"


def test_the_other_files_are_still_done_in_order(tmp_path, capsys):
    names = []
    for i, content in enumerate((job(title="a"), b"{", job(title="b"))):
        names.append(str(tmp_path / f"{i}.json"))
        Path(names[-1]).write_bytes(written(content))
    assert main(["simulate", "--seed", "3", *names, str(tmp_path / "nobody.json")]) == 2
    out, err = capsys.readouterr()
    assert [json.loads(line)["title"] for line in out.splitlines()] == ["a", "b"]
    assert len(err.splitlines()) == 2


def test_options_may_come_after_the_files_and_standard_input_is_a_dash(tmp_path):
    done = subprocess.run(
        [sys.executable, "-m", "warmdraft", "diagnose", "-", "--pretty"], input=written(job()), capture_output=True,
        env={"PYTHONPATH": "core"}, check=True,
    )  # fmt: skip
    assert json.loads(done.stdout)["model_version"]
    assert done.stdout.count(b"\n") > 50


def test_standard_input_is_read_among_many_files_that_are_shared_out(tmp_path):
    file = tmp_path / "job.json"
    file.write_text('{"format": "warm-draft/job", "version": 1, "title": "a file"}')
    done = subprocess.run(
        [sys.executable, "-m", "warmdraft", "simulate", *[str(file)] * 70, "-"], capture_output=True, check=True,
        input=b'{"format": "warm-draft/job", "version": 1, "title": "the dash"}', env={"PYTHONPATH": "core"},
    )  # fmt: skip
    titles = [json.loads(line)["title"] for line in done.stdout.splitlines()]
    assert titles == ["a file"] * 70 + ["the dash"]


#: Text that a file may hold: what no database keeps is refused, and tested elsewhere.
_TEXT = st.text(st.characters(exclude_characters="\0", exclude_categories=["Cs"]), max_size=20)


@st.composite
def jobs(draw):
    """Valid job documents."""
    kinds = draw(st.lists(st.sampled_from(sorted(exact_readings(()))), max_size=5))
    exact = exact_readings(())
    readings = []
    for kind in kinds:
        dimension = reading_dimensions()[kind]
        unit = draw(st.sampled_from(sorted(UNITS[dimension].names)))
        part = {"kind": kind, "value": from_si(exact[kind], unit, dimension), "unit": unit}
        part |= draw(st.fixed_dictionaries({}, optional={"id": st.uuids().map(str), "heat_on": st.booleans(),
                                                         "phase": st.sampled_from(["before", "after"]),
                                                         "x-own": _TEXT}))  # fmt: skip
        readings.append(part)
    return job(
        title=draw(_TEXT),
        machine={"profile": draw(st.sampled_from(profile_names()))},
        circumstances=draw(st.lists(st.sampled_from(circumstance_names()), unique=True, max_size=3)),
        complaints=draw(st.lists(st.sampled_from(complaint_names()), unique=True, max_size=3)),
        readings=readings,
    ) | {"x-shop": draw(st.dictionaries(_TEXT, st.integers(), max_size=2))}


@settings(max_examples=60, deadline=None)
@given(jobs())
def test_write_then_read_is_the_same_file(document):
    read = read_job(parse_json(written(document)))
    assert as_document(read.document) == document
    again = read_job(parse_json(written(as_document(read.document))))
    assert again == read


@settings(max_examples=30, deadline=None)
@given(jobs(), st.integers(0, 9999))
def test_what_simulate_draws_is_a_valid_job_and_the_same_for_the_same_seed(document, seed):
    import numpy as np

    read = read_job(document)
    one, two = (as_document(simulated_job(read, np.random.default_rng(seed))) for _ in range(2))
    assert one == two
    assert len(read_job(json.loads(json.dumps(one))).case().readings) >= 12


def test_only_facts_in_force_of_the_phase_before_speak():
    document = job(
        readings=[
            reading(id=ID),
            reading(value=90, id=OTHER, supersedes=ID),
            reading(value=170, phase="after"),
        ]
    )
    before, after = read_job(document).case(), read_job(document).case("after")
    assert [r.value for r in before.readings] == [approx(90 * 4.719474432e-4)]
    assert [r.value for r in after.readings] == [approx(170 * 4.719474432e-4)]


def test_what_is_left_out_comes_from_the_profile():
    machine = read_job(job(machine={"airway": {"drop_at_rated_flow": {"run": {"value": 90, "unit": "Pa"}}}})).machine
    base = profile("full-size-electric")
    assert machine.airway.drop_pa("run") == 90
    assert machine.airway.drop_pa("hood") == base.airway.drop_pa("hood")
    assert read_job(job(machine={"energy": "gas"})).machine.heat == profile("full-size-gas").heat
    turned = read_job(job(machine={"drive": {"motor_speed": {"value": 25, "unit": "Hz"}}})).machine
    assert turned.airway.fan.wheel_speed_rpm == approx(1500)


def test_a_vent_gives_the_run_its_drop():
    vent = {
        "diameter": {"value": 4, "unit": "in"},
        "pieces": [
            {"piece": "straight", "length": {"value": 6, "unit": "m"}, "material": "galvanised"},
            {"piece": "elbow", "angle": 90, "style": "mitred"},
            {"piece": "hood", "style": "flap"},
        ],
    }
    airway = read_job(job(vent=vent)).machine.airway
    assert airway.drop_pa("run") == approx(138, rel=0.1)  # Darcy–Weisbach by hand: 1.44 p_v friction, 1.2 p_v bend
    assert airway.drop_pa("hood") == approx(25, abs=1)


def test_the_airway_answer_holds_together():
    answer = plain(airway_answer(read_job(job(suppose=[{"fault": "vent_run_packed", "severity": 5}]))))
    rows = answer["profile"]
    assert [row["element"] for row in rows][4] == "blower"
    for one, other in itertools.pairwise(rows):
        assert one["pressure_out"] == other["pressure_in"]
    assert "drying_minutes" not in answer["readings"]
    assert answer["readings"]["outlet_flow"]["unit"] == "m3/s"


def test_the_diagnose_answer_names_all_that_the_format_promises():
    answer = plain(diagnose_answer(read_job(job(readings=[reading()])), words_for()))
    assert {"zones", "elements", "faults", "inseparable", "operating_point", "draft_line", "next_checks",
            "for_and_against", "misfits", "model_version"} <= set(answer)  # fmt: skip
    assert {"check", "bits", "minutes", "bits_per_minute", "sure_now", "sure_after", "splits", "opens"} <= set(
        answer["next_checks"][0]
    )
    assert {"healthy", "band_low", "band_high", "stories", "points"} <= set(answer["draft_line"])
    json.dumps(answer, allow_nan=False)


def test_the_schema_describes_the_format():
    schema = SCHEMAS["job"]()
    assert schema["properties"]["version"]["const"] == 1
    assert "suppose" in schema["properties"]


@pytest.mark.parametrize(
    ("typed", "dimension", "default", "expected"),
    [
        ("0.6 in", "pressure", "Pa", (0.6, "inH2O")),
        ("150 pa", "pressure", "inH2O", (150, "Pa")),
        ("1,03", "pressure", "inH2O", (1.03, "inH2O")),
        ("96", "flow", "cfm", (96, "cfm")),
        ("45 l/s", "flow", "cfm", (45, "L/s")),
        ("140 F", "temperature", "degC", (140, "degF")),
        ("22.5 amps", "current", "A", (22.5, "A")),
    ],
)
def test_people_type_units_their_way(typed, dimension, default, expected):
    assert parse_typed(typed, dimension, default) == expected


@pytest.mark.parametrize(("typed", "words"), [("many", "is not a number"), ("3 bananas", "is not a pressure")])
def test_what_cannot_be_read_is_said(typed, words):
    with pytest.raises(UnitError, match=words):
        parse_typed(typed, "pressure", "Pa")


@given(st.sampled_from(sorted(UNITS)), st.floats(-1e6, 1e6), st.data())
def test_there_and_back_is_the_same_number(dimension, value, data):
    unit = data.draw(st.sampled_from(sorted(UNITS[dimension].names)))
    assert from_si(to_si(value, unit, dimension), unit, dimension) == approx(value, rel=1e-9, abs=1e-6)


def test_a_damaged_file_never_reaches_the_reader():
    with pytest.raises(DocumentError) as caught:
        parse_json(b"{")
    assert caught.value.path == "$"
