"""A complete, believable workshop and job in one call; a test names only what it is about."""

from __future__ import annotations

import json
import uuid
from dataclasses import dataclass
from functools import cache
from typing import Any

from django.test import Client

from config.api import api
from people.models import Membership, Person, Role, Workshop

AT = "2026-11-25T09:00:00+00:00"


@dataclass
class Technician:
    """Someone signed in, and what they ask of the server."""

    client: Client
    person: Person
    workshop: Workshop

    def put(self, path: str, body: Any) -> Any:
        return self.client.put(f"/api/v1{path}", data=json.dumps(body), content_type="application/json")

    def get(self, path: str) -> Any:
        return self.client.get(f"/api/v1{path}")

    def opens(self, **changes: Any) -> str:
        """Open a job; its id."""
        job = str(uuid.uuid4())
        answer = self.put(f"/jobs/{job}", job_facts(**changes))
        assert answer.status_code == 200, answer.content
        return job

    def reads(self, job: str, kind: str, typed: str, unit: str, reading: str | None = None, **changes: Any) -> Any:
        """Record a reading; the answer."""
        body = {"kind": kind, "typed": typed, "unit": unit, "at": AT} | changes
        return self.put(f"/jobs/{job}/readings/{reading or uuid.uuid4()}", body)

    def marks(self, job: str, step: str, state: str = "done") -> Any:
        return self.put(f"/jobs/{job}/marks/{uuid.uuid4()}", {"step": step, "state": state, "at": AT})

    def sends(self, writes: list[tuple[str, Any]]) -> None:
        """Many writes together, as a device sends what waited for a line; all of them kept."""
        for i in range(0, len(writes), 50):
            body = {"writes": [{"path": f"/api/v1{path}", "body": facts} for path, facts in writes[i : i + 50]]}
            answer = self.client.post("/api/v1/writes", json.dumps(body), content_type="application/json")
            assert answer.status_code == 200, answer.content
            refused = [one for one in answer.json()["answers"] if one["problem"]]
            assert not refused, refused

    def does(self, job: str, steps: list[dict[str, Any]]) -> None:
        """Mark steps done, as a job's answer has them, one after the other."""
        body = {"state": "done", "at": AT}
        self.sends([(f"/jobs/{job}/marks/{uuid.uuid4()}", body | {"step": step["id"]}) for step in steps])

    def finds(self, job: str, kind: str, fault: str) -> Any:
        return self.put(f"/jobs/{job}/causes/{uuid.uuid4()}", {"kind": kind, "fault": fault, "at": AT})

    def proves(self, job: str) -> Any:
        """Measure a machine that is as it should be, after the work; the last answer."""
        self.reads(job, "outlet_flow", "170", "cfm", phase="after")
        return self.reads(job, "outlet_static_pressure", "0.38", "inH2O", phase="after")

    def brings(self, document: Any) -> Any:
        body = document if isinstance(document, bytes) else json.dumps(document).encode()
        return self.client.post("/api/v1/jobs/import", data=body, content_type="application/json")


def a_technician(
    role: str = Role.TECHNICIAN, workshop: Workshop | None = None, qualified: tuple[str, ...] = ()
) -> Technician:
    person = Person.objects.create_user(f"{uuid.uuid4()}@lake.example", "a long password", name="Ada Fell")
    workshop = workshop or Workshop.objects.create(name=f"Workshop {uuid.uuid4()}")
    Membership.objects.create(person=person, workshop=workshop, role=role, qualifications=sorted(qualified))
    client = Client()
    client.force_login(person)
    return Technician(client, person, workshop)


@cache
def documented() -> dict[str, Any]:
    """What the API says of itself, written out once: it takes seconds."""
    described: dict[str, Any] = json.loads(json.dumps(api.get_openapi_schema()))
    return described


def job_facts(**changes: Any) -> dict[str, Any]:
    machine = {
        "id": str(uuid.uuid4()), "name": "left machine", "profile": "full-size-electric",
        "layout": "top_screen_rear_duct", "energy": "electric", "supply": "plug", "age_years": 7,
    }  # fmt: skip
    place = {"id": str(uuid.uuid4()), "name": "Otter Ness kennels", "address": "2 Ness Lane", "contact": "Maro Tindle"}
    return {
        "title": "Towels take all afternoon", "complaints": ["long_drying"], "circumstances": ["pets"], "said": "",
        "booked_for": AT, "at": AT, "based_on": None,
        **changes, "machine": machine | changes.get("machine", {}), "place": place | changes.get("place", {}),
    }  # fmt: skip


COLLAR = (
    ("outlet_flow", "106", "cfm"),
    ("outlet_static_pressure", "1.4 in", "inH2O"),
    ("blower_inlet_suction", "0.28", "inH2O"),
)


def measured(technician: Technician, **changes: Any) -> tuple[str, Any]:
    """A job with three readings at the collar; its id and its last answer."""
    job = technician.opens(**changes)
    for kind, typed, unit in COLLAR:
        answer = technician.reads(job, kind, typed, unit)
    return job, answer.json()


def to_the_end(technician: Technician, **changes: Any) -> tuple[str, Any]:
    """A job from readings to where it can be handed over; its id and its last answer."""
    job, answer = measured(technician, **changes)
    technician.does(job, answer["safety"])
    technician.put(f"/jobs/{job}/findings/{uuid.uuid4()}", {"check": "behind_look", "result": "flat", "at": AT})
    answer = technician.finds(job, "working", "transition_crushed").json()
    technician.does(job, [step for stage in ("open", "mend", "close") for step in answer[stage]])
    technician.finds(job, "confirmed", "transition_crushed")
    flap = {"check": "hood_flap_opens", "result": "full", "phase": "after", "at": AT}
    technician.put(f"/jobs/{job}/findings/{uuid.uuid4()}", flap)
    after = technician.reads(job, "outlet_flow", "168", "cfm", phase="after").json()
    return job, after
