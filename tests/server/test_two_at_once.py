"""Phone and laptop write at once; and whatever a client sends, the server answers in its own shape."""

import json
import threading
import uuid

import pytest
from django.db import connection
from django.test import Client
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from tests.server.factories import AT, a_technician, documented, job_facts

from jobs.models import Cause, Happening, Job, Mark, Reading
from reports.models import Record


def at_once(*acts):
    """Run acts in threads of their own that start together; their answers."""
    gate, answers = threading.Barrier(len(acts)), [None] * len(acts)

    def run(place, act):
        gate.wait()
        try:
            answers[place] = act()
        finally:
            connection.close()

    threads = [threading.Thread(target=run, args=(i, act)) for i, act in enumerate(acts)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return answers


def twin(technician):
    """The same person on another device."""
    client = Client()
    client.force_login(technician.person)
    return type(technician)(client, technician.person, technician.workshop)


@pytest.mark.django_db(transaction=True)
def test_the_same_write_from_two_devices_is_one_row():
    phone = a_technician()
    laptop = twin(phone)
    job, reading = phone.opens(), str(uuid.uuid4())
    answers = at_once(
        *(lambda who=who: who.reads(job, "outlet_flow", "96", "cfm", reading) for who in (phone, laptop, phone, laptop))
    )
    assert {answer.status_code for answer in answers} == {200}
    assert Reading.objects.count() == 1
    assert Happening.objects.filter(what="reading_recorded").count() == 1


@pytest.mark.django_db(transaction=True)
def test_two_replacements_of_one_reading_are_one_and_a_conflict():
    phone = a_technician()
    laptop = twin(phone)
    job, old = phone.opens(), str(uuid.uuid4())
    phone.reads(job, "outlet_flow", "160", "cfm", old)
    answers = at_once(
        lambda: phone.reads(job, "outlet_flow", "96", "cfm", supersedes=old),
        lambda: laptop.reads(job, "outlet_flow", "99", "cfm", supersedes=old),
    )
    assert sorted(answer.status_code for answer in answers) == [200, 409]
    assert Reading.objects.count() == 2


@pytest.mark.django_db(transaction=True)
def test_two_hand_overs_freeze_one_record():
    phone = a_technician("lead")
    laptop = twin(phone)
    job = phone.opens()
    phone.finds(job, "working", "hood_blocked")
    phone.finds(job, "confirmed", "hood_blocked")
    phone.proves(job)
    answers = at_once(
        *(lambda who=who: who.put(f"/jobs/{job}/record/{uuid.uuid4()}", {"at": AT}) for who in (phone, laptop))
    )
    assert sorted(answer.status_code for answer in answers) == [200, 409]
    assert Record.objects.count() == 1


@pytest.mark.django_db(transaction=True)
def test_many_marks_at_once_all_stand():
    phone = a_technician()
    laptop = twin(phone)
    job = phone.opens()
    acts = [
        lambda who=who, step=step: who.marks(job, f"make_safe.{step}")
        for who, step in zip((phone, laptop) * 2, ("load_out", "unplug", "cool", "hands"), strict=True)
    ]
    assert {answer.status_code for answer in at_once(*acts)} == {200}
    assert Mark.objects.count() == 4
    assert phone.get(f"/jobs/{job}").json()["stages"][1]["state"] == "done"
    assert Job.objects.get().version == 6  # opened, then four marks, each counted


anything = st.recursive(
    st.none() | st.booleans() | st.integers(-(2**40), 2**40) | st.floats(allow_nan=False) | st.text(max_size=12),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=8), inner, max_size=3),
    max_leaves=6,
)
WRITES = {
    "readings": {"kind": "outlet_flow", "typed": "96", "unit": "cfm", "instrument": "", "phase": "before",
                 "heat_on": False, "visit": None, "supersedes": None, "at": AT},
    "findings": {"check": "hood_air", "result": "weak", "why": "", "phase": "before", "supersedes": None, "at": AT},
    "meter": {"part": "door_switch", "instrument": "digital", "isolated": True, "typed": "0.4", "unit": "ohm",
              "at": AT},
    "logs": {"kind": "hood_flow", "unit": "cfm", "minutes": [0, 1, 2, 3, 4, 5], "values": [9, 9, 9, 9, 9, 9], "at": AT},
    "marks": {"step": "make_safe.unplug", "state": "done", "why": "", "at": AT},
    "causes": {"kind": "working", "fault": "hood_blocked", "severity": None, "at": AT},
    "record": {"note": "", "at": AT},
}  # fmt: skip


@pytest.mark.django_db
@pytest.mark.parametrize("kind", WRITES)
def test_no_body_makes_the_server_stumble(kind):
    technician = a_technician("lead", qualified=("live",))
    job = technician.opens()

    @settings(max_examples=40, deadline=None, suppress_health_check=list(HealthCheck))
    @given(st.data())
    def bodies(data):
        good = WRITES[kind]
        key = data.draw(st.sampled_from(sorted(good)))
        body = good | {key: data.draw(anything)}
        answer = technician.put(f"/jobs/{job}/{kind}/{uuid.uuid4()}", body)
        assert answer.status_code in (200, 403, 404, 409, 422), (body, answer.content)
        if answer.status_code != 200:
            problem = answer.json()
            assert {"code", "message", "status", "fields", "title"} <= set(problem)
            assert problem["message"] and "Traceback" not in problem["message"]

    bodies()


@pytest.mark.django_db
@pytest.mark.parametrize("text", ["\x00", "a\x00b", "\ud83d"])
def test_text_that_no_database_holds_is_refused_at_its_field(text):
    technician = a_technician("lead")
    job = technician.opens()
    path = f"/jobs/{job}/findings/{uuid.uuid4()}"
    answer = technician.put(path, WRITES["findings"] | {"why": text})
    assert answer.status_code == 422 and "half a character" in answer.json()["message"]
    document = technician.get(f"/jobs/{job}/file").json() | {"title": text}
    assert technician.brings(document).status_code == 422


@pytest.mark.django_db
def test_no_file_makes_the_import_stumble():
    technician = a_technician("lead")
    document = technician.get(f"/jobs/{technician.opens()}/file").json()

    @settings(max_examples=60, deadline=None, suppress_health_check=list(HealthCheck))
    @given(st.data())
    def files(data):
        broken = json.loads(json.dumps(document))
        broken["x-job"]["id"] = str(uuid.uuid4())
        broken["x-job"]["machine"]["id"] = broken["x-job"]["place"]["id"] = str(uuid.uuid4())
        where = broken if data.draw(st.booleans()) else broken["x-job"]
        where[data.draw(st.sampled_from(sorted(where)))] = data.draw(anything)
        answer = technician.brings(broken)
        assert answer.status_code in (200, 404, 409, 422), (broken, answer.content)

    files()


@pytest.mark.django_db
@pytest.mark.parametrize("body", [b"", b"{", b"[]", b"null", b"\xff\xfe", b'"text"', b"[" * 5000])
def test_what_is_no_object_is_refused_as_such(body):
    technician = a_technician()
    answer = technician.client.put(f"/api/v1/jobs/{uuid.uuid4()}", body, content_type="application/json")
    assert answer.status_code in (400, 422), answer.content
    assert answer.json()["message"]


@pytest.mark.django_db
@pytest.mark.parametrize("path", ["/jobs/seven", "/jobs/1/2/3", "/nowhere", "/jobs/../../etc/passwd"])
def test_an_address_that_is_none_is_not_found(path):
    technician = a_technician()
    assert technician.get(path).status_code == 404


def test_every_route_says_what_it_refuses():
    for path, methods in documented()["paths"].items():
        for method, route in methods.items():
            if path.endswith("/session") and method != "delete":
                continue
            assert "401" in {str(code) for code in route["responses"]}, (method, path)


@pytest.mark.django_db
def test_a_cause_of_the_files_own_comes_in_as_confirmed():
    technician = a_technician("lead")
    document = {"format": "warm-draft/job", "version": 1, "confirmed": [{"fault": "hood_blocked", "severity": 20}]}
    shown = technician.brings(document).json()
    assert shown["confirmed_cause"]["fault"] == "hood_blocked" and Cause.objects.get().severity == 20


@pytest.mark.django_db
def test_a_known_machine_is_not_doubled_by_a_new_job_on_it():
    technician = a_technician()
    facts = job_facts()
    for _ in range(2):
        assert technician.put(f"/jobs/{uuid.uuid4()}", facts).status_code == 200
    places = technician.get("/places").json()
    assert [len(place["machines"]) for place in places] == [1]
    renamed = facts | {"machine": facts["machine"] | {"name": "right machine", "version": 1}}
    assert technician.put(f"/jobs/{uuid.uuid4()}", renamed).json()["machine"]["name"] == "right machine"
