"""One bad row hurts nobody else: what cannot be shown is not kept, and every refusal has one shape."""

import json
import uuid

import pytest
from django.test import Client
from tests.server.factories import AT, a_technician, job_facts
from tests.server.test_files import adds, picture

from jobs.answer import shown
from jobs.facts import writes as additions
from jobs.models import Job, Log, Mark, Reading
from warmdraft.jobfile.limits import MOST_FACTS

pytestmark = pytest.mark.django_db

MOMENTS = ["0001-01-01T00:00:00+14:00", "9999-12-31T23:59:59-12:00", "1999-12-31T23:59:59Z", "2101-01-01T00:00:00Z",
           "2026-11-25T09:00:00", 1e9, 5, None, "yesterday"]  # fmt: skip


def log_of(**more):
    return {"kind": "hood_flow", "unit": "cfm", "minutes": [*range(8)], "values": [90.0] * 8, "at": AT} | more


def writes(job, at):
    """Every kind of write with a moment in it."""
    new = uuid.uuid4
    reading = {"kind": "outlet_flow", "typed": "90", "unit": "cfm", "at": at}
    return {
        "job": (f"/jobs/{new()}", job_facts(at=at)),
        "booked_for": (f"/jobs/{new()}", job_facts(booked_for=at)),
        "reading": (f"/jobs/{job}/readings/{new()}", reading),
        "finding": (f"/jobs/{job}/findings/{new()}", {"check": "hood_flap_opens", "result": "half", "at": at}),
        "mark": (f"/jobs/{job}/marks/{new()}", {"step": "make_safe.cool", "state": "done", "at": at}),
        "cause": (f"/jobs/{job}/causes/{new()}", {"kind": "working", "fault": "hood_blocked", "at": at}),
        "log": (f"/jobs/{job}/logs/{new()}", log_of(at=at)),
        "count": (f"/jobs/{job}/counts/{new()}", {"what": "tool", "key": "a", "state": "counted", "at": at}),
        "way": (f"/jobs/{job}/ways/{new()}", {"at": at}),
        "record": (f"/jobs/{job}/record/{new()}", {"at": at, "override": "x"}),
    }


@pytest.mark.parametrize("at", MOMENTS)
def test_a_moment_that_no_calendar_holds_is_refused_everywhere_and_nothing_is_hurt(at):
    who = a_technician("lead", qualified=("live", "gas"))
    job = who.opens()
    for what, (path, body) in writes(job, at).items():
        answer = who.put(path, body)
        assert answer.status_code == 422, (what, answer.content)
        assert answer.headers["Content-Type"] == "application/problem+json"
    photo = who.client.put(f"/api/v1/jobs/{job}/photos/{uuid.uuid4()}?at={at}", picture(), content_type="image/jpeg")
    assert photo.status_code == 422
    if isinstance(at, str):
        document = who.get(f"/jobs/{job}/file").json()
        for part in ({"readings": [{"kind": "outlet_flow", "value": 90, "unit": "cfm", "at": at}]},
                     {"x-job": {"booked_for": at}},
                     {"x-job": {"marks": [{"step": "a", "state": "done", "at": at}]}}):  # fmt: skip
            fresh = {"format": "warm-draft/job", "version": 1} | part
            assert who.brings(fresh).status_code == 422, part
        assert who.get(f"/jobs/{job}/file").json() == document
    assert who.get(f"/jobs/{job}").status_code == who.get(f"/jobs/{job}/history").status_code == 200
    assert len(who.get("/jobs").json()) == 1


def test_the_same_moment_is_the_same_write_whatever_its_offset():
    who = a_technician()
    job, reading = who.opens(), str(uuid.uuid4())
    for at in ("2026-11-25T09:00:00Z", "2026-11-25T10:00:00+01:00", "2026-11-26T08:59:00+23:59"):
        assert who.reads(job, "outlet_flow", "90", "cfm", reading, at=at).status_code == 200
    assert Reading.objects.count() == 1


@pytest.mark.parametrize("minutes", [[-1e308, 0, 1, 2, 3, 4, 5, 1e308], [0, 1, 2, 3, 4, 5, 6, 1e300], [-1, *range(7)]])
def test_a_log_beyond_all_time_is_refused(minutes):
    who = a_technician()
    job = who.opens()
    answer = who.put(f"/jobs/{job}/logs/{uuid.uuid4()}", log_of(minutes=minutes))
    assert answer.status_code == 422 and "0 to 100000" in answer.json()["message"]
    assert not Log.objects.exists()


@pytest.mark.parametrize(
    ("csv", "said"),
    [
        ("time,kind,value,unit\r" + "".join(f"{i},hood_flow,90,cfm\r" for i in range(8)), None),
        ("time;kind;value;unit\n" + "".join(f"{i},5;hood_flow;90,5;cfm\n" for i in range(8)), None),
        ("time,kind,value,unit\n1,hood_flow,90," + "c" * 140_000, "line 2"),
        ("time,kind,value,unit\n" + ":".join(["59"] * 200_000) + ",hood_flow,90,cfm\n", "line 2"),
        ("\0", "NUL"),
    ],
)
def test_any_csv_is_read_or_refused_with_its_line(csv, said):
    who = a_technician()
    answer = who.put(f"/jobs/{who.opens()}/logs/{uuid.uuid4()}", {"csv": csv, "kind": "hood_flow", "at": AT})
    if said is None:
        assert answer.status_code == 200, answer.content
    else:
        assert answer.status_code == 422 and said in json.dumps(answer.json())


def test_a_body_too_large_is_a_problem_on_every_route():
    who = a_technician()
    job, large = who.opens(), json.dumps({"csv": "x" * 9_500_000, "at": AT})
    for path in (f"/jobs/{job}/logs/{uuid.uuid4()}", f"/jobs/{uuid.uuid4()}", f"/jobs/{job}/marks/{uuid.uuid4()}"):
        answer = who.client.put(f"/api/v1{path}", large, content_type="application/json")
        assert (answer.status_code, answer.json()["code"]) == (413, "too_large"), answer.content[:200]
    answer = who.brings(b"{" + b" " * 9_500_000 + b"}")
    assert answer.status_code == 413 and answer.headers["Content-Type"] == "application/problem+json"


def test_what_cannot_be_shown_is_not_kept_and_says_under_what_it_is_found(monkeypatch, caplog):
    """A write whose answer cannot be worked out leaves nothing; the error is written down, without anybody's words."""
    who = a_technician()
    job = who.opens()
    before = Job.objects.get(id=job).version
    works = shown.shown

    def stumbles(known, member):
        if any(row.typed == "91" for row in known.job.readings.all()):
            raise ValueError("cannot weigh ada@lake.example with token ABCDEFGHIJKLMNOPQRSTUVWXYZ123456")
        return works(known, member)

    monkeypatch.setattr(shown, "shown", stumbles)
    answer = who.reads(job, "outlet_flow", "91", "cfm")
    assert answer.status_code == 500 and answer.json()["code"] == "stumbled"
    assert answer.headers["X-Request-ID"] in answer.json()["message"]
    assert not Reading.objects.exists() and Job.objects.get(id=job).version == before
    assert who.get(f"/jobs/{job}").status_code == 200 and len(who.get("/jobs").json()) == 1
    (line,) = [record for record in caplog.records if record.message == "error"]
    assert line.request_id == answer.headers["X-Request-ID"] and line.route.endswith("<uuidstr:reading_id>")
    assert "ValueError" in line.traceback and "stumbles" in line.traceback
    assert "lake.example" not in line.traceback and "ABCDEFGH" not in line.traceback


@pytest.mark.parametrize("query", ["loads_a_week=nan", "loads_a_week=inf", "price_per_kwh=1e308", "loads_a_week=-1"])
def test_heat_takes_no_number_that_json_does_not_know(query):
    who = a_technician()
    assert who.get(f"/jobs/{who.opens()}/heat?{query}").status_code == 422


@pytest.mark.parametrize("levels", [31, 900, 100_000])
def test_what_is_nested_too_deeply_is_refused(levels):
    who = a_technician()
    deep = "[" * levels + "]" * levels
    body = f'{{"format": "warm-draft/job", "version": 1, "x-own": {deep}}}'
    assert who.brings(body.encode()).status_code == 422
    vent = f'{{"vent": {{"x-own": {deep}}}, "based_on": 1, "at": "{AT}"}}'
    answer = who.client.put(f"/api/v1/jobs/{who.opens()}/vent", vent, content_type="application/json")
    assert answer.status_code == 422, answer.content


def test_a_job_holds_no_more_than_its_file_may(monkeypatch):
    monkeypatch.setitem(additions._MOST, Reading, 3)
    monkeypatch.setitem(additions._MOST, Mark, 2)
    who = a_technician()
    job = who.opens()
    answers = [who.reads(job, "outlet_flow", str(90 + i), "cfm").status_code for i in range(4)]
    assert answers == [200, 200, 200, 422]
    marks = [{"step": f"open.{i}", "state": "done"} for i in range(3)]
    fresh = {"format": "warm-draft/job", "version": 1, "x-job": {"marks": marks}}
    assert who.brings(fresh).json()["code"] == "too_many"


def test_a_file_of_as_many_readings_as_there_may_be_comes_in_and_one_more_does_not():
    who = a_technician()
    reading = {"kind": "outlet_flow", "value": 90, "unit": "cfm"}
    document = {"format": "warm-draft/job", "version": 1, "readings": [reading] * (MOST_FACTS["readings"] + 1)}
    answer = who.brings(document)
    assert answer.status_code == 422 and "at most 2000 readings" in answer.json()["message"]
    answer = who.brings(document | {"readings": document["readings"][:-1]})
    assert answer.status_code == 200 and len(answer.json()["readings"]) == MOST_FACTS["readings"]


def test_what_a_file_brought_along_is_not_written_into_the_log_at_each_change():
    who = a_technician()
    document = {"format": "warm-draft/job", "version": 1, "x-own": ["n" * 9_000] * 7}
    job = who.brings(document).json()["id"]
    shown = who.get(f"/jobs/{job}").json()
    for i in range(3):
        body = {key: shown[key] for key in ("complaints", "circumstances", "told", "said", "booked_for", "place")}
        machine = {k: v for k, v in shown["machine"].items() if k != "profile_title"}
        told = who.put(f"/jobs/{job}", body | {"machine": machine, "title": f"t{i}", "based_on": 9, "at": AT})
        assert told.status_code == 200, told.content
    assert len(who.get(f"/jobs/{job}/history").content) < 10_000
    assert who.get(f"/jobs/{job}/file").json()["x-own"] == document["x-own"]


def test_habits_and_passwords_have_an_end():
    who = a_technician()
    assert who.put("/me/habits", {"carries": ["manometer"] * 600_000}).status_code == 422
    assert who.put("/me/password", {"old": "x" * 1_000, "new": "y" * 1_000}).status_code == 422
    assert who.get("/layouts/two_motors/file?energy=anything").status_code == 422
    assert who.get("/layouts/two_motors/file?supply=hard_wired&energy=gas").status_code == 200


def test_private_answers_are_kept_by_nobody_and_photos_only_by_the_browser():
    who = a_technician()
    job = who.opens()
    assert who.get(f"/jobs/{job}")["Cache-Control"] == "no-store"
    assert Client().get("/api/v1/session")["Cache-Control"] == "no-store"
    url = adds(who, job, picture()).json()["photos"][0]["url"]
    assert "immutable" in who.client.get(url)["Cache-Control"]


def test_many_writes_in_one_request_are_kept_or_refused_each_and_each_job_comes_once():
    who = a_technician()
    one, two = who.opens(), who.opens()
    reading = {"kind": "outlet_flow", "typed": "90", "unit": "cfm", "at": AT}
    same = str(uuid.uuid4())
    sent = [
        (f"jobs/{one}/readings/{same}", reading),
        (f"jobs/{one}/readings/{same}", reading),  # a repeated one is the same
        (f"jobs/{one}/readings/{uuid.uuid4()}", reading | {"typed": "a lot"}),
        (f"jobs/{two}/marks/{uuid.uuid4()}", {"step": "make_safe.cool", "state": "done", "at": AT}),
        (f"jobs/{two}/marks/{uuid.uuid4()}", {"step": "make_safe.prove_dead", "state": "done", "at": AT}),
        (f"jobs/{uuid.uuid4()}/marks/{uuid.uuid4()}", {"step": "make_safe.cool", "state": "done", "at": AT}),
        ("nowhere", {}),
        ("writes", {"writes": []}),
    ]
    body = {"writes": [{"path": f"/api/v1/{path}", "body": body} for path, body in sent]}
    answer = who.client.post("/api/v1/writes", json.dumps(body), content_type="application/json")
    told = answer.json()
    assert [row["status"] for row in told["answers"]] == [200, 200, 422, 200, 403, 404, 404, 404]
    assert told["answers"][2]["problem"]["fields"][0]["path"] == "$.typed"
    assert {job["id"]: job["version"] for job in told["jobs"]} == {one: 3, two: 3}
    assert told["jobs"][0] == who.get(f"/jobs/{told['jobs'][0]['id']}").json()
    assert [row["version"] for row in who.get("/jobs").json()] == [3, 3]  # the summaries went along


def test_of_many_writes_only_the_one_that_cannot_be_shown_is_not_kept(monkeypatch):
    who = a_technician()
    job = who.opens()
    works = shown.known_of

    def stumbles(row, layout, words):
        return 1 / 0 if any(reading.typed == "91" for reading in row.readings.all()) else works(row, layout, words)

    monkeypatch.setattr(shown, "known_of", stumbles)
    sent = [(f"/api/v1/jobs/{job}/readings/{uuid.uuid4()}", typed) for typed in ("90", "91", "92")]
    body = {"writes": [{"path": path, "body": {"kind": "outlet_flow", "typed": typed, "unit": "cfm", "at": AT}}
                       for path, typed in sent]}  # fmt: skip
    answer = who.client.post("/api/v1/writes", json.dumps(body), content_type="application/json").json()
    assert [row["status"] for row in answer["answers"]] == [200, 500, 200]
    assert sorted(Reading.objects.values_list("typed", flat=True)) == ["90", "92"]
    assert len(answer["jobs"]) == 1 and len(answer["jobs"][0]["readings"]) == 2


@pytest.mark.parametrize(
    ("method", "path", "status"),
    [("GET", "nowhere", 404), ("PATCH", "jobs", 405), ("PUT", "jobs/not-an-id", 404), ("GET", "jobs/import", 405)],
)
def test_what_no_route_takes_is_refused_in_the_one_shape(method, path, status):
    answer = a_technician().client.generic(method, f"/api/v1/{path}", "{}", content_type="application/json")
    assert (answer.status_code, answer.headers["Content-Type"]) == (status, "application/problem+json")
    assert answer.json()["status"] == status and answer.json()["message"]
