"""Requests drawn from the API's own schema, signed in and not: nothing stumbles, nothing answers outside the schema.

The short form; ./warm bench sends 10,000.
"""

import os

import pytest
import requests
import schemathesis
from django.test import Client
from hypothesis import HealthCheck, Phase, settings
from schemathesis.checks import load_all_checks
from schemathesis.specs.openapi.checks import response_schema_conformance, status_code_conformance
from tests.server.factories import a_technician
from urllib3 import HTTPResponse

from config.api import api

load_all_checks()
REQUESTS = int(os.environ.get("WARM_FUZZ", "200"))
#: A stream does not end; what comes of it is tested where it is read.
schema = schemathesis.openapi.from_dict(api.get_openapi_schema()).exclude(path_regex="/live$")
OPERATIONS = sum(1 for _ in schema.get_all_operations())


@pytest.fixture
def clients(db):
    """A lead with every qualification, of a workshop with a job; and nobody."""
    who = a_technician("lead", qualified=("live", "gas"))
    who.opens()
    return {True: who.client, False: Client()}


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
    answer = answered(clients[signed_in], case)
    assert answer.status_code < 500, answer.text
    case.validate_response(answer, checks=[status_code_conformance, response_schema_conformance])
