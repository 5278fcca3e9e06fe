"""Changes of a job told to those who look at it: by a stream, and by asking where no stream can be held."""

import json
import time
import uuid
from dataclasses import replace

import pytest
from tests.server.factories import a_technician

from jobs.live import streams
from jobs.models import Happening, Job, Presence
from people.may import member
from people.models import Person

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture(autouse=True)
def ears(monkeypatch):
    """Ears of this test's own: they end with it."""
    own = streams._Ears()
    monkeypatch.setattr(streams, "ears", own)
    yield own
    own.stop()


def follows(ears, who, job):
    """A stream of a job, past its first line; as an iterator of what it tells."""
    key = who.client.session.session_key
    me, at = replace(member(who.person), device=uuid.uuid4()), uuid.UUID(job)
    told = streams.stream(me, at, key, ears.join(at, who.person.id))
    assert next(told).startswith("retry")
    return told


def event(told):
    line = next(told)
    assert line.startswith("data: ") and line.endswith("\n\n")
    return json.loads(line.removeprefix("data: "))


def heard_by(ears):
    """Wait until the ears are on the line: what is told before is caught up with by a first event."""
    for _ in range(50):
        if ears.thread and any(not stream.empty() for streams in ears.streams.values() for stream in streams):
            return
        time.sleep(0.05)


def test_a_write_is_told_with_its_version_and_who_is_here(ears):
    ada = a_technician()
    ben = a_technician(workshop=ada.workshop)
    Person.objects.filter(pk=ben.person.pk).update(name="Ben Low")
    job = ada.opens()
    told = follows(ears, ada, job)
    first = event(told)
    assert first == {"version": 2, "here": []}
    heard_by(ears)
    assert event(told)["version"] == 2
    assert ben.get(f"/jobs/{job}/here").json() == {"version": 2, "here": ["Ada Fell"]}
    assert event(told) == {"version": 2, "here": ["Ben Low"]}  # he has come
    began = time.monotonic()
    ben.reads(job, "outlet_flow", "96", "cfm")
    assert event(told)["version"] == 3 and time.monotonic() - began < 2
    told.close()
    assert not Presence.objects.filter(person=ada.person).exists() and ears.open == 0


def test_a_stream_ends_when_the_process_stops_and_after_its_lifetime(ears, monkeypatch):
    ada = a_technician()
    job = ada.opens()
    told = follows(ears, ada, job)
    event(told)
    ears.end_streams()
    rest = list(told)
    assert len(rest) <= 1 and ears.open == 0  # what had been heard before is told, then it ends
    monkeypatch.setattr(streams, "LIFETIME", 0.0)
    monkeypatch.setattr(streams, "SIGN_OF_LIFE", 0.01)
    assert len(list(follows(ears, ada, job))) >= 1
    ears.stop()
    assert ears.join(uuid.UUID(job), ada.person.id) is None and ears.open == 0


def test_whoever_comes_when_all_streams_are_taken_is_told_to_ask(ears, monkeypatch):
    monkeypatch.setattr(streams, "MOST_STREAMS", 1)
    ada = a_technician()
    job = ada.opens()
    told = follows(ears, ada, job)
    answer = ada.get(f"/jobs/{job}/live")
    assert answer.status_code == 503 and answer.json()["code"] == "too_many_streams"
    assert ada.get(f"/jobs/{job}/here?device={uuid.uuid4()}").json() == {"version": 2, "here": []}
    told.close()
    stream = ada.get(f"/jobs/{job}/live")
    assert stream.status_code == 200 and stream["Content-Type"] == "text/event-stream"
    stream.close()


def test_a_job_that_is_gone_ends_its_stream(ears):
    ada = a_technician()
    job = ada.opens()
    told = follows(ears, ada, job)
    event(told)
    Presence.objects.all().delete()
    Happening.objects.all().delete()
    Job.objects.all().delete()
    ears._tell_all(9)
    assert list(told) == []
