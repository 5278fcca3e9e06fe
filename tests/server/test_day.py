"""The day: booked jobs become stops, the worker orders them, a change says what it costs and can be taken back."""

import uuid

import pytest
from icalendar import Calendar
from tests.server.factories import a_technician, job_facts

from day.models import Ground, Plan, Van, Way, Wish
from day.planning import make
from day.public import van as van_calendar
from jobs.models import Job
from machines.models import Place

pytestmark = pytest.mark.django_db
DAY = "2026-11-25"
PLACES = [("Old mill", 54.40, -3.00), ("Boat house", 54.42, -3.05), ("Quarry inn", 54.36, -2.95)]


def books(who, number, **machine):
    """A job at a place of its own, that lies somewhere."""
    name, latitude, longitude = PLACES[number]
    facts = job_facts()
    facts["place"] = {"id": str(uuid.uuid4()), "name": name, "address": f"{number} Lane", "contact": ""}
    facts["machine"] = facts["machine"] | {"id": str(uuid.uuid4())} | machine
    facts["booked_for"] = f"2026-11-25T{(9, 11, 13)[number]:02}:00:00+00:00"
    job = str(uuid.uuid4())
    assert who.put(f"/jobs/{job}", facts).status_code == 200
    place = facts["place"]["id"]
    said = {"latitude": latitude, "longitude": longitude}
    assert who.put(f"/ground/places/{place}", said).status_code == 204
    return job


def drives(who, name="Van 1", **said):
    van = str(uuid.uuid4())
    body = {"name": name, "driver": str(who.person.id)} | said
    assert who.put(f"/ground/vans/{van}", body).status_code == 204
    return van


def a_day(role="lead"):
    """A technician with a van and three jobs."""
    who = a_technician(role)
    assert who.put("/ground/base", {"name": "Yard", "latitude": 54.41, "longitude": -3.01}).status_code == 204
    return who, drives(who), [books(who, number) for number in range(3)]


def planned(who):
    """The day once the worker was there."""
    answer = who.client.post(f"/api/v1/day/{DAY}/plan", "{}", content_type="application/json")
    assert answer.status_code == 200 and answer.json()["plan"]["waiting"]
    make(Plan.objects.get(workshop=who.workshop).pk)
    return who.get(f"/day/{DAY}").json()


def order(day, van):
    return [call["stop"] for tour in day["plan"]["run"]["tours"] if tour["van"] == van for call in tour["calls"]]


def test_booked_jobs_are_stops_and_the_worker_orders_them():
    who, van, jobs = a_day()
    before = who.get(f"/day/{DAY}").json()
    assert {stop["id"] for stop in before["stops"]} == set(jobs) and before["plan"] is None
    assert before["stops"][0]["windows"] == [{"early": "09:00", "late": "11:00"}]
    assert who.put("/stock/figures", {"second_trip": "90", "based_on": 1}).status_code == 200
    day = planned(who)
    assert not day["plan"]["waiting"] and sorted(order(day, van)) == sorted(jobs)
    assert day["mine"] == van and day["next"] == order(day, van)[0]
    stop = day["stops"][0]
    assert stop["planned"] and stop["minutes"] > 10 and stop["sd_minutes"] > 0 and stop["bring"]
    assert day["plan"]["run"]["best_minutes"] == pytest.approx(day["plan"]["run"]["cost_minutes"])


def test_a_change_says_what_it_costs_and_is_taken_back():
    who, van, _ = a_day()
    other = drives(who, "Van 2", driver=None)
    day = planned(who)
    first = order(day, van)[0] if order(day, van) else order(day, other)[0]
    moves = who.get(f"/day/{DAY}/moves?stop={first}").json()
    assert {row["van"] for row in moves} == {van, other, None} and moves == sorted(
        moves, key=lambda m: m["costs_minutes"]
    )
    assert moves[-1]["van"] is None and moves[-1]["costs_minutes"] > 100
    wanted = next(row for row in moves if row["van"] == other)
    body = {"based_on": day["plan"]["version"], "stop": first, "van": other, "position": wanted["position"]}
    changed = who.put(f"/day/{DAY}/orders", body).json()
    assert first in order(changed, other)
    costs = changed["plan"]["run"]["cost_minutes"] - day["plan"]["run"]["cost_minutes"]
    assert costs == pytest.approx(wanted["costs_minutes"])
    assert who.put(f"/day/{DAY}/orders", body).status_code == 409  # an older plan
    back = who.put(f"/day/{DAY}/undone", {"based_on": changed["plan"]["version"]}).json()
    assert order(back, van) == order(day, van) and back["plan"]["undo"] == 0
    assert who.put(f"/day/{DAY}/undone", {"based_on": back["plan"]["version"]}).status_code == 409


def test_live_work_goes_to_who_is_qualified_and_a_wish_is_kept():
    who, plain, jobs = a_day()
    fitter = a_technician("technician", who.workshop, qualified=("live",))
    theirs = drives(fitter, "The fitter's")
    wired = books(who, 1, supply="hard_wired")
    wish = {"windows": [{"early": 840, "late": 900}], "van": plain}
    assert who.put(f"/ground/wishes/{jobs[0]}", wish).status_code == 204
    day = planned(who)
    stop = next(row for row in day["stops"] if row["id"] == jobs[0])
    assert stop["wished"] and stop["windows"] == [{"early": "14:00", "late": "15:00"}]
    assert jobs[0] in order(day, plain)
    begins = {call["stop"]: call["begin"] for tour in day["plan"]["run"]["tours"] for call in tour["calls"]}
    assert "14:00" <= begins[jobs[0]] <= "15:00"
    needs = next(row["needs"] for row in day["stops"] if row["id"] == wired)
    assert needs == ["live"] and wired in order(day, theirs)


def test_what_is_missing_for_a_plan_is_said():
    who = a_technician("lead")
    book = books(who, 0)
    assert "where the vans start" in planned(who)["plan"]["trouble"]
    who.put("/ground/base", {"name": "Yard", "latitude": 54.41, "longitude": -3.01})
    assert "which vans drive" in planned(who)["plan"]["trouble"]
    drives(who)
    Ground.objects.all().delete()
    day = planned(who)
    assert day["plan"]["missing"] == [book] and day["plan"]["run"]["missed"] == []
    assert planned(a_technician("lead"))["plan"]["trouble"]


def test_a_job_booked_later_is_missing_and_one_handed_over_is_passed():
    who, van, _ = a_day()
    day = planned(who)
    later = books(who, 1)
    Job.objects.filter(id=order(day, van)[0]).update(shut=True)
    now = who.get(f"/day/{DAY}").json()
    assert now["plan"]["missing"] == [later]
    assert (
        now["next"] == order(day, van)[1]
        and next(row for row in now["stops"] if row["done"])["id"] == order(day, van)[0]
    )


def test_tables_of_places_and_of_ways_are_taken_whole_or_not_at_all():
    who, _, _ = a_day()
    put = lambda text: who.put("/ground/table", {"csv": text})  # noqa: E731
    assert put("place;latitude;longitude\nOld mill;54,5;-3,1\nbase;54.4;-3").json() == {"rows": 2}
    assert Ground.objects.get(place__name="Old mill").latitude == 54.5
    assert put("from,to,minutes\nYard,Old mill,17\nOld mill,Boat house,9").json() == {"rows": 2}
    assert set(Way.objects.values_list("minutes", flat=True)) == {17.0, 9.0}
    for wrong, says in [
        ("from,to,minutes\nYard,Nowhere,3", "Nowhere"), ("a,b\n1,2", "give the columns"), ("place,latitude", "columns"),
        ("from,to,minutes\nYard,Old mill,soon", "line 2"), ("place,latitude,longitude\nOld mill,99,0", "line 2"),
        ("from,to,minutes\nYard,Old mill", "line 2 has 2 cells"),
    ]:  # fmt: skip
        answer = put(wrong)
        assert answer.status_code == 422 and says in answer.json()["message"], wrong
    assert Way.objects.count() == 2
    day = planned(who)
    assert day["plan"]["run"]["tours"][0]["travel_minutes"] > 0


def test_a_vans_stops_are_a_calendar_by_file_and_by_address(rf):
    who, van, _ = a_day()
    day = planned(who)
    answer = who.client.get(f"/api/v1/day/{DAY}/vans/{van}/calendar")
    events = Calendar.from_ical(answer.content).walk("VEVENT")
    assert len(events) == 3 and {str(event["SUMMARY"]) for event in events} == {name for name, _, _ in PLACES}
    begins = min(event["DTSTART"].dt for event in events)
    assert begins.strftime("%H:%M") == min(c["begin"] for t in day["plan"]["run"]["tours"] for c in t["calls"])
    token = who.put("/calendar", {"on": True}).json()["address"].rsplit("/", 1)[1].removesuffix(".ics")
    assert van_calendar(rf.get("/"), token, uuid.UUID(van)).status_code == 200
    assert van_calendar(rf.get("/"), "nothing", uuid.UUID(van)).status_code == 404
    assert van_calendar(rf.get("/"), token, uuid.uuid4()).status_code == 404


def test_a_trainee_looks_and_does_not_plan_and_a_stranger_finds_nothing():
    who, van, jobs = a_day()
    day = planned(who)
    trainee = a_technician("trainee", who.workshop)
    assert trainee.get(f"/day/{DAY}").json()["stops"]
    assert trainee.client.post(f"/api/v1/day/{DAY}/plan", "{}", content_type="application/json").status_code == 403
    stranger = a_technician("lead")
    assert stranger.get(f"/day/{DAY}").json()["stops"] == []
    assert stranger.get(f"/day/{DAY}/moves?stop={jobs[0]}").status_code == 404
    assert stranger.put(f"/ground/vans/{van}", {"name": "mine"}).status_code == 404
    assert (
        stranger.put(f"/ground/places/{Place.objects.first().id}", {"latitude": 0, "longitude": 0}).status_code == 404
    )
    assert stranger.put(f"/ground/wishes/{jobs[0]}", {"windows": []}).status_code == 404
    assert stranger.client.get(f"/api/v1/day/{DAY}/vans/{van}/calendar").status_code == 404
    assert (
        stranger.put("/ground/vans/" + str(uuid.uuid4()), {"name": "x", "driver": str(who.person.id)}).status_code
        == 404
    )
    assert Van.objects.count() == 1 and not Wish.objects.exists() and day["plan"]["version"] == 2


@pytest.mark.parametrize("wrong", ["2026-13-01", "1999-12-31", "2100-01-01", "tomorrow"])
def test_a_day_that_no_calendar_has_is_refused(wrong):
    answer = a_technician().client.get(f"/api/v1/day/{wrong}")
    assert answer.status_code == 422, answer.content


def test_hours_and_windows_hold_a_moment():
    who = a_technician("lead")
    assert who.put(f"/ground/vans/{uuid.uuid4()}", {"name": "V", "early": 900, "late": 600}).status_code == 422
    body = {"windows": [{"early": 900, "late": 600}]}
    assert who.put(f"/ground/wishes/{who.opens()}", body).status_code == 422


def test_an_order_that_may_not_be_is_refused_and_changes_nothing():
    who, van, jobs = a_day()
    day = planned(who)
    body = {"based_on": day["plan"]["version"], "stop": str(uuid.uuid4()), "van": van, "position": 0}
    assert who.put(f"/day/{DAY}/orders", body).status_code == 422
    assert who.put(f"/day/{DAY}/orders", body | {"stop": jobs[0], "van": str(uuid.uuid4())}).status_code == 422
    assert who.get(f"/day/{DAY}").json()["plan"] == day["plan"]
