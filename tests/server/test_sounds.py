"""Recordings of a job: kept, listened to by the worker, told as a fact; what is no recording is said so."""

import io
import uuid

import numpy as np
import pytest
import soundfile
from procrastinate.contrib.django.models import ProcrastinateJob
from tests.server.factories import AT, a_technician

from demo.sounds import Room, recorded
from files.models import Recording
from jobs.facts.later import LISTEN
from jobs.models import Sound
from jobs.tasks import listen

pytestmark = pytest.mark.django_db


def wav(source="roller_flat", seed=3, seconds=12.0, **how):
    wave, fs, _ = recorded(source, seed, 3.0, Room(seconds=seconds, fs=8000))
    file = io.BytesIO()
    soundfile.write(file, wave, fs, **({"format": "WAV", "subtype": "PCM_16"} | how))
    return file.getvalue()


def send(person, job, body, sound=None, **more):
    where = f"/api/v1/jobs/{job}/sounds/{sound or uuid.uuid4()}?at={AT}" + "".join(f"&{k}={v}" for k, v in more.items())
    return person.client.put(where.replace("+", "%2B"), body, content_type="application/octet-stream")


def sees(person, job):
    return person.client.get(f"/api/v1/jobs/{job}").json()


def listen_to_all():
    for row in ProcrastinateJob.objects.filter(task_name=LISTEN):
        listen(row.args["sound"])


def test_a_recording_is_kept_listened_to_and_told():
    person = a_technician()
    job, sound = person.opens(), str(uuid.uuid4())
    first = send(person, job, wav(), sound, part="front, low").json()
    assert [(row["state"], row["part"]) for row in first["recordings"]] == [("waiting", "front, low")]
    assert first["sounds"] == []
    listen_to_all()
    now = sees(person, job)
    (kept,), (told,) = now["recordings"], now["sounds"]
    assert kept["state"] == "heard" and told["id"] == kept["id"] == sound
    assert told["heard"]["verdict"] == "roller_flat" and "Hz" in told["heard"]["text"]
    assert now["version"] > first["version"]

    curves = person.client.get(kept["url"] + "/curves").json()
    assert len(curves["spectrum_db"]) > 300 and curves["bands"].keys() >= {"wheel", "roller"}
    heard = b"".join(person.client.get(kept["url"]).streaming_content)
    assert heard == wav()


def test_the_same_twice_is_once_and_the_worker_may_come_twice():
    person = a_technician()
    job, sound = person.opens(), str(uuid.uuid4())
    assert send(person, job, wav(), sound).status_code == 200
    again = send(person, job, wav(), sound)
    assert again.status_code == 200 and len(again.json()["recordings"]) == 1
    listen_to_all()
    version = sees(person, job)["version"]
    listen_to_all()
    assert sees(person, job)["version"] == version and Recording.objects.count() == 1
    other = send(person, job, wav(seed=4), sound)
    assert other.status_code == 409 and other.json()["code"] == "already_recorded"


@pytest.mark.parametrize(
    ("body", "said"),
    [
        (b"\x89PNG\r\n\x1a\n" + bytes(400), "no sound file"),
        (b"", "no sound file"),
        (bytes(3_000_000), "no sound file"),
        (b"RIFF" + bytes(8_600_000), "at most"),
    ],
    ids=["a picture", "nothing", "zeros", "too large"],
)
def test_what_is_no_recording_is_refused_at_once(body, said):
    person = a_technician()
    job = person.opens()
    answer = send(person, job, body)
    assert answer.status_code in (413, 422) and said in answer.json()["message"]
    assert sees(person, job)["recordings"] == [] and not Recording.objects.exists()


@pytest.mark.parametrize(
    ("body", "said"),
    [
        (lambda: wav(seconds=2.0), "2.0 s long"),
        (lambda: _silence(), "silent"),
        (lambda: b"RIFF\x00\x00\x00\x00WAVE" + bytes(500), "no sound file"),
        (lambda: wav()[:20_000], "1.2 s long"),
    ],
    ids=["two seconds", "silence", "no samples", "cut off"],
)
def test_what_nothing_can_be_heard_in_is_told_why(body, said):
    person = a_technician()
    job = person.opens()
    assert send(person, job, body()).status_code == 200
    listen_to_all()
    now = sees(person, job)
    assert now["sounds"] == [] and now["recordings"][0]["state"] == "trouble"
    assert said in now["recordings"][0]["trouble"]


def _silence():
    file = io.BytesIO()
    soundfile.write(file, np.zeros(80_000), 8000, format="WAV", subtype="PCM_16")
    return file.getvalue()


@pytest.mark.parametrize(
    ("subtype", "format"), [("PCM_24", "WAV"), ("FLOAT", "WAV"), ("PCM_16", "FLAC"), ("VORBIS", "OGG")]
)
def test_every_kind_that_phones_bring_is_heard(subtype, format):
    person = a_technician()
    job = person.opens()
    assert send(person, job, wav(format=format, subtype=subtype)).status_code == 200
    listen_to_all()
    assert sees(person, job)["sounds"][0]["heard"]["verdict"] == "roller_flat"


def test_it_can_be_taken_back_and_replaced():
    person = a_technician()
    job, one, two = person.opens(), str(uuid.uuid4()), str(uuid.uuid4())
    send(person, job, wav(), one)
    send(person, job, wav("wheel_unbalance"), two, supersedes=one)
    listen_to_all()
    assert [row["in_force"] for row in sees(person, job)["sounds"]] == [False, True]
    back = person.client.put(
        f"/api/v1/jobs/{job}/facts/{two}/withdrawn", {"withdrawn": True, "at": AT}, content_type="application/json"
    ).json()
    assert [row["in_force"] for row in back["sounds"]] == [True, False]
    assert [row["withdrawn"] for row in back["recordings"]] == [False, True]


def test_a_file_carries_what_it_told_and_not_the_recording():
    person, other = a_technician(), a_technician()
    job = person.opens()
    send(person, job, wav(), part="front")
    listen_to_all()
    file = person.client.get(f"/api/v1/jobs/{job}/file").json()
    assert file["sounds"][0]["verdict"] == "roller_flat" and file["sounds"][0]["part"] == "front"
    again = person.client.post("/api/v1/jobs/import", file, content_type="application/json")
    assert again.status_code == 200  # the same job
    for part in ("sounds", "readings", "findings"):
        file[part] = [{key: value for key, value in row.items() if key != "id"} for row in file.get(part, [])]
    file["x-job"] = {}
    brought = other.client.post("/api/v1/jobs/import", file, content_type="application/json").json()
    assert brought["sounds"][0]["heard"]["verdict"] == "roller_flat"
    assert brought["recordings"][0]["url"] == "" and brought["recordings"][0]["state"] == "heard"


def test_live_listening_keeps_nothing():
    person = a_technician()
    job = person.opens()
    answer = person.client.post(f"/api/v1/jobs/{job}/listen", wav(seconds=6.0), content_type="audio/wav")
    assert answer.status_code == 200 and answer.json()["verdict"] == "roller_flat"
    assert not Recording.objects.exists() and not Sound.objects.exists()
    deaf = person.client.post(f"/api/v1/jobs/{job}/listen", b"no sound", content_type="audio/wav")
    assert deaf.status_code == 422 and "no sound file" in deaf.json()["message"]


def test_rates_move_with_what_is_said_of_the_drive():
    person = a_technician()
    job = person.opens()

    def rates(**said):
        return {row["part"]: row["hz"] for row in person.client.get(f"/api/v1/jobs/{job}/rates", said).json()}

    usual, slow, larger = rates(), rates(motor_off=-0.02), rates(roller_mm=100)
    assert slow["wheel"] == pytest.approx(0.98 * usual["wheel"])
    assert larger["roller"] < usual["roller"] and larger["wheel"] == usual["wheel"]


def test_a_strangers_recording_is_not_found():
    person, stranger = a_technician(), a_technician()
    job = person.opens()
    url = send(person, job, wav()).json()["recordings"][0]["url"]
    assert stranger.client.get(url).status_code == 404
    assert stranger.client.get(url + "/curves").status_code == 404


def test_trial_masses_tell_what_to_add():
    person = a_technician()
    job = person.opens()
    runs = [{"grams": 5, "vane": vane, "amplitude": a} for vane, a in ((0, 4.1), (12, 2.0), (24, 4.4))]

    def asks(*runs, **more):
        body = {"radius_mm": 80, "runs": [{"amplitude": 3.2}, *runs]} | more
        return person.client.post(f"/api/v1/jobs/{job}/balance", body, content_type="application/json")

    answer = asks(*runs).json()
    assert answer["text"][0].startswith("Clean the wheel first") and 1 <= len(answer["add"]) <= 2
    few = asks(runs[0])
    assert few.status_code == 422 and "three" in few.json()["message"]
    assert asks(*runs, vanes=10).status_code == 422  # there is no vane 12 of ten


def test_healthy_machines_of_the_kind_are_the_workshops_and_nobody_elses():
    person, stranger = a_technician(), a_technician()

    def beside(who, job):
        return sees(who, job)["sounds"][0]["heard"]["beside"]

    jobs = [(who, who.opens()) for who in (person, stranger)]
    for who, job in jobs:
        send(who, job, wav())
    listen_to_all()
    assert [beside(*row) for row in jobs] == [0, 0]
    other, sound = person.opens(), str(uuid.uuid4())
    send(person, other, wav("nothing_stands_out"), sound, healthy="true")
    listen_to_all()
    told = sees(person, other)
    assert told["recordings"][0]["healthy"] and told["sounds"][0]["healthy"]
    assert told["sounds"][0]["heard"]["text"].startswith("A healthy one")
    assert [beside(*row) for row in jobs] == [1, 0]  # though nothing of that job has changed
    file = person.client.get(f"/api/v1/jobs/{jobs[0][1]}/file").json()
    assert len(file["machine"]["sounds_healthy"]) == 1 and "stands" in file["sounds"][0]
    person.client.put(
        f"/api/v1/jobs/{other}/facts/{sound}/withdrawn", {"withdrawn": True, "at": AT}, content_type="application/json"
    )
    assert beside(*jobs[0]) == 0


def test_it_says_whose_turn_it_is():
    person = a_technician()
    job, sounds = person.opens(), [str(uuid.uuid4()) for _ in range(3)]
    for i, sound in enumerate(sounds):
        send(person, job, wav(seed=i), sound)

    def before():
        return [person.client.get(f"/api/v1/jobs/{job}/sounds/{sound}/turn").json()["before"] for sound in sounds]

    assert before() == [0, 1, 2]
    ProcrastinateJob.objects.filter(args__sound=sounds[0])._raw_delete("default")
    assert before() == [None, 0, 1]
    assert person.client.get(f"/api/v1/jobs/{job}/sounds/{uuid.uuid4()}/turn").status_code == 404
