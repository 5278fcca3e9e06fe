"""From request to rows: written once, repeated safely, never overwritten, and always with the verdict."""

import json
import subprocess
import sys
import uuid
from pathlib import Path

import pytest
from pytest import approx
from tests.server.factories import AT, a_technician, job_facts, measured, to_the_end

from demo.stories import ROUND, STORIES
from jobs.models import Finding, Happening, Job, Mark, Reading
from people.models import Person
from reports.models import Record
from reports.services import digest
from upkeep.models import Visit

pytestmark = pytest.mark.django_db
ROOT = Path(__file__).resolve().parents[2]


def test_a_put_reading_answers_with_the_new_verdict():
    technician = a_technician()
    _, answer = measured(technician)
    verdict = answer["verdict"]
    assert verdict["headline"]["code"] == "held_up_after"
    assert sum(row["probability"] for row in verdict["faults"]) == approx(1)
    assert answer["readings"][1]["unit"] == "inH2O" and answer["readings"][1]["typed"] == "1.4 in"
    assert answer["readings"][1]["canonical"]["value"] == approx(348.7, abs=0.1)
    assert answer["next"]["code"] == "make_safe"


def test_the_same_write_twice_is_one_row_and_other_facts_are_a_conflict_shown():
    technician = a_technician()
    job, reading = technician.opens(), str(uuid.uuid4())
    first = technician.reads(job, "outlet_flow", "96", "cfm", reading)
    again = technician.reads(job, "outlet_flow", "96", "cfm", reading)
    assert first.json()["readings"] == again.json()["readings"]
    assert Reading.objects.count() == 1
    assert Happening.objects.filter(what="reading_recorded").count() == 1
    other = technician.reads(job, "outlet_flow", "69", "cfm", reading)
    assert other.status_code == 409
    problem = other.json()
    assert problem["code"] == "already_recorded"
    assert problem["recorded"]["value"] == 96 and problem["offered"]["value"] == 69
    assert Reading.objects.get().value == 96


def test_a_job_changed_meanwhile_is_a_conflict_with_both_versions():
    technician = a_technician()
    job = str(uuid.uuid4())
    facts = job_facts()
    version = technician.put(f"/jobs/{job}", facts).json()["version"]
    changed = facts | {"said": "since the porch was built", "based_on": version}
    assert technician.put(f"/jobs/{job}", changed).status_code == 200
    assert technician.put(f"/jobs/{job}", changed).status_code == 200  # the same again: the same job
    late = technician.put(f"/jobs/{job}", facts | {"said": "another story", "based_on": version})
    assert late.status_code == 409
    assert late.json()["recorded"]["said"] == "since the porch was built"


def test_a_newer_reading_stands_in_for_an_older_one_and_both_stay():
    technician = a_technician()
    job, old = technician.opens(), str(uuid.uuid4())
    technician.reads(job, "outlet_flow", "160", "cfm", old)
    answer = technician.reads(job, "outlet_flow", "96", "cfm", supersedes=old).json()
    assert [row["in_force"] for row in answer["readings"]] == [False, True]
    twice = technician.reads(job, "outlet_flow", "97", "cfm", supersedes=old)
    assert twice.status_code == 409 and twice.json()["code"] == "superseded_meanwhile"
    foreign = technician.reads(technician.opens(), "outlet_flow", "97", "cfm", supersedes=old)
    assert foreign.status_code == 422


def test_a_fact_is_taken_back_and_put_back_and_never_lost():
    technician = a_technician()
    job, reading = technician.opens(), str(uuid.uuid4())
    before = technician.get(f"/jobs/{job}").json()["verdict"]["faults"]
    technician.reads(job, "outlet_static_pressure", "1.4", "inH2O", reading)
    back = technician.put(f"/jobs/{job}/facts/{reading}/withdrawn", {"withdrawn": True, "at": AT}).json()
    assert back["verdict"]["faults"] == before and Reading.objects.count() == 1
    again = technician.put(f"/jobs/{job}/facts/{reading}/withdrawn", {"withdrawn": False, "at": AT}).json()
    assert again["verdict"]["faults"] != before


@pytest.mark.parametrize(
    ("facts", "path", "words"),
    [
        (("outlet_flow", "many", "cfm"), "$.typed", "is not a number"),
        (("outlet_flow", "3 bananas", "cfm"), "$.typed", "give one of m3/s"),
        (("outlet_flow", "9000", "cfm"), "$.typed", "no machine has"),
        (("outlet_flow", "9", "Pa"), "$.unit", "is not a flow"),
        (("smell", "9", "Pa"), "$.kind", "is not a kind of reading"),
        (("blower_inlet_suction", "-0.3", "inH2O"), "$.typed", "from 0"),
    ],
)
def test_a_reading_that_cannot_be_is_refused_with_the_field_and_a_sentence(facts, path, words):
    technician = a_technician()
    answer = technician.reads(technician.opens(), *facts)
    assert answer.status_code == 422 and answer["Content-Type"] == "application/problem+json"
    assert answer.json()["fields"][0]["path"] == path
    assert words in answer.json()["message"]
    assert Reading.objects.count() == 0


@pytest.mark.parametrize(
    ("change", "path"),
    [
        ({"complaints": ["sulks"]}, "$.complaints[0]"),
        ({"circumstances": ["pets", "pets"]}, "$.circumstances[1]"),
        ({"machine": {"profile": "huge"}}, "$.machine.profile"),
        ({"machine": {"energy": "steam"}}, "$.machine.energy"),
        ({"machine": {"layout": "maze"}}, "$.machine.layout"),
        ({"booked_for": "soon"}, "$.booked_for"),
    ],
)
def test_a_job_that_cannot_be_is_refused_with_the_field(change, path):
    technician = a_technician()
    answer = technician.put(f"/jobs/{uuid.uuid4()}", job_facts(**change))
    assert answer.status_code == 422
    assert answer.json()["fields"][0]["path"] == path
    assert Job.objects.count() == 0


def test_live_work_is_recorded_only_by_the_qualified():
    plain, qualified = a_technician(), a_technician(qualified=("live",))
    refused = plain.reads(plain.opens(), "heater_current", "22", "A")
    assert refused.status_code == 403 and "qualified" in refused.json()["message"]
    assert qualified.reads(qualified.opens(), "heater_current", "22", "A").status_code == 200
    hard_wired = {"machine": {"supply": "hard_wired"}}
    assert plain.marks(plain.opens(**hard_wired), "make_safe.prove_dead").status_code == 403
    assert plain.marks(plain.opens(**hard_wired), "make_safe.prove_dead", "not_possible").status_code == 200


def test_a_trainee_works_on_a_job_but_does_not_confirm_or_hand_over():
    trainee = a_technician("trainee")
    job = trainee.opens()
    assert trainee.finds(job, "working", "hood_blocked").status_code == 200
    refused = trainee.finds(job, "confirmed", "hood_blocked")
    assert refused.status_code == 403 and "trainee" in refused.json()["message"]
    assert trainee.put(f"/jobs/{job}/record/{uuid.uuid4()}", {"at": AT}).status_code == 403


def test_marks_follow_one_another_and_the_latest_counts():
    technician = a_technician()
    job = technician.opens()
    assert technician.marks(job, "make_safe.unplug").json()["stages"][1]["settled"] == 1
    undone = technician.put(
        f"/jobs/{job}/marks/{uuid.uuid4()}",
        {"step": "make_safe.unplug", "state": "undone", "at": "2026-11-25T09:30:00+00:00"},
    )
    assert undone.json()["stages"][1]["settled"] == 0
    assert Mark.objects.count() == 2


def test_what_is_not_proven_is_handed_over_by_a_lead_with_a_reason_alone():
    lead = a_technician("lead")
    technician = a_technician("technician", lead.workshop)
    job, _ = measured(technician)
    technician.finds(job, "confirmed", "transition_crushed")

    def hands_over(who, **more):
        return who.put(f"/jobs/{job}/record/{uuid.uuid4()}", {"at": AT} | more)

    nothing = hands_over(technician)
    assert nothing.status_code == 409 and nothing.json()["code"] == "not_proven"
    as_before = technician.reads(job, "outlet_flow", "106", "cfm", phase="after").json()
    assert as_before["proof"]["code"] == "unchanged" and as_before["proof"]["decision"] == "reject"
    assert "No real change" in hands_over(technician).json()["message"]
    assert hands_over(technician, override="tired").status_code == 403
    record = hands_over(lead, override="The customer keeps it as it is.").json()["snapshot"]
    assert record["override"] and record["proof"]["decision"] == "reject"


def test_a_job_goes_from_complaint_to_record_and_the_record_never_changes():
    technician = a_technician()
    job, after = to_the_end(technician)
    assert after["proof"]["code"] == "proven" and after["next"]["code"] == "hand_over"
    record = str(uuid.uuid4())
    frozen = technician.put(f"/jobs/{job}/record/{record}", {"note": "Screen before every load.", "at": AT})
    assert frozen.status_code == 200
    assert frozen.json()["snapshot"]["proof"]["rows"][0]["text"].startswith("168 cfm, as healthy; +")
    stored = Record.objects.get()
    assert stored.sha256 == digest(stored.snapshot)
    again = technician.put(f"/jobs/{job}/record/{record}", {"note": "Screen before every load.", "at": AT})
    assert again.json() == frozen.json()
    assert technician.put(f"/jobs/{job}/record/{uuid.uuid4()}", {"at": AT}).status_code == 409
    late = technician.reads(job, "outlet_flow", "20", "cfm")
    assert late.status_code == 409 and late.json()["code"] == "handed_over"
    assert technician.get(f"/jobs/{job}/record").json() == frozen.json()
    assert technician.get(f"/jobs/{job}").json()["next"]["code"] == "handed_over"


def test_a_job_is_not_handed_over_before_its_cause_is_said():
    technician = a_technician()
    job, _ = measured(technician)
    refused = technician.put(f"/jobs/{job}/record/{uuid.uuid4()}", {"at": AT})
    assert refused.status_code == 409 and refused.json()["code"] == "cause_not_confirmed"
    assert technician.get(f"/jobs/{job}/record").status_code == 404


def test_every_act_is_in_the_history_with_who_and_when():
    technician = a_technician()
    job, _ = to_the_end(technician)
    history = technician.get(f"/jobs/{job}/history").json()
    assert [row["what"] for row in history][:2] == ["job_opened", "reading_recorded"]
    assert {"step_done", "cause_working", "cause_confirmed", "finding_recorded"} <= {row["what"] for row in history}
    assert all(row["by"] == "Ada Fell" and row["received_at"] for row in history)


def test_an_exported_job_gives_the_command_line_the_probabilities_of_the_screen(tmp_path):
    technician = a_technician()
    job, answer = measured(technician)
    file = tmp_path / "job.json"
    file.write_bytes(technician.get(f"/jobs/{job}/file").content)
    done = subprocess.run(
        [sys.executable, "-m", "warmdraft", "diagnose", str(file)], capture_output=True, check=True,
        env={"PYTHONPATH": str(ROOT / "core")},
    )  # fmt: skip
    told = json.loads(done.stdout)
    for key in ("zones", "elements"):
        assert told[key] == answer["verdict"][key]
    for ours, theirs in zip(told["faults"], answer["verdict"]["faults"], strict=True):
        assert (ours["fault"], ours["probability"]) == (theirs["fault"], theirs["probability"])


def test_imported_back_it_is_the_same_job_ids_included():
    technician = a_technician()
    job, _ = to_the_end(technician)
    old = str(uuid.uuid4())
    technician.reads(job, "hood_flow", "100", "cfm", old)
    technician.reads(job, "hood_flow", "105", "cfm", supersedes=old)
    document = technician.get(f"/jobs/{job}/file").json()
    shown = technician.get(f"/jobs/{job}").json()
    assert technician.brings(document).json() == shown  # here already, and the same
    Reading.objects.update(supersedes=None)
    Job.objects.all().delete()
    back = technician.brings(document)
    assert back.status_code == 200, back.content
    assert technician.get(f"/jobs/{job}/file").json() == document
    came = "a file that Ada Fell brought in"
    for key in ("readings", "findings", "marks", "verdict", "working_cause", "machine", "place", "proof"):
        assert without_whose(back.json()[key]) == without_whose(shown[key]), key
    assert {row["by"] for row in back.json()["readings"] + back.json()["marks"]} == {came}


def without_whose(part):
    """Who did it: of what a file brought in, that is said too."""
    if isinstance(part, list):
        return [without_whose(row) for row in part]
    return {key: value for key, value in part.items() if key != "by"} if isinstance(part, dict) else part


def test_a_job_that_differs_from_the_one_here_changes_nothing():
    technician = a_technician()
    job, _ = measured(technician)
    document = technician.get(f"/jobs/{job}/file").json()
    document["readings"][0]["value"] = 20
    refused = technician.brings(document)
    assert refused.status_code == 409 and refused.json()["fields"][0]["path"] == "$.readings"
    assert Reading.objects.filter(value=20).count() == 0


@pytest.mark.parametrize(
    ("damage", "path"),
    [
        (b'{"format": "warm-draft/job"', "$"),
        ({"format": "warm-draft/job", "version": 1, "readings": [{"kind": "outlet_flow", "value": 1, "unit": "Pa"}]},
         "$.readings[0].unit"),
        ({"format": "warm-draft/job", "version": 1, "x-job": {"id": "seven"}}, "$.x-job.id"),
        ({"format": "warm-draft/job", "version": 1, "x-job": {"marks": [{"step": "a", "state": "gone"}]}},
         "$.x-job.marks[0].state"),
        ({"format": "warm-draft/job", "version": 1, "x-job": 7}, "$.x-job"),
        ({"format": "warm-draft/job", "version": 1, "machine": {"layout": "maze"}}, "$.machine.layout"),
    ],
)  # fmt: skip
def test_a_damaged_file_is_refused_with_its_path_and_nothing_is_written(damage, path):
    technician = a_technician()
    refused = technician.brings(damage)
    assert refused.status_code == 422
    assert refused.json()["fields"][0]["path"] == path
    assert not Job.objects.exists() and not Mark.objects.exists() and not Finding.objects.exists()


def test_a_plain_job_file_from_elsewhere_comes_in():
    technician = a_technician()
    answer = technician.brings(
        {"format": "warm-draft/job", "version": 1, "machine": {"energy": "gas"}, "x-own": 1,
         "readings": [{"kind": "outlet_flow", "value": 82, "unit": "cfm", "by": "someone"}]}
    )  # fmt: skip
    assert answer.status_code == 200
    assert answer.json()["machine"]["profile"] == "full-size-gas"
    assert answer.json()["readings"][0]["by"] == "someone, by a file that Ada Fell brought in"
    assert technician.get(f"/jobs/{answer.json()['id']}/file").json()["x-own"] == 1


def test_sentences_come_in_the_persons_units():
    technician = a_technician()
    job, _ = measured(technician)
    assert "cfm" in technician.get(f"/jobs/{job}").json()["proof"]["rows"][0]["was"]
    habits = technician.get("/me").json()["habits"] | {"flow": "L/s", "pressure": "Pa", "temperature": "degC"}
    assert technician.put("/me/habits", habits).status_code == 200
    row = technician.get(f"/jobs/{job}").json()["proof"]["rows"]
    assert "L/s" in row[0]["was"] and "Pa" in row[1]["was"]
    assert technician.put("/me/habits", habits | {"flow": "buckets"}).status_code == 422


def test_signing_in_needs_the_token_and_the_right_password(client):
    person = Person.objects.get(id=a_technician().person.id)
    from django.test import Client

    strict = Client(enforce_csrf_checks=True)
    body = json.dumps({"email": person.email, "password": "a long password"})
    assert strict.post("/api/v1/session", body, content_type="application/json").status_code == 403
    token = strict.get("/api/v1/session").cookies["csrftoken"].value
    signed = strict.post("/api/v1/session", body, content_type="application/json", headers={"X-CSRFToken": token})
    assert signed.status_code == 200 and signed.json()["initials"] == "AF"
    wrong = client.post("/api/v1/session", json.dumps({"email": person.email, "password": "no"}), "application/json")
    assert wrong.status_code == 401 and "check both" in wrong.json()["message"]


def test_someone_of_no_workshop_is_told_so():
    from django.test import Client

    client = Client()
    client.force_login(Person.objects.create_user("lone@lake.example", "a long password", name="Lone"))
    assert client.get("/api/v1/jobs").json()["code"] == "no_workshop"


def test_the_demo_workshop_is_built_and_built_again():
    from django.core.management import call_command

    call_command("demo", "--reset")
    jobs = Job.objects.count()
    assert jobs >= 5
    call_command("demo")
    call_command("demo", "--reset")
    assert Job.objects.count() == jobs
    handed_over = [story for story in (*STORIES, *ROUND) if story.handed_over]
    assert Record.objects.count() == Visit.objects.count() == len(handed_over)


def test_machine_and_place_are_filled_in_and_corrected_on_the_job():
    who = a_technician()
    job = who.opens(machine={"layout": ""})
    view = who.get(f"/jobs/{job}").json()
    facts = {key: view[key] for key in ("title", "complaints", "circumstances", "told", "said", "booked_for")}
    machine = {key: view["machine"][key] for key in ("id", "name", "profile", "layout", "supply", "version")}
    plate = {"number": "LB 330", "volts": 230, "heater_watts": 2200, "amps": 10.5}
    body = facts | {
        "at": AT, "based_on": view["version"], "place": view["place"] | {"contact": "Petra Vane"},
        "machine": machine | {"energy": "electric", "supply": "hard_wired", "age_years": 12, "plate": plate},
    }  # fmt: skip
    changed = who.put(f"/jobs/{job}", body).json()
    assert changed["place"]["contact"] == "Petra Vane" and changed["machine"]["supply"] == "hard_wired"
    assert changed["machine"]["plate"] == plate and changed["machine"]["age_years"] == 12
    # and the heater is judged by its own plate: 24 ohm is right for 2200 W at 230 V
    test = {"part": "heating_element", "instrument": "digital", "isolated": True, "typed": "24.0", "at": AT}
    judged = who.put(f"/jobs/{job}/meter/{uuid.uuid4()}", test).json()["meter"][0]["verdict"]
    assert judged["verdict"] == "good", judged
    # who does not show the plate leaves it; who empties a field takes that back
    again = who.get(f"/jobs/{job}").json()
    body |= {"based_on": again["version"], "place": again["place"]}
    version = again["machine"]["version"]
    kept = body | {"machine": body["machine"] | {"plate": None, "name": "right", "version": version}}
    assert who.put(f"/jobs/{job}", kept).json()["machine"]["plate"] == plate
    now = who.get(f"/jobs/{job}").json()
    emptied = {"number": "LB 330", "volts": None, "heater_watts": None, "amps": None}
    body |= {"based_on": now["version"], "place": now["place"]}
    gone = body | {"machine": kept["machine"] | {"plate": emptied, "version": now["machine"]["version"]}}
    assert who.put(f"/jobs/{job}", gone).json()["machine"]["plate"] == emptied
    odd = gone | {"machine": gone["machine"] | {"plate": emptied | {"volts": -3}}}
    assert who.put(f"/jobs/{job}", odd).status_code == 422


def test_a_plate_goes_out_and_comes_in_with_the_job():
    who = a_technician()
    plate = {"number": "LB 330", "volts": 240, "heater_watts": 5200, "amps": None}
    job = who.opens(machine={"plate": plate})
    file = who.get(f"/jobs/{job}/file").json()
    assert file["machine"]["heat"]["power"] == {"value": 5200, "unit": "W"}
    assert file["machine"]["x-plate"] == {"number": "LB 330"}
    file["x-job"] = {"machine": {"name": "x"}, "place": {"name": "y"}}
    assert a_technician().brings(file).json()["machine"]["plate"] == plate
