"""Drills: a hidden machine answers on the very same routes, the end says what was better, and nothing of it leaves."""

import json
import uuid

import pytest
from tests.server.factories import AT, a_technician, job_facts, to_the_end

from desk.figures import desk
from drills.models import Drill, DrillCase
from jobs.models import Found, Job
from people.may import member
from people.models import Membership, Role
from warmdraft.drill import ladder

pytestmark = pytest.mark.django_db
CASE = "moved_in_spring"


class Trainee:
    """Somebody who works a drill: asks in its room, and outside it."""

    def __init__(self, **more):
        self.person = a_technician(**{"role": Role.TRAINEE} | more)
        self.job = str(uuid.uuid4())
        self.room = ""

    def begins(self, case=CASE):
        answer = self.person.put(f"/drills/{self.job}", {"case": case})
        assert answer.status_code == 200, answer.content
        self.room = answer.json()["room"]
        return answer.json()

    def asks(self, method, path, body=None):
        return self.person.client.generic(
            method, f"/api/v1{path}", json.dumps(body) if body is not None else "", content_type="application/json",
            headers={"X-Warm-Workshop": self.room},
        )  # fmt: skip

    def gave(self, check, phase="before"):
        return self.asks("POST", f"/drills/{self.job}/asked", {"check": check, "phase": phase}).json()

    def looks(self, check):
        result = self.gave(check)["result"]
        body = {"check": check, "result": result, "at": AT}
        assert self.asks("PUT", f"/jobs/{self.job}/findings/{uuid.uuid4()}", body).status_code == 200
        return result

    def says(self, fault):
        body = {"kind": "working", "fault": fault, "at": AT}
        assert self.asks("PUT", f"/jobs/{self.job}/causes/{uuid.uuid4()}", body).status_code == 200

    def ends(self):
        return self.asks("PUT", f"/drills/{self.job}/ended").json()


def test_a_drill_is_worked_on_the_routes_of_a_job_and_told_at_its_end():
    trainee = Trainee()
    begun = trainee.begins()
    assert begun["title"] and begun["ended_at"] is None and begun["minutes"] is None
    job = trainee.asks("GET", f"/jobs/{trainee.job}").json()
    assert job["complaints"] == ["long_drying"] and job["readings"] == [] and "crushed" not in job["place"]["name"]
    assert trainee.person.get(f"/drills/{trainee.job}").json()["hidden"] == []
    trainee.looks("behind_look")
    trainee.says("transition_crushed")
    told = trainee.ends()
    assert told["found"] and told["minutes"] > 0 and [row["fault"] for row in told["hidden"]] == ["transition_crushed"]
    assert [move["subject"] for move in told["told"]["own"]] == ["behind_look", "transition_crushed"]
    # mended, and nothing measured after it
    assert [row["code"] for row in told["told"]["unsafe"]] == ["not_proven"]
    assert trainee.ends() == told and told["cost"] is None
    lead = a_technician("lead", trainee.person.workshop)
    assert lead.put("/stock/figures", {"hour": "60", "based_on": 1}).status_code == 200
    priced = lead.get(f"/drills/{trainee.job}").json()
    assert float(priced["cost"]) == pytest.approx(told["minutes"], abs=0.06)
    assert float(priced["better_cost"]) == pytest.approx(told["better_minutes"], abs=0.06)
    late = {"kind": "outlet_flow", "typed": "100", "unit": "cfm", "at": AT}
    assert trainee.asks("PUT", f"/jobs/{trainee.job}/readings/{uuid.uuid4()}", late).status_code == 409
    assert trainee.asks("POST", f"/drills/{trainee.job}/asked", {"check": "hood_air"}).status_code == 409


def test_the_machine_answers_alike_until_it_is_mended_and_healthier_after_it():
    trainee = Trainee()
    trainee.begins()
    first = trainee.gave("outlet_flow")["value"]["value"]
    assert trainee.gave("outlet_flow")["value"]["value"] == first
    trainee.says("transition_crushed")
    assert trainee.gave("outlet_flow", "after")["value"]["value"] > 1.3 * first
    asked = trainee.asks("POST", f"/drills/{trainee.job}/asked", {"check": "log_flow"})
    assert asked.status_code == 422 and "no check that a drill can answer" in asked.json()["message"]


@pytest.mark.parametrize("case", ladder())
def test_every_case_of_the_ladder_can_be_begun_and_gives_nothing_away(case):
    trainee = Trainee()
    trainee.begins(case)
    text = trainee.asks("GET", f"/jobs/{trainee.job}/file").content.decode()
    assert "suppose" not in text and "lies" not in text
    assert trainee.gave("behind_look")["result"]


def test_nothing_of_a_drill_is_seen_from_the_workshop_or_teaches_it():
    trainee = Trainee(role=Role.LEAD)
    lead = trainee.person
    trainee.begins()
    trainee.says("transition_crushed")
    trainee.ends()
    assert lead.get("/jobs?shut=true").json() == [] and lead.get("/jobs").json() == []
    assert lead.get(f"/jobs/{trainee.job}").status_code == 404
    assert desk(member(lead.person)).handed_over == 0 and not Found.objects.filter(workshop=lead.workshop).exists()
    me = trainee.asks("GET", "/me").json()
    assert me["practice_of"] == str(lead.workshop.id)
    assert [row["id"] for row in me["workshops"]] == [str(lead.workshop.id)]
    refused = trainee.asks("PUT", "/invitations/" + str(uuid.uuid4()), {"email": "a@b.example", "role": "lead"})
    assert refused.status_code == 403 and "room for drills" in refused.json()["message"]


def test_whoever_leaves_the_workshop_leaves_its_room_for_drills():
    trainee = Trainee()
    trainee.begins()
    assert trainee.person.client.delete(f"/api/v1/people/{trainee.person.person.id}/membership").status_code == 204
    assert not Membership.objects.filter(person=trainee.person.person).exists()


def test_a_drill_is_its_own_persons_and_a_lead_sees_all():
    trainee = Trainee()
    trainee.begins()
    other = Trainee(workshop=trainee.person.workshop)
    other.begins("it_rumbles")
    assert other.person.get(f"/drills/{trainee.job}").status_code == 404
    assert other.asks("PUT", f"/drills/{trainee.job}/ended").status_code == 403
    assert [row["job_id"] for row in other.person.get("/drills").json()["drills"]] == [other.job]
    lead = a_technician("lead", trainee.person.workshop)
    assert {row["job_id"] for row in lead.get("/drills").json()["drills"]} == {trainee.job, other.job}
    stranger = Trainee()
    assert stranger.person.put(f"/drills/{trainee.job}", {"case": CASE}).status_code == 404
    assert stranger.person.get(f"/drills/{trainee.job}").status_code == 404


def test_a_lead_makes_a_case_of_a_job_without_its_names():
    lead = a_technician(role=Role.LEAD)
    job, _ = to_the_end(lead)
    assert lead.put(f"/jobs/{job}/record/{uuid.uuid4()}", {"at": AT}).status_code == 200
    case = str(uuid.uuid4())
    body = {"job_id": job, "title": "The one behind the wall"}
    assert lead.put(f"/drills/cases/{case}", body).status_code == 204
    assert lead.put(f"/drills/cases/{case}", body).status_code == 204
    text = json.dumps(DrillCase.objects.get().document)
    assert "transition_crushed" in text
    place = job_facts()["place"]
    assert not any(name in text for name in (place["name"], place["address"], lead.person.name) if name)
    trainee = Trainee(workshop=lead.workshop)
    trainee.begins(case)
    assert trainee.looks("behind_look") and not trainee.ends()["found"]
    assert trainee.person.put(f"/drills/cases/{uuid.uuid4()}", body).status_code == 403
    assert lead.client.delete(f"/api/v1/drills/cases/{case}").status_code == 204
    assert lead.get("/drills").json()["cases"] == []
    assert Drill.objects.count() == 1


def test_a_job_without_a_confirmed_cause_makes_no_case():
    lead = a_technician(role=Role.LEAD)
    answer = lead.put(f"/drills/cases/{uuid.uuid4()}", {"job_id": lead.opens(), "title": "x"})
    assert answer.status_code == 422 and "confirmed" in answer.json()["message"]
    assert Job.objects.count() == 1
