"""A workshop learns from the jobs it hands over: seen, turned off, left out, given to another; and how right it was."""

import json
import uuid

import pytest
from tests.server.factories import AT, a_technician, job_facts, measured, to_the_end

from jobs.answer.taught import sum_up
from jobs.models import CountsGiven, Found, Taught
from people.models import Role
from warmdraft.learning import WORTH_JOBS

pytestmark = pytest.mark.django_db


def a_lead():
    return a_technician(role=Role.LEAD)


def hands_over(technician, **changes):
    job, _ = to_the_end(technician, **changes)
    assert technician.put(f"/jobs/{job}/record/{uuid.uuid4()}", {"at": AT}).status_code == 200
    return job


def learned(lead):
    """What the workshop has learned, once its worker was there."""
    sum_up(lead.workshop.id)
    return lead.get("/learning").json()


def crushed(answer):
    return next(row["probability"] for row in answer["verdict"]["faults"] if row["fault"] == "transition_crushed")


def test_a_job_that_is_handed_over_counts_and_says_nothing_of_people():
    lead = a_lead()
    hands_over(lead)
    found = Found.objects.get()
    assert found.fault == "transition_crushed" and found.counts["jobs"] == 1.0
    assert found.said["faults"]["transition_crushed"] > 0.2
    text = json.dumps(lead.get("/learning/counts").json())
    assert "transition_crushed" in text
    assert not any(word in text for word in (lead.person.name, job_facts()["place"]["name"], "2026"))


def test_verdicts_go_by_what_jobs_taught_until_a_lead_turns_it_off():
    lead = a_lead()
    _, before = measured(lead)
    for _ in range(4):
        hands_over(lead)
    state = learned(lead)
    assert state["own"] == 4 and state["lessons"]["worth_jobs"] == WORTH_JOBS
    move = next(row for row in state["lessons"]["causes"] if row["holds"] == "any_machine")
    assert move["fault"] == "transition_crushed" and move["times"] > 1
    job, taught = measured(lead)
    assert crushed(taught) > crushed(before)
    assert lead.put("/learning", {"on": False}).status_code == 204
    assert crushed(lead.get(f"/jobs/{job}").json()) == pytest.approx(crushed(before))
    lead.put("/learning", {"on": True})
    assert crushed(lead.get(f"/jobs/{job}").json()) == pytest.approx(crushed(taught))


def test_the_jobs_behind_a_move_are_named_and_one_of_them_left_out():
    lead = a_lead()
    jobs = {hands_over(lead) for _ in range(3)}
    behind = lead.get("/learning/jobs?holds=any_machine&fault=transition_crushed").json()
    assert {row["id"] for row in behind} == jobs
    assert lead.get("/learning/jobs?holds=long_run&fault=transition_crushed").json() == []
    assert lead.put(f"/learning/jobs/{behind[0]['id']}", {"left_out": True}).status_code == 204
    state = learned(lead)
    assert (state["own"], state["left_out"], state["lessons"]["jobs"]) == (2, 1, 2.0)
    assert lead.put(f"/learning/jobs/{uuid.uuid4()}", {"left_out": True}).status_code == 404


def test_counts_are_given_to_another_workshop_and_taken_away_again(monkeypatch):
    giver, lead = a_lead(), a_lead()
    for _ in range(4):
        hands_over(giver)
    counts = giver.get("/learning/counts").json()
    given = uuid.uuid4()
    for _ in range(2):  # the same again is the same
        assert lead.put(f"/learning/given/{given}", {"title": "Over the fell", "counts": counts}).status_code == 204
    assert CountsGiven.objects.count() == 1
    state = learned(lead)
    assert (
        state["given"][0]["title"] == "Over the fell" and state["lessons"]["jobs"] == 4 and state["lessons"]["causes"]
    )
    assert giver.put(f"/learning/given/{given}", {"title": "mine", "counts": counts}).status_code == 404
    assert lead.client.delete(f"/api/v1/learning/given/{given}").status_code == 204
    assert not learned(lead)["lessons"]["causes"]
    monkeypatch.setattr("desk.learning.MOST_KINDS", 0)
    full = lead.put(f"/learning/given/{uuid.uuid4()}", {"title": "x", "counts": counts})
    assert full.status_code == 409 and "take one away" in full.json()["message"]
    wrong = lead.put(f"/learning/given/{uuid.uuid4()}", {"title": "x", "counts": {**counts, "jobs": -3}})
    assert wrong.status_code == 422 and "$.jobs" in wrong.json()["message"]


def test_only_a_lead_decides_what_is_learned():
    technician = a_technician()
    job = hands_over(technician)
    assert technician.get("/learning").status_code == 200
    for answer in (
        technician.put("/learning", {"on": False}),
        technician.put(f"/learning/jobs/{job}", {"left_out": True}),
        technician.get("/learning/counts"),
        technician.put(f"/learning/given/{uuid.uuid4()}", {"title": "x", "counts": {}}),
    ):
        assert answer.status_code == 403 and "lead" in answer.json()["message"]
    assert not Taught.objects.filter(on=False).exists()


def test_the_desk_says_how_work_stands_and_how_right_verdicts_were():
    lead = a_lead()
    assert lead.get("/desk").json()["right"] is None
    done = hands_over(lead)
    late, _ = measured(lead)
    part = {"part": "transition", "state": "ordered", "number": "T-1", "at": AT}
    assert lead.put(f"/jobs/{late}/parts/{uuid.uuid4()}", part).status_code == 200
    found = lead.get("/desk").json()
    assert sum(row["jobs"] for row in found["stages"]) == 1
    assert [row["id"] for row in found["late"]] == [late] == [row["id"] for row in found["parts"]]
    assert found["handed_over"] == found["accepted"] == found["fixed"] == found["right"]["jobs"] == 1
    assert found["callbacks"] == 0 and Found.objects.get().job_id == uuid.UUID(done)
    lead.put(f"/jobs/{late}/parts/{uuid.uuid4()}", {**part, "state": "packed"})
    assert lead.get("/desk").json()["parts"] == []


def test_what_one_workshop_learned_is_nothing_to_another():
    lead, other = a_lead(), a_lead()
    job = hands_over(lead)
    assert learned(other)["own"] == 0
    assert other.get("/learning/jobs").json() == []
    assert other.put(f"/learning/jobs/{job}", {"left_out": True}).status_code == 404
    assert other.get("/desk").json()["handed_over"] == 0


def test_counts_of_something_that_is_no_more_break_no_verdict():
    lead = a_lead()
    for _ in range(3):
        hands_over(lead)
    odd = Found.objects.first()
    odd.counts["causes"][0]["fault"] = "gone_with_the_last_release"
    odd.save()
    assert learned(lead)["lessons"]["jobs"] == 2
    row = Taught.objects.get()
    row.counts["causes"][0]["fault"] = "gone_with_the_last_release"
    row.as_of += 1
    row.save()
    _, answer = measured(lead)
    assert answer["verdict"]["learned"] == []
