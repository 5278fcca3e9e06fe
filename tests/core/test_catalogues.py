"""Our tables guard themselves: a mistyped key, an unknown code, a code without words is one clear error, at once.

And a row is the whole change: each catalogue gets one more here, in a copy of the core, and nothing else is touched.
"""

import json
import os
import subprocess
import sys
from pathlib import Path

import pytest
from tests.more_rows import CORE, copied, with_more_rows

from warmdraft.catalogues import as_toml, catalogue_errors, tables, to_say
from warmdraft.tables import OTHER_LANGUAGES, languages, own_words, texts
from warmdraft.teardown import layout_names


def run(folder: Path, *arguments: str, status=0, **documents):
    """What a program of the copied core prints, or says of its error; with documents as files."""
    files = []
    for name, document in documents.items():
        files.append(str(folder / f"{name}.json"))
        Path(files[-1]).write_text(json.dumps(document))
    env = os.environ | {"PYTHONPATH": str(folder)}
    done = subprocess.run([sys.executable, *arguments, *files], env=env, cwd=folder, capture_output=True, text=True)
    assert done.returncode == status, done.stderr
    return done.stderr if status else done.stdout


def core(folder: Path, *verb: str, document) -> dict:
    """What a verb of the copied core prints."""
    return json.loads(run(folder, "-m", "warmdraft", *verb, job=document))


CHECKED = "from warmdraft.catalogues import catalogue_errors as e; print(*e(), sep='\\n')"


def test_our_tables_are_sound_and_all_of_them_have_a_shape():
    assert catalogue_errors() == []
    data = {str(file.relative_to(CORE / "data").with_suffix("")) for file in (CORE / "data").rglob("*.toml")}
    assert data == set(tables())


@pytest.mark.parametrize(
    ("file", "old", "new", "said"),
    [
        ("faults", "\nlate = true", "\nlaet = true", "motor_fading.laet: is no key here"),
        ("checks/logs", 'qualified = "live"', 'qualifed = "live"', "qualifed: is no key here"),
        ("checks/meter", 'qualified = "live"', 'qualified = "alive"', "meter_receptacle.qualified: "),
        ("faults", 'zone = "hood"', 'zone = "attic"', "hood_blocked.zone: 'attic' is no zone; give one of room"),
        ("faults", 'acts = ["lint_screen.clean"', 'acts = ["lint_scren.clean"', "'lint_scren.clean' is no act; give"),
        ("faults", 'words = "Hood blocked"', "", "hood_blocked.words: is missing; give it"),
        ("readings", "sd = [0.08, 0.001]\nlogged", "logged", "outlet_flow: is weighed by the model and has no 'sd'"),
        ("readings", 'tap = "exhaust_pipe"', 'tap = "pipe"', "outlet_static_pressure.tap: 'pipe' is no place"),
        ("checks/running", 'node = "', 'nod = "', ".nod: is no key here"),
        ("instruments", 'reads = "flow"', 'reads = "wind"', "vane_anemometer.reads: 'wind' is no dimension"),
        ("safety", 'qualified = "live"', 'qualifed = "live"', "prove_dead.qualifed: is no key here"),
        ("circumstances", "hood_blocked =", "hood_bloked =", "'hood_bloked' is no fault"),
        ("code_profiles", 'style = "mitred"', 'style = "mitered"', "residential-model.fittings[0].style: "),
        ("acts", "along = true\n", "alongg = true\n", "lint_duct_seal.look.alongg: is no key here"),
        ("acts", "screen_water = { stands =", "screen_water = { stand =", "'stand' is no result of 'screen_water'"),
        ("acts", '["lint_screen.look"]', '["lint_scren.look"]', "'lint_scren' is no part of hardware.toml"),
        ("drivers", 'fits_also = ["cross-2-stubby"]', 'fits_also = ["cross-3"]', "cross-2.fits_also[0]: 'cross-3'"),
        ("layouts/two_motors", 'area = "top"', 'area = "attic"', "'attic' is no area"),
        ("layouts/two_motors", 'kind = "pan_head"', 'kind = "pan head"', "'pan head' is no fastener of hardware.toml"),
        ("words/en/codes", 'hood = "the hood"\n', "", "zone: has no words for 'hood'"),
        ("words/en/bench", "left_over =", "left_ovr =", "problem: has no words for 'left_over'"),
    ],
)  # fmt: skip
def test_a_slip_in_a_table_is_named_by_file_row_and_key(tmp_path, file, old, new, said):
    path = copied(tmp_path) / f"{file}.toml"
    text = path.read_text()
    assert old in text
    path.write_text(text.replace(old, new, 1))
    first = run(tmp_path, "-c", CHECKED).splitlines()
    assert any(line.startswith(f"{file}.toml") and said in line for line in first), first


@pytest.mark.parametrize(
    ("file", "old", "said"),
    [
        ("faults", 'effect = "head_lost"', "faults.toml, blower_wheel_fouled.effect: is missing; give it"),
        ("readings", 'dimension = "rotation"', "readings.toml, blower_speed.dimension: is missing; give it"),
        ("checks/behind", 'access = "behind"', "checks/behind.toml"),
        ("meter", 'kind = "thermistor"', "meter.toml, thermistor.kind: is missing; give it"),
    ],
)
def test_what_cannot_even_be_read_says_so_too(tmp_path, file, old, said):
    path = copied(tmp_path) / f"{file}.toml"
    assert old in path.read_text()
    path.write_text(path.read_text().replace(old, "", 1))
    assert f"CatalogueError: {said}" in run(tmp_path, "-c", CHECKED, status=1)


def test_a_language_is_begun_in_our_words_and_says_how_far_it_is(tmp_path):
    copied(tmp_path)
    begin = ("-m", "warmdraft.catalogues", "qaa", str(tmp_path / "words"))
    begun = run(tmp_path, *begin)
    assert "faults.toml: " in begun and "missing" not in begun
    faults = tmp_path / "words" / "qaa" / "faults.toml"
    first, _, *rest = faults.read_text().splitlines()
    faults.write_text("\n".join([first.split(" = ")[0] + ' = { words = "\u0448\u0443\u043c" }', *rest]))
    again = run(tmp_path, *begin)
    assert again.count("missing: ") == 1 and f"faults.toml: {len(rest)} texts" in again
    faults.write_text(faults.read_text() + '\nnobody_asked = { words = "x" }\n')
    wrong = run(tmp_path, *begin, status=1)
    assert "qaa/faults.toml, nobody_asked.words: is nothing that is said; take it out" in wrong


@pytest.mark.parametrize("name", layout_names())
def test_two_variants_of_one_operation_keep_their_own_words(name, tmp_path, monkeypatch):
    file = tmp_path / "qaa" / f"layouts/{name}.toml"
    file.parent.mkdir(parents=True)
    file.write_text(as_toml(to_say(f"layouts/{name}", lambda text: f"«{text}»")), encoding="utf-8")
    monkeypatch.setenv(OTHER_LANGUAGES, str(tmp_path))
    for known in (languages, own_words, texts):
        known.cache_clear()
    ours, theirs = (texts(f"layouts/{name}", language)["operations"] for language in ("en", "qaa"))
    for one, other in zip(ours, theirs, strict=True):
        for key in ("does", "back"):
            assert other.get(key) == (f"«{one[key]}»" if key in one else None)
        assert other.get("cautions", []) == [f"«{text}»" for text in one.get("cautions", [])]
    for known in (languages, own_words, texts):
        known.cache_clear()


@pytest.fixture(scope="module")
def more(tmp_path_factory):
    """The core with one more row in each catalogue, and with a layout more; nothing else is touched."""
    return with_more_rows(tmp_path_factory.mktemp("core"))


JOB = {"format": "warm-draft/job", "version": 1}


def test_one_more_row_of_each_is_sound(more):
    assert run(more, "-c", CHECKED).strip() == ""


def test_a_fault_more_is_weighed_named_and_mended(more):
    told = core(more, "diagnose", document=JOB)
    (row,) = [row for row in told["faults"] if row["fault"] == "drum_baffle_loose"]
    assert row["text"] == "Drum baffle loose" and row["probability"] > 0 and row["severity_text"]
    job = core(more, "job", document=JOB | {
        "machine": {"layout": "two_motors"}, "causes": [{"kind": "working", "fault": "drum_baffle_loose"}],
    })  # fmt: skip
    assert job["bench"]["reach"] == ["drum belt"] and job["mend"][0]["id"] == "mend.look_at_belt"


def test_a_check_more_is_offered_and_what_it_gives_speaks(more):
    told = core(more, "diagnose", document=JOB | {"complaints": ["long_drying"]})
    (row,) = [row for row in told["next_checks"] if row["check"] == "drum_light"]
    assert row["text"] == "Shine a lamp through the drum's holes" and row["bits"] > 0
    spoke = core(more, "diagnose", document=JOB | {"findings": [{"check": "drum_light", "result": "clogged"}]})
    assert spoke["for_and_against"][0]["check"] == "drum_light"


def test_a_kind_of_reading_more_is_predicted_drawn_and_weighed(more):
    supposed = JOB | {"suppose": [{"fault": "lint_duct_packed", "severity": 10}]}
    predicted = core(more, "airway", document=supposed)["readings"]["drum_suction"]
    assert predicted["unit"] == "Pa" and predicted["value"] > 0
    reading = {"kind": "drum_suction", "value": predicted["value"], "unit": "Pa", "instrument": "manometer"}
    told = core(more, "diagnose", document=JOB | {"readings": [reading]})
    assert told["for_and_against"][0]["reading"] == "drum_suction"
    assert [point["at"] for point in told["draft_line"]["points"]] == ["drum"]
    log = {"kind": "drum_suction", "unit": "Pa", "minutes": list(range(10)), "values": [60.0] * 10}
    assert core(more, "job", document=JOB | {"logs": [log]})["logs"][0]["shape"] == "steady"
    drawn = core(more, "simulate", document=supposed)
    assert "drum_suction" in {row["kind"] for row in drawn["readings"]}


def test_an_act_more_is_a_step(more):
    job = core(more, "job", document=JOB | {"causes": [{"kind": "working", "fault": "drum_seal_leaking"}]})
    assert [step["does"] for step in job["mend"]][-1] == "Wash the felt with a damp cloth"


def test_an_instrument_more_sharpens_what_it_reads(more):
    def sure(**instrument):
        reading = {"kind": "outlet_flow", "value": 0.05, "unit": "m3/s"} | instrument
        return core(more, "diagnose", document=JOB | {"readings": [reading]})["for_and_against"][0]["nats"]

    assert sure(instrument="hot_wire") != sure()


def test_a_code_profile_more_holds_a_run(more):
    run_ = {"format": "warm-draft/vent", "version": 1, "diameter": {"value": 4, "unit": "in"},
            "flow": {"value": 0.07, "unit": "m3/s"}, "code_profile": "lake-town",
            "pieces": [{"piece": "straight", "length": {"value": 31, "unit": "ft"}, "material": "smooth"}]}  # fmt: skip
    told = core(more, "vent", document=run_)
    assert not told["within_allowance"] and told["code_profile"]["title"] == "Lake town, rigid 4 in"


def test_a_layout_more_is_a_way_in(more):
    job = core(more, "job", document=JOB | {
        "machine": {"layout": "lake_town"}, "causes": [{"kind": "working", "fault": "blower_wheel_fouled"}],
    })  # fmt: skip
    assert job["known_layout"] and job["bench"]["optimal"]


@pytest.mark.parametrize("what", [{"complaints": ["whistles"]}, {"circumstances": ["by_the_sea"]}])
def test_what_is_told_more_is_heard(more, what):
    assert core(more, "job", document=JOB | what)["verdict"]["faults"]
