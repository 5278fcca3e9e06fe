"""The door under attack, several workshops, work for the qualified: nobody is locked out, nobody gets another's."""

import json
import uuid
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta

import pytest
from django.core import mail
from django.core.management import CommandError, call_command
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from django.utils import timezone
from procrastinate.contrib.django.models import ProcrastinateJob
from tests.server.factories import AT, a_technician
from tests.server.test_people import NEW, entered, post, posted_mail, token_of

from jobs.models import Log, Mark, MeterTest, Reading
from people import hashing, tasks
from people.models import Act, Attempt, Invitation, Membership, Person, Role, Sitting, Workshop
from people.tasks import post as post_mail
from shared import slots

pytestmark = pytest.mark.django_db


def tries(email, password="wrong", address="10.0.0.1", client=None):
    client = client or Client()
    body = json.dumps({"email": email, "password": password})
    return client.post("/api/v1/session", body, content_type="application/json", REMOTE_ADDR=address)


# -- the door


def test_guessing_slows_an_address_and_locks_nobody_out():
    person = a_technician().person
    known = Client()
    assert tries(person.email, "a long password", "10.9.9.9", known).status_code == 200
    known.delete("/api/v1/session")
    assert [tries(person.email).status_code for _ in range(10)] == [401] * 8 + [429] * 2
    assert tries(person.email, "a long password").status_code == 429  # from there one waits
    assert tries(person.email, "a long password", "10.0.0.2").status_code == 200  # from anywhere else one comes in
    assert (
        tries(person.email, "a long password", "10.0.0.1", known).status_code == 200
    )  # and on a device one is known on
    stranger = a_technician().person
    assert tries(stranger.email, "a long password").status_code == 200


def test_who_waits_is_not_made_to_wait_longer_by_asking():
    person = a_technician().person
    for _ in range(8):
        tries(person.email)
    Attempt.objects.update(at=timezone.now() - timedelta(minutes=14, seconds=50))
    for _ in range(5):
        assert tries(person.email).status_code == 429
    Attempt.objects.update(at=timezone.now() - timedelta(minutes=15, seconds=1))
    assert tries(person.email, "a long password").status_code == 200


def test_a_new_password_opens_the_door_also_where_one_had_to_wait():
    person = a_technician().person
    for _ in range(8):
        tries(person.email)
    assert post(Client(), "/lost-password", {"email": person.email}).status_code == 204  # counted by itself
    key, token = token_of(posted_mail(), "new-password").split("/")
    assert post(Client(), "/new-password", {"key": key, "token": token, "new": NEW}).status_code == 204
    assert tries(person.email, NEW).status_code == 200


@pytest.mark.django_db(transaction=True)
def test_sixty_guesses_at_once_are_eight():
    person = a_technician().person
    weighed = []
    right = hashing.check_password

    def weigh(*args):
        weighed.append(1)
        return right(*args)

    hashing.check_password, before = weigh, hashing.check_password

    def one(_):
        try:
            return tries(person.email).status_code
        finally:
            connection.close()

    try:
        with ThreadPoolExecutor(20) as pool:
            told = list(pool.map(one, range(60)))
    finally:
        hashing.check_password = before
    assert len(weighed) <= 8 and told.count(429) >= 52


def test_mails_asked_for_are_few_and_say_nothing_of_who_is_known(monkeypatch):
    person = a_technician().person
    queries = {}
    for email in (person.email, "nobody@lake.example"):
        with CaptureQueriesContext(connection) as asked:
            answers = [post(Client(), "/lost-password", {"email": email}) for _ in range(5)]
        assert {answer.status_code for answer in answers} == {204}
        queries[email] = [query["sql"].split()[0] for query in asked]
    assert queries[person.email] == queries["nobody@lake.example"]  # the same work, so the same time
    jobs = ProcrastinateJob.objects.filter(task_name="post")
    assert jobs.count() == 6  # three of each: nobody's go nowhere
    for job in jobs:
        post_mail(**job.args)
    assert len(mail.outbox) == 3


def test_guesses_from_within_a_sitting_and_at_an_invitation_are_counted():
    who, lead = a_technician(), a_technician("lead")
    change = {"old": "wrong", "new": NEW}
    assert [who.put("/me/password", change).status_code for _ in range(10)] == [422] * 8 + [429] * 2
    assert who.get("/me").status_code == 200
    lead.put(f"/invitations/{uuid.uuid4()}", {"email": who.person.email, "role": "trainee"})
    guess = {"token": token_of(posted_mail(), "join"), "name": "", "password": "wrong"}
    assert [post(Client(), "/join", guess).status_code for _ in range(10)] == [422] * 8 + [429] * 2


@pytest.mark.parametrize(
    "password",
    ["skellmere1", " " * 12, "aaaaaaaaaaaa", "ababababab", "tobin@skellmere.example", "tobin marrow", "short"],
)
def test_weak_passwords_are_refused(password):
    who = a_technician()
    Person.objects.filter(id=who.person.id).update(email="tobin@skellmere.example", name="Tobin Marrow")
    answer = who.put("/me/password", {"old": "a long password", "new": password})
    assert answer.status_code == 422 and answer.json()["code"] == "weak_password"


def test_signing_in_where_one_is_signed_in_goes_on():
    person = a_technician().person
    client, first = entered(person.email)
    again = post(client, "/session", {"email": person.email, "password": "a long password"})
    assert (first.status_code, again.status_code) == (200, 200)
    assert Sitting.objects.filter(person=person).count() == 1


def test_no_database_connection_is_held_while_a_password_is_hashed(monkeypatch):
    told = []
    monkeypatch.setattr(slots, "give_connection_back", lambda: told.append("given back"))
    monkeypatch.setattr(hashing, "make_password", lambda *_: told.append("hashed") or "x")
    hashing.hash_of("something")
    assert not hashing.is_right(None, "something")
    assert told == ["given back", "hashed"] * 2


def test_hashing_has_slots_and_who_finds_none_is_told_to_come_again(monkeypatch):
    monkeypatch.setattr(hashing.hashing, "patience_s", 0.05)
    taken = 0
    while hashing.hashing.free.acquire(blocking=False):
        taken += 1
    try:
        answer = tries(a_technician().person.email)
        assert answer.status_code == 503 and answer.headers["Retry-After"]
    finally:
        for _ in range(taken):
            hashing.hashing.free.release()
    assert 1 <= taken <= 16


def test_old_hashes_are_renewed_as_people_sign_in(settings):
    person = a_technician().person
    settings.PASSWORD_HASHERS = ["people.strength.Argon2", "django.contrib.auth.hashers.MD5PasswordHasher"]
    assert person.password.startswith("md5$")
    assert tries(person.email, "a long password").status_code == 200
    person.refresh_from_db()
    assert person.password.startswith("argon2$argon2id$v=19$m=19456,t=2,p=1$")
    assert tries(person.email, "a long password").status_code == 200 and tries(person.email).status_code == 401


def test_the_demos_printed_password_opens_nothing_where_the_world_comes_in(settings):
    person = a_technician().person
    Person.objects.filter(id=person.id).update(for_looking_round=True)
    assert tries(person.email, "a long password").status_code == 200
    settings.HTTPS = True
    assert tries(person.email, "a long password", address="10.0.0.3").json()["code"] == "demo_is_closed"
    with pytest.raises(CommandError, match="printed for everybody"):
        call_command("demo")


def test_a_first_workshop_is_made_with_a_lead_who_sets_a_password_by_mail(capsys):
    call_command("workshop", "Lake Dryer Works", "Lead@lake.example", "Ada Fell")
    key, token = token_of(posted_mail(), "new-password").split("/")
    assert "Lake Dryer Works is made" in capsys.readouterr().out
    assert post(Client(), "/new-password", {"key": key, "token": token, "new": NEW}).status_code == 204
    _, told = entered("lead@lake.example", NEW)
    assert (told.json()["workshop"], told.json()["role"], told.json()["name"]) == (
        "Lake Dryer Works",
        "lead",
        "Ada Fell",
    )
    call_command("workshop", "Lake Dryer Works", "lead@lake.example")  # once more is the same
    assert Workshop.objects.filter(name="Lake Dryer Works").count() == 1
    with pytest.raises(CommandError, match="no e-mail"):
        call_command("workshop", "Lake Dryer Works", "nobody")


# -- tokens and queues


def test_no_queue_no_log_and_no_act_holds_an_address_or_a_token(caplog, monkeypatch):
    lead = a_technician("lead")
    lead.put(f"/invitations/{uuid.uuid4()}", {"email": "rook@lake.example", "role": "trainee"})
    post(Client(), "/lost-password", {"email": lead.person.email})
    jobs = list(ProcrastinateJob.objects.values_list("args", flat=True))
    assert len(jobs) == 2 and not any("@" in json.dumps(args) or "/join/" in json.dumps(args) for args in jobs)

    def refuses(*_, **__):
        raise OSError("550 rook@lake.example: no such box, see http://x/join/8mLQ")

    monkeypatch.setattr(tasks, "send_mail", refuses)
    with pytest.raises(RuntimeError) as error:
        post_mail(**jobs[0])
    told = str(error.value) + repr(error.value.__context__ and "") + " ".join(str(r.__dict__) for r in caplog.records)
    assert "rook" not in told and "join/" not in told and error.value.__cause__ is None


def test_forgetting_takes_the_address_out_of_what_was_done_too():
    lead = a_technician("lead")
    lead.put(f"/invitations/{uuid.uuid4()}", {"email": "rook@lake.example", "role": "trainee"})
    joined = post(Client(), "/join", {"token": token_of(posted_mail(), "join"), "name": "Rook", "password": NEW})
    assert joined.status_code == 200
    assert "rook@lake.example" in lead.get("/acts").content.decode()
    lead.client.delete(f"/api/v1/people/{joined.json()['id']}")
    assert "rook@lake.example" not in lead.get("/acts").content.decode() + json.dumps(list(Act.objects.values("after")))


# -- invitations


def invited(lead, email="rook@lake.example", role="lead"):
    which = uuid.uuid4()
    assert lead.put(f"/invitations/{which}", {"email": email, "role": role}).status_code == 200
    return which, token_of(posted_mail(), "join")


def test_an_invitation_can_be_taken_back_and_ends_with_its_leads_role():
    lead = a_technician("lead")
    other = a_technician("lead", lead.workshop)
    joining = {"name": "Rook", "password": NEW}
    which, token = invited(lead)
    stranger = a_technician("lead")
    assert stranger.client.delete(f"/api/v1/invitations/{which}").status_code == 404
    assert lead.client.delete(f"/api/v1/invitations/{which}").status_code == 204
    assert lead.client.delete(f"/api/v1/invitations/{which}").status_code == 204
    assert post(Client(), "/join", joining | {"token": token}).json()["code"] == "link_is_spent"
    asked = {"email": "rook@lake.example", "role": "lead"}
    assert lead.put(f"/invitations/{which}", asked).json()["code"] == "invitation_over"  # never a silent 200
    _, second = invited(lead)
    other.put(f"/people/{lead.person.id}", {"role": "technician", "qualifications": []})
    assert post(Client(), "/join", joining | {"token": second}).json()["code"] == "link_is_spent"
    assert other.get("/people").json()["invited"] == []
    which, _ = invited(other)
    Invitation.objects.filter(id=which).update(expires_at=timezone.now())
    assert other.put(f"/invitations/{which}", asked).json()["code"] == "invitation_over"
    _, fourth = invited(other)
    assert post(Client(), "/join", {"token": fourth, "name": "  ", "password": NEW}).json()["code"] == "no_name"
    assert post(Client(), "/join", joining | {"token": fourth}).status_code == 200


# -- several workshops


@pytest.fixture
def two():
    """The lead of Zeta, who joined Aardvark as a trainee by an invitation; Aardvark's lead."""
    zeta, aardvark = a_technician("lead", qualified=("gas",)), a_technician("lead")
    Workshop.objects.filter(id=zeta.workshop.id).update(name="Zeta")
    Workshop.objects.filter(id=aardvark.workshop.id).update(name="Aardvark Repairs")
    _, token = invited(aardvark, zeta.person.email, "trainee")
    joined = post(Client(), "/join", {"token": token, "name": "", "password": "a long password"})
    assert joined.status_code == 200 and joined.json()["workshop"] == "Aardvark Repairs"
    return zeta, aardvark


def test_joining_another_workshop_takes_nothing_away(two):
    zeta, aardvark = two
    job = zeta.opens()
    me = zeta.get("/me").json()
    assert (me["workshop"], me["role"]) == ("Zeta", "lead")
    assert [row["name"] for row in me["workshops"]] == ["Aardvark Repairs", "Zeta"]
    told = zeta.put("/me/workshop", {"id": str(aardvark.workshop.id)}).json()
    assert (told["workshop"], told["role"], told["qualifications"]) == ("Aardvark Repairs", "trainee", [])
    assert zeta.get("/me").json()["workshop"] == "Aardvark Repairs" and zeta.get(f"/jobs/{job}").status_code == 404
    by_header = zeta.client.get(f"/api/v1/jobs/{job}", headers={"X-Warm-Workshop": str(zeta.workshop.id)})
    assert by_header.status_code == 200  # what a device made in one workshop goes there, wherever one is by now
    zeta.put("/me/workshop", {"id": str(zeta.workshop.id)})
    assert zeta.get(f"/jobs/{job}").status_code == 200
    assert entered(zeta.person.email)[1].json()["workshop"] == "Zeta"  # the one chosen last
    stranger = a_technician()
    assert zeta.put("/me/workshop", {"id": str(stranger.workshop.id)}).status_code == 403


def test_one_workshop_gives_out_and_changes_nothing_of_another(two):
    zeta, aardvark = two
    zeta.put(f"/invitations/{uuid.uuid4()}", {"email": "secret@zeta.example", "role": "trainee"})
    given = b"".join(aardvark.get(f"/people/{zeta.person.id}/kept").streaming_content).decode()
    assert "secret@zeta.example" not in given and "joined" in given
    aardvark.put(f"/people/{zeta.person.id}", {"role": "technician", "qualifications": ["gas", "live"]})
    assert zeta.get("/me").json()["qualifications"] == ["gas"]  # in Zeta, as Zeta knows it
    assert aardvark.client.delete(f"/api/v1/people/{zeta.person.id}").json()["code"] == "in_another_workshop"
    assert aardvark.client.delete(f"/api/v1/people/{zeta.person.id}/membership").status_code == 204
    assert (
        zeta.get("/me").json()["workshop"] == "Zeta" and Invitation.objects.filter(email="secret@zeta.example").exists()
    )
    header = {"X-Warm-Workshop": str(aardvark.workshop.id)}
    assert zeta.client.get("/api/v1/jobs", headers=header).json()["code"] == "not_in_workshop"


def test_leaving_is_ones_own_act_but_for_the_last_lead():
    lead = a_technician("lead")
    leaver = a_technician("trainee", lead.workshop)
    assert leaver.client.delete(f"/api/v1/people/{lead.person.id}/membership").status_code == 403
    assert leaver.client.delete(f"/api/v1/people/{leaver.person.id}/membership").status_code == 204
    assert leaver.get("/jobs").json()["code"] == "no_workshop"
    assert lead.client.delete(f"/api/v1/people/{lead.person.id}/membership").json()["code"] == "last_lead"
    assert [act["what"] for act in lead.get("/acts").json()] == ["left"]


def test_a_tab_of_somebody_else_writes_nothing_under_another_name():
    lena = a_technician()
    sam = a_technician("technician", lena.workshop)
    job = lena.opens()
    mark = {"step": "make_safe.cool", "state": "done", "at": AT}
    answer = sam.client.put(
        f"/api/v1/jobs/{job}/marks/{uuid.uuid4()}", json.dumps(mark), content_type="application/json",
        headers={"X-Warm-Person": str(lena.person.id)},
    )  # fmt: skip
    assert answer.status_code == 409 and answer.json()["code"] == "someone_else"
    assert not Mark.objects.exists()


# -- work for the qualified


def test_proving_dead_is_live_work_whatever_is_said_of_the_machine():
    trainee = a_technician("trainee")
    lead = a_technician("lead", trainee.workshop, qualified=("live", "gas"))
    job = lead.opens(machine={"supply": "hard_wired", "energy": "gas"})
    assert trainee.marks(job, "make_safe.prove_dead").status_code == 403
    plug = _changes_machine(trainee, job, supply="plug", energy="electric")
    assert plug.status_code == 200
    assert trainee.marks(job, "make_safe.prove_dead").status_code == 403
    assert lead.marks(job, "make_safe.prove_dead").status_code == 200
    back = _changes_machine(trainee, job, supply="hard_wired", energy="gas").json()
    assert "make_safe.prove_dead" not in {mark["step"] for mark in back["marks"]}  # made safe anew
    assert back["next"]["stage"] == "make_safe"


def _changes_machine(who, job, **changes):
    shown = who.get(f"/jobs/{job}").json()
    body = {key: shown[key] for key in ("title", "complaints", "circumstances", "told", "said", "booked_for")}
    machine = {k: v for k, v in shown["machine"].items() if k != "profile_title"} | changes
    place = shown["place"] | {"as_known": True}
    return who.put(f"/jobs/{job}", body | {"place": place, "machine": machine, "based_on": shown["version"], "at": AT})


def test_live_logs_are_live_work_by_points_and_by_csv():
    plain, qualified = a_technician(), a_technician(qualified=("live",))
    points = {"kind": "heater_current", "unit": "A", "minutes": [*range(8)], "values": [22.0] * 8, "at": AT}
    csv = {"kind": "heater_current", "at": AT,
           "csv": "time,kind,value,unit\n" + "".join(f"{i},heater_current,22,A\n" for i in range(8))}  # fmt: skip
    for body in (points, csv):
        assert plain.put(f"/jobs/{plain.opens()}/logs/{uuid.uuid4()}", body).json()["code"] == "not_qualified"
        assert qualified.put(f"/jobs/{qualified.opens()}/logs/{uuid.uuid4()}", body).status_code == 200
    assert Log.objects.count() == 2


@pytest.mark.parametrize(
    "part",
    [
        {"readings": [{"kind": "supply_voltage", "value": 240, "unit": "V"}]},
        {"meter": [{"part": "receptacle", "instrument": "digital", "reading": {"value": 240, "unit": "V"}}]},
        {"logs": [{"kind": "heater_current", "unit": "A", "minutes": [*range(8)], "values": [22.0] * 8}]},
        {"x-job": {"marks": [{"step": "make_safe.prove_dead", "state": "done"}]}},
    ],
)
def test_a_file_brings_in_no_work_that_its_bringer_is_not_qualified_for(part):
    plain, qualified = a_technician(), a_technician(qualified=("live",))
    document = {"format": "warm-draft/job", "version": 1} | part
    refused = plain.brings(document)
    assert refused.status_code == 403 and refused.json()["code"] == "not_qualified"
    assert not (Reading.objects.exists() or MeterTest.objects.exists() or Mark.objects.exists())
    assert qualified.brings(document).status_code == 200


def test_what_a_file_says_somebody_did_is_said_to_be_from_a_file():
    who = a_technician()
    Membership.objects.update(role=Role.TECHNICIAN)
    reading = {"kind": "outlet_flow", "value": 90, "unit": "cfm", "by": "Tobin Marrow"}
    document = {"format": "warm-draft/job", "version": 1, "readings": [reading],
                "x-job": {"causes": [{"kind": "confirmed", "fault": "hood_blocked"}]}}  # fmt: skip
    shown = who.brings(document).json()
    assert shown["readings"][0]["by"] == "Tobin Marrow, by a file that Ada Fell brought in"
    assert shown["confirmed_cause"]["by"] == "a file that Ada Fell brought in"
    assert who.get(f"/jobs/{shown['id']}/history").json()[-1]["text"] == "brought it in from a file"
