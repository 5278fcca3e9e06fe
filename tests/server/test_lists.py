"""Lists: paged, never worked out, one row that cannot be shown hurts no other; finding jobs by words."""

import uuid
from datetime import timedelta
from urllib.parse import quote

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone
from tests.server.factories import AT, a_technician

from jobs.answer import shown, summaries
from jobs.answer.summaries import renew, stale
from jobs.facts.timeline import record_happening
from jobs.models import Job, Summary, Word
from jobs.tasks import renew_jobs_of, renew_summaries
from machines.models import Place
from people.may import member

pytestmark = pytest.mark.django_db


def booked(days: float) -> str:
    return (timezone.now() + timedelta(days=days)).isoformat()


def pages(who, path):
    """Rows of all pages, and how many pages there were."""
    rows, count, after = [], 0, ""
    while True:
        joined = f"{path}{'&' if '?' in path else '?'}after={quote(after, safe='')}"
        answer = who.get(joined)
        assert answer.status_code == 200, answer.content
        rows, count, after = rows + answer.json(), count + 1, answer.headers.get("X-Warm-Next", "")
        if not after:
            return rows, count


def a_workshop_of(who, jobs: int, **changes):
    """Jobs of one workshop by copying one: rows alone, as a list reads them."""
    first = Job.objects.get(id=who.opens(**changes))
    summary = Summary.objects.get(job=first)
    for i in range(jobs - 1):
        job = Job.objects.get(id=first.id)
        job.id, job.booked_for = uuid.uuid4(), first.booked_for + timedelta(minutes=i)
        job.save(force_insert=True)
        summary.job_id, summary.booked_for = job.id, job.booked_for
        summary.save(force_insert=True)


def test_a_list_weighs_nothing_and_asks_the_same_whatever_there_is(monkeypatch):
    who = a_technician()
    who.opens(booked_for=booked(1))
    monkeypatch.setattr(shown, "known_of", lambda *_: pytest.fail("a list works out a job"))
    with CaptureQueriesContext(connection) as few:
        assert len(who.get("/jobs?which=open").json()) == 1
    monkeypatch.undo()
    a_workshop_of(who, 75, booked_for=booked(2))
    with CaptureQueriesContext(connection) as many:
        answer = who.get("/jobs?which=open")
    assert len(answer.json()) == 30 and answer.headers["X-Warm-Next"]
    assert len(many) == len(few)
    rows, count = pages(who, "/jobs?which=open")
    assert count == 3 and len({row["id"] for row in rows}) == 76
    assert [row["booked_for"] for row in rows] == sorted(row["booked_for"] for row in rows)


def test_the_day_comes_first_then_what_is_open_from_before_and_handed_over_is_a_list_of_its_own():
    who = a_technician("lead")
    coming, old, over = (who.opens(booked_for=booked(days)) for days in (1, -3, -2))
    who.put(f"/jobs/{over}/record/{uuid.uuid4()}", {"at": AT, "override": "sold"})
    told = {which: [row["id"] for row in who.get(f"/jobs?which={which}").json()]
            for which in ("open", "earlier", "handed_over", "any")}  # fmt: skip
    assert told == {"open": [coming], "earlier": [old], "handed_over": [over], "any": [coming, over, old]}
    row = who.get("/jobs?which=handed_over").json()[0]
    assert row["handed_over"] and row["next"] == "Show the record" and row["last_by"] == "Ada Fell"


def test_what_a_list_says_is_what_the_job_says():
    who = a_technician(qualified=("live", "gas"))
    job = who.opens(booked_for=booked(1))
    for act in (
        lambda: who.reads(job, "outlet_flow", "60", "cfm"),
        lambda: who.reads(job, "outlet_static_pressure", "1.2", "inH2O"),
        lambda: who.marks(job, "make_safe.unplug"),
        lambda: who.finds(job, "working", "hood_blocked"),
    ):
        shown = act().json()
        (row,) = who.get("/jobs?which=open").json()
        assert row["headline"] == shown["verdict"]["headline"]["text"]
        assert (row["stage"], row["next"], row["version"]) == (
            shown["next"]["stage"], shown["next"]["text"], shown["version"]
        )  # fmt: skip


def test_a_job_that_cannot_be_shown_says_so_in_the_list_and_hurts_no_other(monkeypatch):
    who = a_technician()
    broken, well = who.opens(booked_for=booked(1)), who.opens(booked_for=booked(2))
    works = shown.known_of
    monkeypatch.setattr(
        shown, "known_of", lambda job, layout, words: works(job, layout, words) if str(job.id) == well else 1 / 0
    )
    Summary.objects.update(made_of="an earlier model")
    renew_summaries(0)
    rows = {row["id"]: row for row in who.get("/jobs?which=open").json()}
    assert "cannot be shown" in rows[broken]["trouble"] and rows[well]["trouble"] == ""
    assert rows[well]["headline"] and stale() == []


def test_the_worker_renews_what_other_words_and_older_releases_made(monkeypatch):
    who = a_technician()
    old, without = who.opens(booked_for=booked(1)), who.opens(booked_for=booked(2))
    Summary.objects.filter(job=without).delete()
    rows = who.get("/jobs?which=open").json()
    assert [row["id"] for row in rows] == [old, without] and rows[1]["headline"] == ""  # listed all the same
    renew_summaries(0)
    assert who.get("/jobs?which=open").json()[1]["headline"] == "Nothing measured yet."
    monkeypatch.setattr(summaries, "words_version", lambda: "other words")
    assert {str(job) for job in stale()} == {old, without}
    renew_summaries(0)
    assert stale() == []


def test_a_late_worker_never_puts_an_older_summary_back():
    who = a_technician()
    job = who.opens(booked_for=booked(1))
    who.reads(job, "outlet_flow", "60", "cfm")
    now = Summary.objects.get(job=job)
    stale_row = Job.objects.get(id=job)
    stale_row.version = 1
    summaries._put(stale_row, who.person.id, {"stage": "complaint", "stage_number": 1, "next": "", "headline": "old"})
    assert Summary.objects.get(job=job).headline == now.headline
    renew(uuid.UUID(job))
    assert Summary.objects.get(job=job).headline == now.headline


@pytest.fixture
def found():
    """Three jobs; which of them some words find."""
    who, stranger = a_technician(), a_technician()
    stranger.opens(place={"name": "Otter Ness kennels"})
    kennels = who.opens(booked_for=booked(1), said="The blower screams since Tuesday.")
    theatre = who.opens(
        booked_for=booked(-400), place={"name": "Theatre wardrobe", "contact": "Edda Lume", "address": "9 Quay"},
        machine={"name": "the tall one"}, complaints=["rumbles"], title="Costumes never dry",
    )  # fmt: skip
    ferry = who.opens(
        booked_for=booked(-2), place={"name": "Ferry office", "address": "the pier"}, complaints=["no_heat"], title=""
    )
    names = {kennels: "kennels", theatre: "theatre", ferry: "ferry"}
    return lambda words: [names[row["id"]] for row in who.client.get("/api/v1/jobs", {"q": words}).json()]


@pytest.mark.parametrize(
    ("words", "jobs"),
    [
        ("otter", ["kennels"]),
        ("OTT", ["kennels"]),  # begun only
        ("ness kennels", ["kennels"]),
        ("kennels rumbles", []),  # all words, of one job
        ("theatre edda", ["theatre"]),
        ("costume", ["theatre"]),
        ("rumbling", ["theatre"]),
        ("noise", ["theatre"]),  # the trade's word for what rumbles
        ("wheel", ["kennels"]),  # said as "blower"
        ("fan", ["kennels"]),
        ("keneels", ["kennels"]),  # mistyped
        ("theater", ["theatre"]),
        ("nothing measured", ["kennels", "ferry", "theatre"]),
        ("submarine", []),
        ("'; DROP TABLE jobs_job; --", []),
        ("& | ! ( :*", []),
    ],
)
def test_a_job_is_found_by_any_of_its_words(found, words, jobs):
    assert found(words) == jobs


def test_what_is_found_is_paged_the_latest_first_by_walking_and_by_the_index(monkeypatch):
    who = a_technician()
    a_workshop_of(who, 70, booked_for=booked(1), place={"name": "Rowan mill"})
    a_workshop_of(who, 3, booked_for=booked(-90), place={"name": "Umber chapel"})
    for looked_through in (1_000, 10):  # the whole workshop is looked through, or a little of it
        monkeypatch.setattr("jobs.lists.search.LOOKED_THROUGH", looked_through)
        rows, count = pages(who, "/jobs?q=rowan")
        assert count == 3 and len({row["id"] for row in rows}) == 70
        assert [row["booked_for"] for row in rows] == sorted((row["booked_for"] for row in rows), reverse=True)
        assert len(pages(who, "/jobs?q=chapel")[0]) == 3


def test_words_follow_a_place_that_is_renamed():
    who = a_technician()
    place = {"id": str(uuid.uuid4()), "name": "Otter Ness kennels"}
    first, second = (who.opens(place=place, booked_for=booked(days)) for days in (1, 2))
    shown = who.get(f"/jobs/{first}").json()
    changed = shown["place"] | {"name": "Plover Point kennels", "address": "1 Point"}
    body = {key: shown[key] for key in ("title", "complaints", "circumstances", "told", "said", "booked_for")}
    machine = {k: v for k, v in shown["machine"].items() if k != "profile_title"}
    answer = who.put(f"/jobs/{first}", body | {"place": changed, "machine": machine, "based_on": 1, "at": AT})
    assert answer.json()["place"] == changed | {"version": 2}
    renew_jobs_of(None, place["id"])  # as the worker does
    assert {row["id"] for row in who.get("/jobs?q=plover").json()} == {first, second}
    assert who.get("/jobs?q=otter").json() == []


def test_places_are_found_by_name_and_paged():
    who = a_technician()
    Place.objects.bulk_create(Place(workshop=who.workshop, name=f"Mill {i:03}") for i in range(230))
    Place.objects.create(workshop=who.workshop, name="50 % off & Ünder a'b")
    rows, count = pages(who, "/places")
    assert count == 6 and len({row["id"] for row in rows}) == 231
    assert [row["name"] for row in who.get("/places?q=mill 00").json()] == [f"Mill {i:03}" for i in range(10)]
    assert len(who.get("/places?q=ll 1").json()) == 10  # within a name
    assert who.client.get("/api/v1/places", {"q": "50 %"}).json()[0]["name"].startswith("50")
    assert who.get("/places?q=m").json()[0]["name"] == "Mill 000"


def test_a_history_comes_page_by_page_the_latest_first():
    who = a_technician()
    job = who.opens()
    for i in range(205):
        record_happening(
            member(who.person), Job.objects.get(id=job), "step_done", timezone.now(), after={"step": f"open.old_{i}"}
        )
    rows, count = pages(who, f"/jobs/{job}/history")
    assert count == 2 and len(rows) == 206
    latest = who.get(f"/jobs/{job}/history").json()
    assert len(latest) == 200 and latest[-1]["after"]["step"] == "open.old_204"


@pytest.mark.parametrize("path", ["/jobs", "/places", "/acts"])
@pytest.mark.parametrize("after", ["x", "2026-11-25~no", "a~b~c", "9" * 30 + "~"])
def test_a_page_that_is_none_is_refused(path, after):
    answer = a_technician("lead").client.get(f"/api/v1{path}", {"after": after})
    assert answer.status_code == 422 and answer.json()["code"] == "no_such_page"


def test_words_are_kept_once_a_workshop():
    who = a_technician()
    who.opens()
    who.opens()
    assert Word.objects.filter(workshop=who.workshop, word="kennels").count() == 1
