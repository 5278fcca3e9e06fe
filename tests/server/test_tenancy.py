"""Another workshop's ids are not found, on every route; and nobody signed out gets in."""

import json
import re
import uuid
from contextlib import contextmanager
from copy import deepcopy

import pytest
from django.db import transaction
from django.test import Client
from tests.server.factories import AT, a_technician, documented, job_facts

from jobs.models import Job, Reading
from machines.models import CodeProfile, OwnLayout
from warmdraft.teardown import layout_document

pytestmark = pytest.mark.django_db

BODIES = {
    "/jobs/{job_id}": job_facts(),
    "/jobs/{job_id}/readings/{reading_id}": {"kind": "outlet_flow", "typed": "90", "unit": "cfm", "at": AT},
    "/jobs/{job_id}/findings/{finding_id}": {"check": "hood_air", "result": "weak", "at": AT},
    "/jobs/{job_id}/meter/{test_id}": {
        "part": "door_switch",
        "instrument": "digital",
        "isolated": True,
        "typed": "open",
        "at": AT,
    },
    "/jobs/{job_id}/logs/{log_id}": {
        "kind": "hood_flow",
        "unit": "cfm",
        "minutes": list(range(8)),
        "values": [90.0] * 8,
        "at": AT,
    },
    "/drills/{job_id}": {"case": "moved_in_spring"},
    "/drills/{job_id}/ended": {},
    "/ground/wishes/{job_id}": {"windows": []},
    "/jobs/{job_id}/link": {"on": True},
    "/learning/jobs/{job_id}": {"left_out": True},
    "/jobs/{job_id}/vent": {"vent": None, "based_on": 1, "at": AT},
    "/jobs/{job_id}/plan": {"plan": None, "based_on": 1, "at": AT},
    "/jobs/{job_id}/facts/{fact_id}/withdrawn": {"withdrawn": True, "at": AT},
    "/jobs/{job_id}/editions/{edition_id}": {"why": "it came back", "at": AT},
    "/jobs/{job_id}/marks/{mark_id}": {"step": "make_safe.unplug", "state": "done", "at": AT},
    "/jobs/{job_id}/photos/{photo_id}": {},
    "/jobs/{job_id}/sounds/{sound_id}": {},
    "/jobs/{job_id}/causes/{cause_id}": {"kind": "working", "fault": "hood_blocked", "at": AT},
    "/jobs/{job_id}/record/{record_id}": {"at": AT},
    "/jobs/{job_id}/ways/{way_id}": {"avoid": ["drum"], "at": AT},
    "/jobs/{job_id}/works/{work_id}": {"part": "hood", "act": "clear", "at": AT},
    "/jobs/{job_id}/photos/{photo_id}/notes/{note_id}": {"on_record": True, "wires": [], "at": AT},
    "/jobs/{job_id}/added/{added_id}": {
        "operation": {
            "id": "own",
            "does": "Lid",
            "open_minutes": 1,
            "close_minutes": 1,
            "driver": None,
            "needs": [],
            "reaches": [],
            "fasteners": [],
        },
        "at": AT,
    },
    "/jobs/{job_id}/old-parts/{dealing_id}": {"kind": "high_limit", "marks": {"voltage": "250 V"}, "at": AT},
    "/jobs/{job_id}/lint/{dealing_id}": {"act": "lint_duct.clean", "grade": 2, "at": AT},
    "/jobs/{job_id}/parts/{dealing_id}": {"part": "belt", "state": "packed", "at": AT},
    "/jobs/{job_id}/agreements/{dealing_id}": {"lines": [], "total": "9.00", "currency": "EUR", "at": AT},
    "/jobs/{job_id}/counts/{count_id}": {"step": "", "what": "tool", "key": "in the bag", "state": "counted", "at": AT},
}

#: What is asked with more than a moment, and changes nothing.
QUERIES = {
    "/jobs/{job_id}/seal": "&cuts=foam&across=200",
    "/jobs/{job_id}/lint": "&line=line.lint_duct.clean",
    "/jobs/{job_id}/clearance": "&joins=opposite",
    "/jobs/{job_id}/makeup": "&opening_free=100",
    "/jobs/{job_id}/riser": "&machines=3",
}
#: What is asked with a body, and changes nothing.
ASKS = {
    "/jobs/{job_id}/balance": {"radius_mm": 80, "runs": [{"amplitude": 1}]},
    "/drills/{job_id}/asked": {"check": "hood_air"},
}


def routes():
    for path, methods in documented()["paths"].items():
        for method in methods:
            yield method, path.removeprefix("/api/v1")


#: Open to those who are not signed in; all others are not.
AT_THE_DOOR = [
    ("get", "/session"), ("post", "/session"), ("post", "/lost-password"), ("post", "/new-password"),
    ("post", "/join"), ("post", "/join/look"),
]  # fmt: skip
WITH_A_JOB = [(method, path) for method, path in routes() if "{job_id}" in path]


def test_the_walk_knows_a_body_for_every_write():
    assert {path for method, path in WITH_A_JOB if method == "put"} == set(BODIES)
    assert len(WITH_A_JOB) >= 10


@contextmanager
def put_back(who):
    """Whatever a request does, the next one finds all as it was."""
    cookies = deepcopy(who.client.cookies)
    with transaction.atomic():
        yield
        transaction.set_rollback(True)
    who.client.cookies = cookies


def test_a_strangers_job_is_not_found_by_any_route():
    owner, stranger = a_technician("lead"), a_technician("lead", qualified=("live", "gas"))
    job, reading = owner.opens(), str(uuid.uuid4())
    owner.reads(job, "outlet_flow", "96", "cfm", reading)
    version = Job.objects.get(id=job).version
    for method, path in WITH_A_JOB:
        where = re.sub(r"{(\w+)}", lambda m: job if m[1] == "job_id" else reading, path)
        with put_back(stranger):
            answer = stranger.client.generic(
                method.upper(),
                f"/api/v1{where}?at=2026-11-25T09:00:00Z{QUERIES.get(path, '')}",
                json.dumps((BODIES | ASKS).get(path, {})),
                content_type="application/json",
            )
            assert answer.status_code == 404, (method, path, answer.content)
            assert Job.objects.get(id=job).version == version, (method, path)


@pytest.mark.parametrize(("method", "path"), [r for r in routes() if r not in AT_THE_DOOR])
def test_nobody_signed_out_gets_in(method, path):
    where = re.sub(r"{\w+}", str(uuid.uuid4()), path)
    answer = Client().generic(method.upper(), f"/api/v1{where}", "{}", content_type="application/json")
    assert answer.status_code == 401
    assert answer.json()["code"] == "not_signed_in"


@pytest.mark.parametrize("taken", ["reading", "place", "machine"])
def test_an_id_in_use_elsewhere_is_not_found(taken):
    owner, stranger = a_technician(), a_technician()
    facts = job_facts()
    job, reading = str(uuid.uuid4()), str(uuid.uuid4())
    owner.put(f"/jobs/{job}", facts)
    owner.reads(job, "outlet_flow", "96", "cfm", reading)
    if taken == "reading":
        answer = stranger.reads(stranger.opens(), "outlet_flow", "96", "cfm", reading)
    else:
        answer = stranger.put(f"/jobs/{uuid.uuid4()}", job_facts(**{taken: {"id": facts[taken]["id"]}}))
    assert answer.status_code == 404
    assert Reading.objects.filter(workshop=stranger.workshop).count() == 0


def test_lists_show_only_ones_own_workshop():
    owner, stranger = a_technician(), a_technician()
    owner.opens()
    assert stranger.get("/jobs").json() == []
    assert stranger.get("/places").json() == []
    assert len(owner.get("/jobs").json()) == 1


def test_a_strangers_job_file_cannot_be_brought_in():
    owner, stranger = a_technician(), a_technician()
    document = owner.get(f"/jobs/{owner.opens()}/file").json()
    assert stranger.brings(document).status_code == 404
    fresh = document | {"x-job": document["x-job"] | {"id": str(uuid.uuid4())}}
    assert stranger.brings(fresh).status_code == 404  # its machine and place are the owner's
    assert not Job.objects.filter(workshop=stranger.workshop).exists()


def test_answers_carry_the_security_headers():
    answer = Client().get("/api/v1/session")
    policy = answer["Content-Security-Policy"]
    assert "script-src 'self'" in policy and "unsafe-inline" not in policy and "default-src 'none'" in policy
    assert answer["X-Content-Type-Options"] == "nosniff" and answer["X-Frame-Options"] == "DENY"


#: Bodies of the routes below no job; None where there is none.
OTHER_BODIES = {
    "/session": {"email": "nobody@lake.example", "password": "x"}, "/lost-password": {"email": "nobody@lake.example"},
    "/new-password": {"key": "a", "token": "b", "new": "brand new words 1"}, "/join/look": {"token": "a"},
    "/join": {"token": "a", "name": "n", "password": "brand new words 1"},
    "/me/password": {"old": "no", "new": "brand new words 1"}, "/me/habits": {},
    "/stock/stores/{store_id}": {"name": "Van"},
    "/stock/movements/{movement_id}": {"store": str(uuid.uuid4()), "number": "A1", "change": 1, "at": AT},
    "/stock/figures": {"based_on": 1},
    "/people/{person_id}": {"role": "trainee", "qualifications": []},
    "/invitations/{invitation_id}": {"email": "new@lake.example", "role": "trainee"},
    "/code-profiles/{profile_id}": {"document": {}},
    "/layouts/{layout_id}": {"document": layout_document("two_motors")},
    "/workshop": {"currency": "EUR", "time_zone": "UTC", "language": "en"},
    "/ground/base": {"name": "Yard"}, "/ground/places/{place_id}": {"latitude": 0, "longitude": 0},
    "/ground/vans/{van_id}": {"name": "Van"}, "/ground/table": {"csv": "place,latitude,longitude"},
    "/drills/cases/{case_id}": {"job_id": str(uuid.uuid4()), "title": "A case"},
    "/learning": {"on": False},
    "/learning/given/{counts_id}": {
        "title": "Over the fell", "counts": {"format": "warm-draft/counts", "version": 1, "jobs": 0}
    },
    "/me/workshop": {"id": str(uuid.uuid4())},
    "/writes": {"writes": [{"path": f"/api/v1/jobs/{uuid.uuid4()}", "body": job_facts()}]},
}  # fmt: skip


def asked(who, method, path, ids):
    """One request to a route, its ids filled in."""
    where = re.sub(r"{(\w+)}", lambda m: str(ids.get(m[1], uuid.uuid4())), path)
    body = (BODIES | OTHER_BODIES).get(path, {})
    return who.client.generic(
        method.upper(), f"/api/v1{where}?at=2026-11-25T09:00:00Z", json.dumps(body), content_type="application/json"
    )


@pytest.mark.parametrize("role", ["trainee", "technician", "lead"])
def test_every_route_answers_every_role_as_it_says_and_a_stranger_finds_nothing(role):
    """All routes: documented answers only, 403 with a reason; ids of another workshop's are not found."""
    owner = a_technician("lead")
    colleague = a_technician("technician", owner.workshop)
    job, profile, own = owner.opens(), uuid.uuid4(), uuid.uuid4()
    CodeProfile.objects.create(id=profile, workshop=owner.workshop, document={})
    OwnLayout.objects.create(id=own, workshop=owner.workshop, document={"title": owner.workshop.name})
    theirs = {"job_id": job, "person_id": colleague.person.id, "profile_id": profile, "sha256": "0" * 64,
              "layout_id": own, "name": own}  # fmt: skip
    person = a_technician(role)
    mine = {"job_id": person.opens(), "person_id": person.person.id}
    for method, path in routes():
        if path.endswith("/live"):
            continue  # a stream does not end; tests/server/test_live.py follows one
        with put_back(person):
            answer = asked(person, method, path, mine)
        assert str(answer.status_code) in {
            str(code) for code in documented()["paths"][f"/api/v1{path}"][method]["responses"]
        }, path
        if answer.status_code == 403:
            reasons = ("not_qualified", "not_in_workshop")
            assert answer.json()["message"].startswith(f"As {role} you can't") or answer.json()["code"] in reasons
        if set(re.findall(r"{(\w+)}", path)) & set(theirs):
            strange = asked(person, method, path, theirs)  # not put back: what it did would be seen below
            assert strange.status_code in (404, 403, 422), (method, path, strange.content)
            assert owner.workshop.name.encode() not in strange.content
    assert OwnLayout.objects.get(id=own).version == 1
    assert Job.objects.get(id=job).version == 2 and CodeProfile.objects.get(id=profile).document == {}
    assert colleague.get("/me").json()["role"] == "technician"
