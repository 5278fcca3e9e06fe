"""Two at once, a phone whose clock is wrong, two machines on one database: what stands is one thing, seen alike."""

import time
import uuid
from concurrent.futures import ThreadPoolExecutor

import pytest
from django.db import transaction
from tests.server.factories import AT, a_technician, job_facts
from tests.server.test_bench import C, a_wheel_job
from tests.server.test_two_at_once import at_once, twin

from jobs.answer import kept, learned
from jobs.models import Happening, Job, Mark, Reading
from machines.models import Machine, Place
from people.models import Membership
from reports.models import Record

LATER = "2026-11-25T10:00:00+00:00"


def changes(who, job, place=None, machine=None, based_on=99, **said):
    """Change a job, its place or its machine, as a client that shows them does."""
    shown = who.get(f"/jobs/{job}").json()
    body = {key: shown[key] for key in ("title", "complaints", "circumstances", "told", "said", "booked_for")}
    known = {k: v for k, v in shown["machine"].items() if k != "profile_title"}
    return lambda: who.put(
        f"/jobs/{job}",
        body | said | {"place": shown["place"] | (place or {"as_known": True}),
                       "machine": known | (machine or {"as_known": True}), "based_on": based_on, "at": AT},
    )  # fmt: skip


@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize("first", ["reading", "hand_over", "withdraw", "run"])
def test_a_record_holds_what_was_acknowledged_before_it_and_nothing_comes_after(first):
    """Order held by the row lock: one waits for the other, and then sees what it did."""
    lead = a_technician("lead")
    other = twin(lead)
    job, old = lead.opens(), str(uuid.uuid4())
    lead.reads(job, "outlet_flow", "80", "cfm", old)
    acts = {
        "reading": lambda: lead.reads(job, "hood_flow", "96", "cfm"),
        "hand_over": lambda: other.put(f"/jobs/{job}/record/{uuid.uuid4()}", {"at": AT, "override": "sold"}),
        "withdraw": lambda: lead.put(f"/jobs/{job}/facts/{old}/withdrawn", {"withdrawn": True, "at": AT}),
        "run": lambda: lead.put(f"/jobs/{job}/vent", {"vent": None, "based_on": 9, "at": AT}),
    }

    def later(act):
        time.sleep(0.4)
        return act()

    second = acts["reading"] if first == "hand_over" else acts["hand_over"]
    with ThreadPoolExecutor(1) as pool:
        with transaction.atomic():
            Job.objects.select_for_update().get(id=job)
            told = pool.submit(at_once, acts[first], lambda: later(second))  # both wait for the lock, in this order
            time.sleep(0.9)
        one, two = told.result(timeout=30)
    assert one.status_code == 200, one.content
    record = Record.objects.get(job=job)
    frozen = [row["typed"] for row in record.snapshot["readings"] if not row["withdrawn"]]
    if first == "hand_over":
        assert two.status_code == 409 and two.json()["code"] == "handed_over"
        assert frozen == ["80"] and Reading.objects.count() == 1
    else:
        assert two.status_code == 200, two.content
        assert frozen == {"reading": ["80", "96"], "withdraw": [], "run": ["80"]}[first]


@pytest.mark.django_db
def test_a_job_that_is_handed_over_is_shut_until_it_is_opened_again_for_a_new_edition():
    lead, trainee = (who := a_technician("lead")), a_technician("trainee", who.workshop)
    job = lead.opens()
    lead.reads(job, "outlet_flow", "80", "cfm")
    ahead = lead.get(f"/jobs/{job}/record/preview").json()
    assert lead.get(f"/jobs/{job}/record").status_code == 404  # nothing of it is kept
    first = lead.put(f"/jobs/{job}/record/{uuid.uuid4()}", {"at": AT, "override": "sold"}).json()
    assert first["snapshot"] == ahead["snapshot"] | {"override": "sold"} and ahead["edition"] == 1
    assert (first["edition"], first["editions"]) == (1, 1)
    for refused in (changes(lead, job, title="CHANGED")(), lead.marks(job, "make_safe.cool"),
                    lead.finds(job, "working", "hood_blocked"), lead.reads(job, "hood_flow", "9", "cfm")):  # fmt: skip
        assert refused.status_code == 409 and refused.json()["code"] == "handed_over"
    again, edition = {"why": "It came back.", "at": AT}, uuid.uuid4()
    assert trainee.put(f"/jobs/{job}/editions/{edition}", again).status_code == 403
    opened = lead.put(f"/jobs/{job}/editions/{edition}", again).json()
    assert not opened["handed_over"] and opened["editions"] == 1
    assert lead.put(f"/jobs/{job}/editions/{edition}", again).status_code == 200  # a repeated write
    assert lead.put(f"/jobs/{job}/editions/{uuid.uuid4()}", again).json()["code"] == "not_handed_over"
    lead.reads(job, "outlet_flow", "140", "cfm", phase="after")
    second = lead.put(f"/jobs/{job}/record/{uuid.uuid4()}", {"at": AT, "override": "mended"}).json()
    assert (second["edition"], second["editions"]) == (2, 2) and len(second["snapshot"]["readings"]) == 2
    assert lead.get(f"/jobs/{job}/record").json() == second
    assert lead.get(f"/jobs/{job}/record?edition=1").json() == first | {"editions": 2}
    assert lead.get(f"/jobs/{job}/record?edition=3").status_code == 404
    assert lead.put(f"/jobs/{job}/editions/{edition}", again).status_code == 409  # over since
    told = [row["text"] for row in lead.get(f"/jobs/{job}/history").json()]
    assert "opened it again for a new edition of its record: It came back." in told


@pytest.mark.django_db
@pytest.mark.parametrize("clock", ["2099-12-31T00:00:00+00:00", LATER, AT, "2001-01-01T00:00:00+00:00"])
def test_what_is_in_force_is_what_came_last_whatever_a_phones_clock_says(clock):
    """A phone one hour ahead marks a step done; the lead, a minute later by the wall, says undone."""
    phone = a_technician("lead")
    lead, job = twin(phone), phone.opens()
    mark = {"step": "make_safe.unplug", "state": "done"}
    phone.put(f"/jobs/{job}/marks/{uuid.uuid4()}", mark | {"at": clock})
    undone = lead.put(f"/jobs/{job}/marks/{uuid.uuid4()}", mark | {"state": "undone", "at": AT})
    assert undone.json()["marks"] == []
    cause = {"kind": "working", "severity": None}
    phone.put(f"/jobs/{job}/causes/{uuid.uuid4()}", cause | {"fault": "hood_blocked", "at": clock})
    changed = lead.put(f"/jobs/{job}/causes/{uuid.uuid4()}", cause | {"fault": "lint_screen_blinded", "at": AT})
    assert changed.json()["working_cause"]["fault"] == "lint_screen_blinded"
    way = {"avoid": [], "through": []}
    phone.put(f"/jobs/{job}/ways/{uuid.uuid4()}", way | {"also": ["belt"], "at": clock})
    lead.put(f"/jobs/{job}/ways/{uuid.uuid4()}", way | {"also": [], "at": AT})
    document = lead.get(f"/jobs/{job}/file").json()
    assert [row["also"] for row in document["ways"]] == [["belt"], []]
    Happening.objects.all().delete()
    for model in (Mark, Reading):
        model.objects.all().delete()
    Job.objects.all().delete()
    assert lead.brings(document).json()["working_cause"]["fault"] == "lint_screen_blinded"  # a file keeps the order


@pytest.mark.django_db
def test_a_place_is_changed_only_where_it_was_changed_and_what_is_lost_is_shown():
    """Tobin corrects an address at one job; Ines, who read before, adds words at another: both stand, logged."""
    tobin = a_technician()
    ines = twin(tobin)
    place, machine = ({"id": str(uuid.uuid4())} for _ in range(2))
    one = tobin.opens(place=place, machine=machine)
    two = tobin.opens(place=place, machine=machine)
    hers = changes(ines, two, said="It smells, too.")
    clashes = changes(ines, two, place={"address": "another"})
    corrected = changes(tobin, one, place={"address": "3 New Lane"}, machine={"age_years": 12})()
    assert corrected.status_code == 200
    shown = hers()
    assert shown.status_code == 200 and shown.json()["said"] == "It smells, too."
    assert shown.json()["place"]["address"] == "3 New Lane" and shown.json()["machine"]["age_years"] == 12
    refused = clashes()
    assert refused.status_code == 409 and refused.json()["recorded"] == {"address": "3 New Lane"}
    assert refused.json()["offered"] == {"address": "another"}
    logged = {row["what"]: (row["before"], row["after"]) for row in tobin.get(f"/jobs/{one}/history").json()}
    assert logged["place_changed"] == ({"address": "2 Ness Lane"}, {"address": "3 New Lane"})
    assert logged["machine_changed"] == ({"age_years": 7}, {"age_years": 12})


@pytest.mark.django_db
def test_a_client_that_knows_no_versions_says_a_layout_and_changes_nothing_else():
    who = a_technician()
    facts = job_facts()
    job = str(uuid.uuid4())
    who.put(f"/jobs/{job}", facts)
    changed = facts | {
        "place": facts["place"] | {"address": "old"}, "based_on": 1,
        "machine": facts["machine"] | {"age_years": 1, "layout": "two_motors", "supply": "hard_wired"},
    }  # fmt: skip
    shown = who.put(f"/jobs/{job}", changed).json()
    assert (shown["place"]["address"], shown["machine"]["age_years"]) == ("2 Ness Lane", 7)
    assert (shown["machine"]["supply"], shown["machine"]["layout"]) == ("plug", "two_motors")


@pytest.mark.django_db
def test_an_old_file_puts_no_place_and_no_machine_back():
    who = a_technician()
    job = who.opens()
    document = who.get(f"/jobs/{job}/file").json()
    changes(who, job, place={"address": "3 New Lane"}, machine={"age_years": 12})()
    document["x-job"]["id"] = str(uuid.uuid4())
    for key in ("readings", "findings"):
        document[key] = []
    shown = who.brings(document).json()
    assert shown["place"]["address"] == "3 New Lane" and shown["machine"]["age_years"] == 12


@pytest.mark.django_db(transaction=True)
def test_two_leads_cannot_end_each_other_at_once():
    for _ in range(4):
        one = a_technician("lead")
        two = a_technician("lead", one.workshop)
        told = at_once(
            lambda a=one, b=two: a.put(f"/people/{b.person.id}", {"role": "technician", "qualifications": []}),
            lambda a=one, b=two: b.client.delete(f"/api/v1/people/{a.person.id}/membership"),
        )
        assert Membership.objects.filter(workshop=one.workshop, role="lead").count() >= 1
        assert sorted(answer.status_code for answer in told)[0] in (200, 204)


@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize("what", ["job", "import", "invitation", "place"])
def test_the_same_new_thing_twice_at_once_is_one_and_both_are_told_so(what):
    for _ in range(3):
        _twice_at_once(what)


def _twice_at_once(what):
    lead = a_technician("lead")
    devices = [twin(lead) for _ in range(3)]
    facts, new = job_facts(), uuid.uuid4()
    document = {"format": "warm-draft/job", "version": 1, "x-job": {"id": str(new)},
                "readings": [{"kind": "outlet_flow", "value": 90, "unit": "cfm"}]}  # fmt: skip
    acts = {
        "job": lambda who: who.put(f"/jobs/{new}", facts),
        "import": lambda who: who.brings(document),
        "invitation": lambda who: who.put(f"/invitations/{new}", {"email": "new@lake.example", "role": "trainee"}),
        "place": lambda who: who.put(f"/jobs/{uuid.uuid4()}", facts),
    }
    told = at_once(*(lambda who=who: acts[what](who) for who in devices))
    codes = [answer.status_code for answer in told]
    assert set(codes) <= {200, 409} and codes.count(200) >= 1, [answer.content[:200] for answer in told]
    if what != "import":  # a file without moments differs from what it became
        assert codes == [200] * 3
    if what in ("job", "place"):
        assert (Place.objects.filter(id=facts["place"]["id"]).count(), Machine.objects.count() > 0) == (1, True)


@pytest.mark.django_db
def test_two_machines_answer_alike(monkeypatch):
    """What one process keeps never differs from what another works out: minutes learned, a job shut."""
    who = a_technician("lead")
    job, taught = a_wheel_job(who), a_wheel_job(who)
    cut = kept.Kept(kept.MOST_BYTES)

    def on_another_machine(path):
        monkeypatch.setattr(kept, "_kept", cut)  # with what it kept itself
        learned._learned.cache_clear()
        try:
            return who.get(path).json()
        finally:
            monkeypatch.undo()

    def alike():
        here = who.get(f"/jobs/{job}").json()
        assert on_another_machine(f"/jobs/{job}") == here
        return here

    before = alike()
    for minutes, step in enumerate(who.get(f"/jobs/{taught}").json()["open"]):
        at = f"2026-11-25T09:{minutes * 3:02}:00+00:00"
        who.put(f"/jobs/{taught}/marks/{uuid.uuid4()}", {"step": step["id"], "state": "done", "at": at})
    who.put(f"/jobs/{taught}/record/{uuid.uuid4()}", {"at": AT, "override": "sold"})
    after = alike()
    assert after["bench"]["total_minutes"] != before["bench"]["total_minutes"]
    # the machine that taught it turns out to be another: what was learned of this layout stays as it was
    elsewhere = who.opens(machine={"id": who.get(f"/jobs/{taught}").json()["machine"]["id"], "layout": "two_motors"})
    assert who.get(f"/jobs/{elsewhere}").json()["machine"]["layout"] == "two_motors"
    assert alike()["bench"]["total_minutes"] == after["bench"]["total_minutes"]
    other = a_wheel_job(who, "door_screen_bulkhead")
    key = kept._key(*_asked(who, other))
    who.put(f"/jobs/{job}/record/{uuid.uuid4()}", {"at": AT, "override": "sold"})
    assert kept._key(*_asked(who, other)) == key  # a hand-over of one layout drops no answer of another
    assert who.get(f"/jobs/{job}").json()["machine"]["layout"] == C


def _asked(who, job):
    from jobs.facts import reads
    from people.may import member

    me = member(who.person)
    return me, *reads.job_and_people_as_of(me, uuid.UUID(job))
