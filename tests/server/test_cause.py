"""Meter, logs, the vent run and heat on a job; what stands on the record when only a victim is found."""

import json
import re
import uuid

import pytest
from pydantic import TypeAdapter
from pytest import approx
from tests.server.factories import AT, a_technician
from tests.server.test_jobs import measured

from jobs.answer.shown import WorkshopJob
from jobs.models import Happening, Job

pytestmark = pytest.mark.django_db
RUN = {
    "diameter": {"value": 4, "unit": "in"},
    "pieces": [
        {"piece": "straight", "length": {"value": 40, "unit": "ft"}, "material": "galvanised"},
        {"piece": "elbow", "angle": 90, "style": "mitred"},
        {"piece": "hood", "style": "flap"},
    ],
}


def meters(technician, job, **body):
    facts = {"part": "thermal_fuse", "instrument": "analogue", "isolated": True, "typed": "0", "at": AT} | body
    return technician.put(f"/jobs/{job}/meter/{uuid.uuid4()}", facts)


def logs(technician, job, **body):
    return technician.put(f"/jobs/{job}/logs/{uuid.uuid4()}", {"at": AT} | body)


def draws(technician, job, vent, **body):
    facts = {"vent": vent, "based_on": Job.objects.get(id=job).version, "at": AT}
    return technician.put(f"/jobs/{job}/vent", facts | body)


@pytest.mark.parametrize(
    ("body", "verdict", "means"),
    [
        ({"typed": "needle_at_infinity"}, "failed", "open_one_shot"),
        ({"typed": "infinity"}, "failed", "open_one_shot"),
        ({"typed": "needle_at_zero"}, "good", "closed"),
        ({"instrument": "digital", "typed": "OL"}, "failed", "open_one_shot"),
        ({"instrument": "digital", "typed": "0.9 ohm", "lead_ohm": 0.4}, "good", "closed"),
        ({"part": "thermistor", "instrument": "digital", "typed": "5.3 kohm", "temperature": "104 f"}, "good",
         "as_table"),
        ({"part": "high_limit", "typed": "infinity", "part_hot": True}, "working_as_meant", "open_while_hot"),
        ({"isolated": False, "typed": "0.3"}, "repeat", "not_isolated"),
    ],
)  # fmt: skip
def test_a_meter_reading_answers_with_its_verdict(body, verdict, means):
    technician = a_technician()
    answer = meters(technician, technician.opens(), **body)
    assert answer.status_code == 200, answer.content
    found = answer.json()["meter"][0]["verdict"]
    assert (found["verdict"], found["means"]["code"]) == (verdict, means)


@pytest.mark.parametrize(
    ("body", "path", "said"),
    [
        ({"instrument": "digital", "typed": "needle_at_zero"}, "$.typed", "no reading of a digital meter"),
        ({"typed": "loud"}, "$.typed", "no reading of a meter"),
        ({"isolated": None}, "$.isolated", "one side was off"),
        ({"part": "thermistor", "typed": "9 kohm"}, "$.temperature", "judged at its temperature"),
        ({"part": "flux_capacitor"}, "$.part", "thermal_fuse"),
    ],
)
def test_what_no_meter_shows_is_refused_with_the_field(body, path, said):
    technician = a_technician()
    answer = meters(technician, technician.opens(), **body)
    assert answer.status_code == 422
    (field,) = answer.json()["fields"]
    assert field["path"] == path and said in field["message"]


def test_live_work_is_recorded_by_the_qualified_only():
    body = {"part": "receptacle", "instrument": "digital", "isolated": None, "typed": "118", "unit": "V"}
    plain, qualified = a_technician(), a_technician(qualified=("live",))
    assert meters(plain, plain.opens(), **body).json()["code"] == "not_qualified"
    answer = meters(qualified, qualified.opens(), **body, between="leg_neutral").json()
    assert answer["meter"][0]["verdict"]["means"]["code"] == "perhaps_back_fed"


def test_a_blown_fuse_never_passes_for_a_cause():
    lead = a_technician("lead")
    job = lead.opens()
    answer = meters(lead, job, typed="needle_at_infinity").json()
    assert answer["opened"] == ["thermal_fuse_open"]
    refused = lead.finds(job, "working", "switch_open")
    assert refused.status_code == 422 and refused.json()["code"] == "victim_not_cause"
    assert lead.finds(job, "working", "lint_duct_packed").status_code == 200
    body = {"kind": "working", "fault": "none", "heat_unexplained": True, "at": AT}
    said = lead.put(f"/jobs/{job}/causes/{uuid.uuid4()}", body).json()["working_cause"]
    assert said["heat_unexplained"] and "cause of the heat not found" in said["text"]


def test_a_withdrawn_meter_test_no_longer_speaks():
    technician = a_technician()
    job = technician.opens()
    test = meters(technician, job, typed="needle_at_infinity").json()["meter"][0]["id"]
    answer = technician.put(f"/jobs/{job}/facts/{test}/withdrawn", {"withdrawn": True, "at": AT}).json()
    assert answer["opened"] == [] and answer["meter"][0]["in_force"] is False


FADE = [90.0 if m < 40 else 60.0 for m in range(60)]


def test_a_log_answers_with_its_shape_and_speaks_for_the_motor():
    technician = a_technician()
    job = technician.opens()
    before = technician.get(f"/jobs/{job}").json()["verdict"]["faults"]
    answer = logs(technician, job, kind="hood_flow", unit="cfm", minutes=list(range(60)), values=FADE).json()
    (log,) = answer["logs"]
    assert log["shape"] == "fade" and re.search("by 3[2-5] %", log["text"]) and len(log["values"]) == 60

    def motor(faults):
        return next(row["probability"] for row in faults if row["fault"] == "motor_fading")

    assert motor(answer["verdict"]["faults"]) > 5 * motor(before)


def test_a_log_comes_as_csv_too_and_a_damaged_one_is_refused_with_its_line():
    technician = a_technician()
    job = technician.opens()
    rows = "\n".join(f"{m},hood_flow,{v},cfm" for m, v in enumerate(FADE))
    answer = logs(technician, job, csv=f"time,kind,value,unit\n{rows}")
    assert answer.json()["logs"][0]["shape"] == "fade"
    refused = logs(technician, job, csv=f"time,kind,value,unit\n{rows}\nsoon,hood_flow,1,cfm")
    assert refused.status_code == 422 and "line 62: 'soon' is not a time" in refused.json()["message"]
    two = logs(technician, job, csv=f"time,kind,value,unit\n{rows}\n" + rows.replace("hood_flow", "outlet_flow"))
    assert "hood_flow, outlet_flow; say which one" in two.json()["message"]


def test_the_run_as_drawn_is_judged_and_moves_the_verdict():
    technician = a_technician()
    job, before = measured(technician)
    answer = draws(technician, job, RUN).json()
    assert answer["run"]["within_allowance"] is False
    assert {w["code"] for w in answer["run"]["warnings"]} >= {"too_long"}
    healthy = {r["readings"]["outlet_flow"]["healthy"]["value"] for r in (before["verdict"], answer["verdict"])}
    assert len(healthy) == 2
    again = draws(technician, job, RUN, based_on=1)  # the same run: no conflict, nothing written
    assert again.status_code == 200
    other = draws(technician, job, None, based_on=1)
    assert other.status_code == 409 and other.json()["recorded"] == RUN
    assert Happening.objects.filter(what="run_drawn").count() == 1


def test_a_run_that_cannot_be_is_refused_with_the_piece():
    technician = a_technician()
    bad = RUN | {"pieces": [*RUN["pieces"][:1], {"piece": "elbow", "angle": 90, "style": "flap"}]}
    answer = draws(technician, technician.opens(), bad)
    assert answer.status_code == 422 and answer.json()["fields"][0]["path"] == "$.vent.pieces[1].style"


def test_heat_shows_a_load_healthy_and_now():
    technician = a_technician()
    job = technician.opens()
    unknown = technician.get(f"/jobs/{job}/heat").json()
    assert unknown["now"] is None and 20 < unknown["healthy"]["minutes"] < 32
    for kind, typed, unit in (("outlet_flow", "60", "cfm"), ("outlet_static_pressure", "1.9 in", "inH2O")):
        technician.reads(job, kind, typed, unit)
    shown = technician.get(f"/jobs/{job}/heat").json()
    assert shown["now"]["minutes"] > shown["healthy"]["minutes"] + 5
    assert [trip for trip in shown["now"]["trips"] if trip["limit"] == "high_limit"]
    assert "instead of" in shown["text"] and shown["extra_cost_a_year"] > 0


def test_everything_comes_back_from_its_own_file():
    lead, other = a_technician("lead"), a_technician("lead")
    job = lead.opens(told={"long_drying": {"since": "spring", "how_often": "always", "what": ""}})
    meters(lead, job, typed="needle_at_infinity")
    logs(lead, job, kind="hood_flow", unit="cfm", minutes=list(range(60)), values=FADE)
    draws(lead, job, RUN)
    document = lead.get(f"/jobs/{job}/file").json()
    shown = lead.get(f"/jobs/{job}").json()
    Job.objects.filter(id=job).delete()
    renamed = json.loads(json.dumps(document))
    for part in (renamed["x-job"]["machine"], renamed["x-job"]["place"]):
        part["id"] = str(uuid.uuid4())
    back = other.brings(renamed).json()
    assert back["told"] == shown["told"] and back["run"] == shown["run"]
    assert [row["shape"] for row in back["logs"]] == ["fade"] and back["opened"] == ["thermal_fuse_open"]
    assert [row["probability"] for row in back["verdict"]["faults"]] == approx(
        [row["probability"] for row in shown["verdict"]["faults"]]
    )


@pytest.mark.parametrize(
    ("speeds", "litres", "instrument"),
    [
        ({"method": "traverse", "bore": "4 in", "unit": "m/s", "values": [9.25] * 12}, 75, "anemometer_traverse"),
        ({"method": "centre", "bore": "101.6 mm", "unit": "ft/min", "values": [2220]}, 75, "anemometer_centre"),
        ({"method": "bag", "values": [2.4, 2.5, 2.9]}, 80, "bag_and_watch"),
    ],
)
def test_a_flow_comes_from_air_speeds_too(speeds, litres, instrument):
    technician = a_technician()
    answer = technician.reads(technician.opens(), "outlet_flow", "speeds", "cfm", speeds=speeds).json()
    (reading,) = answer["readings"]
    assert reading["canonical"]["value"] * 1000 == approx(litres, rel=0.01) and reading["instrument"] == instrument


@pytest.mark.parametrize(
    ("kind", "speeds", "said"),
    [
        ("outlet_flow", {"method": "traverse", "bore": "4 in", "unit": "m/s", "values": [9.0] * 5}, "5 speeds are no"),
        ("outlet_flow", {"method": "centre", "bore": "4 ft", "unit": "m/s", "values": [9.0]}, "no bore of a dryer"),
        ("outlet_flow", {"method": "bag", "values": [0.0]}, "nothing that air does"),
        ("outlet_static_pressure", {"method": "centre", "bore": "4 in", "unit": "m/s", "values": [9.0]}, "give a flow"),
    ],
)
def test_speeds_that_give_no_flow_are_refused(kind, speeds, said):
    technician = a_technician()
    unit = "cfm" if kind == "outlet_flow" else "Pa"
    answer = technician.reads(technician.opens(), kind, "speeds", unit, speeds=speeds)
    assert answer.status_code == 422 and said in answer.json()["message"]


def test_the_answers_are_of_the_schema_they_promise():
    lead = a_technician("lead")
    job = lead.opens(told={"long_drying": {"since": "spring", "how_often": "", "what": ""}})
    meters(lead, job, typed="needle_at_infinity")
    logs(lead, job, kind="hood_flow", unit="cfm", minutes=list(range(60)), values=FADE)
    answer = draws(lead, job, RUN).json()
    adapter = TypeAdapter(WorkshopJob)
    assert adapter.dump_python(adapter.validate_python(answer), mode="json") == answer
    again = lead.get(f"/jobs/{job}").json()  # the kept answer is the one that was worked out
    assert again == answer


def test_what_is_carried_decides_what_is_asked():
    technician = a_technician()
    job = technician.opens()
    habits = technician.get("/me").json()["habits"]
    asked = {row["check"] for row in technician.get(f"/jobs/{job}").json()["verdict"]["next_checks"]}
    assert "outlet_flow" in asked and "meter_receptacle" not in asked  # live work: not without the qualification
    assert technician.put("/me/habits", habits | {"carries": []}).status_code == 200
    asked = {row["check"] for row in technician.get(f"/jobs/{job}").json()["verdict"]["next_checks"]}
    assert "outlet_flow" not in asked and "hood_air" in asked
    refused = technician.put("/me/habits", habits | {"carries": ["crystal_ball"]})
    assert refused.status_code == 422


OWN = {
    "title": "Sheet of the Fellmonger 7", "source": "its sheet, page 4", "max_length": {"value": 12, "unit": "m"},
    "bore": {"value": 4, "unit": "in"},
    "fittings": [
        {"style": "mitred", "angle": 45, "takes": {"value": 1, "unit": "m"}},
        {"style": "mitred", "angle": 90, "takes": {"value": 2, "unit": "m"}},
    ],
}  # fmt: skip


def test_a_workshop_keeps_its_own_figures_and_a_run_is_held_against_them():
    technician, stranger, trainee = a_technician(), a_technician(), a_technician("trainee")
    kept = f"/code-profiles/{uuid.uuid4()}"
    assert technician.put(kept, {"document": OWN}).status_code == 200
    (row,) = technician.get("/code-profiles").json()
    assert row["document"] == OWN and stranger.get("/code-profiles").json() == []
    job = technician.opens()
    run = draws(technician, job, RUN | {"code_profile": row["document"]}).json()["run"]
    bends = sum(2.0 if piece["angle"] > 45 else 1.0 for piece in RUN["pieces"] if piece["piece"] == "elbow")
    assert run["code_profile"]["title"] == OWN["title"] and run["allowed_length"]["value"] == approx(12 - bends)
    assert stranger.put(kept, {"document": OWN}).status_code == 404
    assert trainee.put(f"/code-profiles/{uuid.uuid4()}", {"document": OWN}).status_code == 403
    assert technician.put(kept, {"document": OWN, "removed": True}).status_code == 200
    assert technician.get("/code-profiles").json() == []


@pytest.mark.parametrize(
    ("document", "path"),
    [
        ({**OWN, "max_length": {"value": 12, "unit": "parsec"}}, "$.document.max_length"),
        ({k: v for k, v in OWN.items() if k != "source"}, "$.document.source"),
        ({**OWN, "fittings": []}, None),
    ],
)
def test_figures_that_hold_no_run_are_refused(document, path):
    answer = a_technician().put(f"/code-profiles/{uuid.uuid4()}", {"document": document})
    assert answer.status_code == 422
    assert path is None or answer.json()["fields"][0]["path"].startswith(path)
