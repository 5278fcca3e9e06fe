"""Who may come in, who may do what, and what is forgotten on request."""

import json
import re
import uuid

import pytest
from django.core import mail
from django.test import Client
from procrastinate.contrib.django.models import ProcrastinateJob
from tests.server.factories import AT, a_technician

from jobs.models import Happening
from people.may import RULES
from people.models import Act, Attempt, Membership, Person
from people.tasks import post as post_mail
from warmdraft.teardown import layout_document

pytestmark = pytest.mark.django_db
NEW = "brand new words 1"
RECKONS = {"currency": "SEK", "time_zone": "Pacific/Auckland", "language": "en"}


def posted_mail():
    """Do what the worker would with the mails that wait; the last one's text."""
    for job in ProcrastinateJob.objects.filter(task_name="post", status="todo"):
        post_mail(**job.args)
    return mail.outbox[-1].body


def post(client, path, body):
    return client.post(f"/api/v1{path}", body, content_type="application/json")


def entered(email, password="a long password"):
    client = Client(headers={"user-agent": "a phone"})
    return client, post(client, "/session", {"email": email, "password": password})


def token_of(text, word):
    return re.search(rf"/{word}/(\S+)", text)[1]


@pytest.mark.parametrize("role", ["trainee", "technician", "lead"])
def test_the_table_holds(role):
    """Every act that a route asks for, by every role."""
    person = a_technician(role)
    colleague = a_technician("technician", person.workshop)
    a_technician("lead", person.workshop)
    job = person.opens()
    cause = {"fault": "hood_blocked", "severity": None, "at": AT}
    takes = [{"style": "mitred", "angle": angle, "takes": {"value": 1, "unit": "m"}} for angle in (45, 90)]
    document = {"title": "t", "source": "s", "max_length": {"value": 9, "unit": "m"},
                "bore": {"value": 4, "unit": "in"}, "fittings": takes}  # fmt: skip
    tries = {
        "work_on_a_job": lambda: person.reads(job, "outlet_flow", "96", "cfm"),
        "propose_a_cause": lambda: person.put(f"/jobs/{job}/causes/{uuid.uuid4()}", cause | {"kind": "proposed"}),
        "confirm_a_cause": lambda: person.put(f"/jobs/{job}/causes/{uuid.uuid4()}", cause | {"kind": "confirmed"}),
        "import_a_job": lambda: person.brings(b"{}"),
        "keep_code_profiles": lambda: person.put(f"/code-profiles/{uuid.uuid4()}", {"document": document}),
        "keep_the_catalogue": lambda: person.put(f"/stock/stores/{uuid.uuid4()}", {"name": "Van 1"}),
        "keep_layouts": lambda: person.put(f"/layouts/{uuid.uuid4()}", {"document": layout_document("two_motors")}),
        "see_people": lambda: person.get("/people"),
        "invite": lambda: person.put(f"/invitations/{uuid.uuid4()}", {"email": "new@lake.example", "role": "trainee"}),
        "change_a_role": lambda: person.put(
            f"/people/{colleague.person.id}", {"role": "technician", "qualifications": ["gas"]}
        ),
        "keep_the_workshop": lambda: person.put("/workshop", RECKONS),
        "export_a_person": lambda: person.get(f"/people/{colleague.person.id}/kept"),
        "plan_the_day": lambda: person.put("/ground/base", {"name": "Yard"}),
        "set_drills": lambda: person.put(f"/drills/cases/{uuid.uuid4()}", {"job_id": job, "title": "A case"}),
        "override": lambda: person.put(f"/jobs/{job}/record/{uuid.uuid4()}", {"at": AT, "override": "seen it"}),
    }
    assert set(tries) | {"hand_over"} == set(RULES)
    me = person.get("/me").json()
    assert set(me["may"]) | set(me["may_not"]) == set(RULES)
    for act, attempt in tries.items():
        answer = attempt()
        if role in RULES[act].roles:
            assert answer.status_code in (200, 204, 422), (act, answer.content)
            assert act in me["may"]
        else:
            assert answer.status_code == 403, act
            assert act == "override" or answer.json()["message"] == me["may_not"][act]


def test_hand_over_without_a_cause_only_by_a_lead_with_a_reason():
    lead = a_technician("lead")
    job = lead.opens()
    assert lead.put(f"/jobs/{job}/record/{uuid.uuid4()}", {"at": AT}).json()["code"] == "cause_not_confirmed"
    answer = lead.put(f"/jobs/{job}/record/{uuid.uuid4()}", {"at": AT, "override": "Customer sold the machine."})
    assert answer.status_code == 200 and answer.json()["snapshot"]["override"] == "Customer sold the machine."
    assert lead.get(f"/jobs/{job}/history").json()[-1]["text"].endswith("a reason: Customer sold the machine.")


def test_a_trainee_proposes_and_a_technician_sees_it():
    trainee = a_technician("trainee")
    technician = a_technician("technician", trainee.workshop)
    job = trainee.opens()
    assert trainee.finds(job, "proposed", "hood_blocked").status_code == 200
    assert technician.get(f"/jobs/{job}").json()["proposed_cause"]["fault"] == "hood_blocked"
    assert technician.finds(job, "confirmed", "hood_blocked").json()["confirmed_cause"]["fault"] == "hood_blocked"


def test_an_invitation_is_mailed_accepted_once_and_gives_its_role():
    lead, invitation = a_technician("lead"), uuid.uuid4()
    asked = {"email": "Rook@lake.example", "role": "trainee"}
    assert lead.put(f"/invitations/{invitation}", asked).status_code == 200
    assert lead.put(f"/invitations/{invitation}", asked).status_code == 200  # a repeated write
    assert ProcrastinateJob.objects.filter(task_name="post").count() == 1
    token, client = token_of(posted_mail(), "join"), Client()
    joining = {"token": token, "name": "Rook", "password": NEW}
    assert post(client, "/join/look", {"token": token}).json()["workshop"] == lead.workshop.name
    assert post(client, "/join", joining | {"password": "short"}).json()["code"] == "weak_password"
    answer = post(client, "/join", joining)
    assert answer.status_code == 200 and answer.json()["role"] == "trainee"
    assert client.get("/api/v1/jobs").status_code == 200
    assert post(Client(), "/join", joining).json()["code"] == "link_is_spent"
    assert list(Act.objects.filter(workshop=lead.workshop).values_list("what", flat=True)) == ["invited", "joined"]


def test_a_lost_password_is_set_anew_by_mail_and_ends_every_sitting():
    person = a_technician().person
    signed_in, _ = entered(person.email)
    known, unknown = (
        post(Client(), "/lost-password", {"email": email}) for email in (person.email, "nobody@lake.example")
    )
    assert (known.status_code, known.content) == (unknown.status_code, unknown.content) == (204, b"")
    key, token = token_of(posted_mail(), "new-password").split("/")
    again = {"key": key, "token": token, "new": NEW}
    assert post(Client(), "/new-password", again | {"new": "short"}).json()["code"] == "weak_password"
    assert post(Client(), "/new-password", again).status_code == 204
    assert post(Client(), "/new-password", again).json()["code"] == "link_is_spent"
    assert signed_in.get("/api/v1/me").status_code == 401
    assert entered(person.email, NEW)[1].status_code == 200


@pytest.mark.parametrize("key", ["", "!!!", "bm90LWFuLWlk", "\u00e9", "_w"])
def test_a_link_somebody_made_up_opens_nothing(key):
    answer = post(Client(), "/new-password", {"key": key, "token": "x-y", "new": NEW})
    assert answer.status_code == 422 and answer.json()["code"] == "link_is_spent"


def test_sittings_are_seen_and_ended_from_elsewhere():
    person = a_technician().person
    (phone, _), (laptop, _) = entered(person.email), entered(person.email)
    rows = laptop.get("/api/v1/me/sittings").json()
    assert [row["this_one"] for row in rows].count(True) == 1 and {row["browser"] for row in rows} == {"a phone"}
    other = next(row["id"] for row in rows if not row["this_one"])
    assert a_technician().client.delete(f"/api/v1/me/sittings/{other}").status_code == 404
    assert laptop.delete(f"/api/v1/me/sittings/{other}").status_code == 204
    assert phone.get("/api/v1/me").status_code == 401 and laptop.get("/api/v1/me").status_code == 200
    third, _ = entered(person.email)
    change = {"old": "a long password", "new": NEW}
    refused = laptop.put("/api/v1/me/password", change | {"old": "no"}, content_type="application/json")
    assert refused.json()["code"] == "wrong_password"
    assert laptop.put("/api/v1/me/password", change, content_type="application/json").status_code == 204
    assert laptop.get("/api/v1/me").status_code == 200 and third.get("/api/v1/me").status_code == 401


def test_who_guesses_is_slowed_down_and_a_right_password_clears_it():
    person = a_technician().person
    assert entered(person.email, "wrong")[1].status_code == 401
    assert entered(person.email)[1].status_code == 200
    answers = [entered(person.email, "wrong")[1].status_code for _ in range(9)]
    assert answers == [401] * 7 + [429] * 2  # the first wrong one counts too, the right one does not
    assert not Attempt.objects.filter(who_sha256__contains="lake.example").exists()


def test_a_workshop_keeps_a_lead_and_strangers_change_nobody():
    lead = a_technician("lead")
    down = {"role": "technician", "qualifications": []}
    assert lead.put(f"/people/{lead.person.id}", down).json()["code"] == "last_lead"
    other = a_technician("lead", lead.workshop)
    assert lead.put(f"/people/{lead.person.id}", down).status_code == 204
    assert other.get("/acts").json()[0]["before"] == {"role": "lead", "qualifications": []}
    stranger = a_technician("lead")
    for answer in (
        stranger.put(f"/people/{other.person.id}", down),
        stranger.get(f"/people/{other.person.id}/kept"),
        stranger.client.delete(f"/api/v1/people/{other.person.id}"),
    ):
        assert answer.status_code == 404


def test_a_person_is_given_out_and_forgotten_and_the_records_stand():
    lead = a_technician("lead")
    leaver = a_technician("technician", lead.workshop)
    job = leaver.opens()
    leaver.reads(job, "outlet_flow", "96", "cfm")
    leaver.finds(job, "confirmed", "hood_blocked")
    leaver.proves(job)
    record = leaver.put(f"/jobs/{job}/record/{uuid.uuid4()}", {"at": AT}).json()
    assert lead.get(f"/jobs/{job}").json()["readings"][0]["by"] == "Ada Fell"
    kept = json.loads(b"".join(lead.get(f"/people/{leaver.person.id}/kept").streaming_content))
    assert kept["email"] == leaver.person.email and "reading_recorded" in {h["what"] for h in kept["happenings"]}
    assert lead.client.delete(f"/api/v1/people/{leaver.person.id}").status_code == 204
    assert leaver.get("/me").status_code == 401
    assert lead.get(f"/jobs/{job}").json()["readings"][0]["by"] == "someone who left"
    again = lead.get(f"/jobs/{job}/record").json()
    assert again["sha256"] == record["sha256"] and again["snapshot"] == record["snapshot"]
    assert Happening.objects.filter(by=leaver.person).count() == 6
    assert not Person.objects.filter(email=leaver.person.email).exists()
    assert not Membership.objects.filter(person=leaver.person).exists()
    assert lead.client.delete(f"/api/v1/people/{lead.person.id}").json()["code"] == "not_oneself"


def test_what_a_workshop_reckons_in_and_when_its_days_begin_is_its_own():
    lead, stranger = a_technician("lead"), a_technician("lead")
    job = lead.opens(booked_for="2026-11-25T09:00:00+00:00")
    assert lead.put("/workshop", RECKONS).json()["currency"] == "SEK"
    assert lead.get(f"/jobs/{job}/heat").json()["currency"] == "SEK" and stranger.get("/me").json()["currency"] == "EUR"
    (act,) = Act.objects.filter(what="workshop_changed")
    assert (act.before["time_zone"], act.after["time_zone"]) == ("UTC", "Pacific/Auckland")
    assert lead.put("/workshop", RECKONS).status_code == 200 and Act.objects.filter(what=act.what).count() == 1
    for wrong in ({"currency": "kronor"}, {"time_zone": "Lake/Town"}, {"language": "xx"}):
        refused = lead.put("/workshop", RECKONS | wrong)
        assert refused.status_code == 422 and next(iter(wrong)).encode() in refused.content
