"""Requests drawn from the API's own schema, signed in and not: nothing stumbles, nothing answers outside the schema.

After each write what can be read is read: a row that could be written and not shown would be found there. Job files
are brought in with something in them changed at random.

The short form; ./warm bench sends 10,000.
"""

import copy
import json
import os

import pytest
import requests
import schemathesis
from django.test import Client
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st
from schemathesis.checks import load_all_checks
from schemathesis.specs.openapi.checks import response_schema_conformance, status_code_conformance
from tests.server.factories import a_technician, documented
from urllib3 import HTTPResponse

load_all_checks()
REQUESTS = int(os.environ.get("WARM_FUZZ", "200"))
#: A stream does not end; what comes of it is tested where it is read.
schema = schemathesis.openapi.from_dict(documented()).exclude(path_regex="/live$")
OPERATIONS = sum(1 for _ in schema.get_all_operations())


class job_of:
    """The job there is: drawn requests are about it, not about one that nobody has."""

    job = ""


@pytest.fixture
def clients(db):
    """A lead with every qualification, of a workshop with a job; and nobody."""
    who = a_technician("lead", qualified=("live", "gas"))
    job_of.job = who.opens()
    who.reads(job_of.job, "outlet_flow", "90", "cfm")
    return {True: who.client, False: Client()}


def reads_all(client, job):
    """Everything that shows what was written."""
    lists = ("jobs", "jobs?which=open", "jobs?q=ness", "places", "people", "acts", "layouts", "code-profiles")
    for path in (*lists, *(f"jobs/{job}{part}" for part in ("", "/file", "/history", "/heat", "/ways"))):
        answer = client.get(f"/api/v1/{path}")
        assert answer.status_code in (200, 404, 422), (path, answer.content[:300])
        json.loads(answer.content)


def answered(client, case):
    """Send a drawn request through Django, and give the answer as the schema's checks read it."""
    asked = requests.Request(**case.as_transport_kwargs(base_url="http://testserver")).prepare()
    path = asked.url.removeprefix("http://testserver")
    body = asked.body.encode() if isinstance(asked.body, str) else asked.body or b""
    headers = {name: str(value) for name, value in asked.headers.items() if name not in ("Content-Type", "Cookie")}
    told = client.generic(asked.method, path, body, asked.headers.get("Content-Type", ""), headers=headers)
    answer = requests.Response()
    answer.status_code, answer.request, answer.url = told.status_code, asked, asked.url
    answer.headers.update(told.headers)
    answer.raw = HTTPResponse(headers=dict(told.headers), status=told.status_code)
    answer._content = b"".join(told.streaming_content) if told.streaming else told.content
    return answer


@pytest.mark.parametrize("signed_in", [True, False])
@schema.parametrize()
@settings(
    max_examples=max(1, REQUESTS // OPERATIONS // 2), deadline=None, phases=[Phase.generate], derandomize=True,
    suppress_health_check=list(HealthCheck), database=None,
)  # fmt: skip
def test_no_request_makes_it_stumble(case, signed_in, clients):
    if signed_in and case.path_parameters and case.path_parameters.get("job_id"):
        case.path_parameters["job_id"] = job_of.job
    answer = answered(clients[signed_in], case)
    assert answer.status_code < 500, answer.text
    case.validate_response(answer, checks=[status_code_conformance, response_schema_conformance])
    if signed_in and case.method in ("PUT", "POST") and answer.status_code == 200:
        reads_all(clients[signed_in], job_of.job)


ANYTHING = st.one_of(
    st.none(), st.booleans(), st.integers(), st.floats(allow_nan=False, allow_infinity=False), st.text(max_size=20),
    st.lists(st.integers(), max_size=3), st.dictionaries(st.text(max_size=5), st.integers(), max_size=3),
    st.sampled_from(["0001-01-01T00:00:00+14:00", "9999-12-31T23:59:59-12:00", 1e300, -1e308, 5e-324, "x" * 10_001]),
)  # fmt: skip


def leaves(value, path=()):
    """Where a document's values stand."""
    yield path
    if isinstance(value, dict | list):
        for key, part in value.items() if isinstance(value, dict) else enumerate(value):
            yield from leaves(part, (*path, key))


@pytest.fixture(scope="module")
def document():
    """A job file with something of everything."""
    meter = {
        "part": "thermal_fuse",
        "instrument": "digital",
        "isolated": True,
        "reading": {"value": 0.4, "unit": "ohm"},
    }
    at = "2026-11-25T09:00:00+00:00"
    return {
        "format": "warm-draft/job", "version": 1, "title": "t", "complaints": ["long_drying"],
        "circumstances": ["pets"],
        "machine": {"profile": "full-size-electric", "layout": "two_motors", "age_years": 3,
                    "airway": {"rated_flow": {"value": 0.07, "unit": "m3/s"}}},
        "readings": [{"kind": "outlet_flow", "value": 80, "unit": "cfm", "at": at, "phase": "before"}],
        "findings": [{"check": "hood_flap_opens", "result": "half", "at": at}],
        "meter": [meter | {"at": at}],
        "logs": [{"kind": "hood_flow", "unit": "cfm", "minutes": [*range(8)], "values": [90.0] * 8, "at": at}],
        "vent": {"diameter": {"value": 4, "unit": "in"},
                 "pieces": [{"piece": "straight", "length": {"value": 2, "unit": "m"}, "material": "galvanised"}]},
        "x-job": {"booked_for": at, "said": "s", "told": {"long_drying": {"since": "may"}},
                  "machine": {"name": "m", "supply": "plug"}, "place": {"name": "p", "address": "a", "contact": "c"},
                  "marks": [{"step": "make_safe.cool", "state": "done", "why": "", "at": at}],
                  "causes": [{"kind": "working", "fault": "blower_wheel_fouled", "severity": 0.3, "at": at}],
                  "counts": [{"step": "open.blower_cover", "what": "fastener", "key": "k", "state": "out", "count": 2}],
                  "ways": [{"also": ["belt"], "avoid": [], "through": [], "at": at}]},
    }  # fmt: skip


@pytest.mark.django_db
@settings(
    max_examples=max(30, REQUESTS // 10), deadline=None, phases=[Phase.generate], derandomize=True,
    suppress_health_check=list(HealthCheck), database=None,
)  # fmt: skip
@given(data=st.data())
def test_no_file_makes_it_stumble_nor_leaves_what_cannot_be_shown(data, document, clients):
    changed = copy.deepcopy(document)
    for _ in range(data.draw(st.integers(1, 2))):
        *way, last = data.draw(st.sampled_from([path for path in leaves(changed) if path]))
        part = changed
        for key in way:
            part = part[key]
        part[last] = data.draw(ANYTHING)
    body = json.dumps(changed).encode("utf-8", "surrogatepass")
    answer = clients[True].post("/api/v1/jobs/import", body, content_type="application/json")
    assert answer.status_code in (200, 403, 404, 409, 413, 422), answer.content[:500]
    if answer.status_code == 200:
        reads_all(clients[True], answer.json()["id"])
