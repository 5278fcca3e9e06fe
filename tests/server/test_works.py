"""The list of works over the API: orders, decisions, what is against them, the way in before a cause, the record."""

import uuid

import pytest
from tests.server.factories import AT, a_technician

from jobs.models import WayChoice

pytestmark = pytest.mark.django_db
FELT = "line.drum_seal.replace"


def orders(who, job, part, act, work=None, **more):
    return who.put(f"/jobs/{job}/works/{work or uuid.uuid4()}", {"part": part, "act": act, "at": AT} | more)


def says(who, job, step, state, why=""):
    body = {"step": step, "state": state, "why": why, "at": AT}
    return who.put(f"/jobs/{job}/marks/{uuid.uuid4()}", body)


def lines(view):
    return {line["name"].removeprefix("line."): line for line in view["works"]["lines"]}


def a_wheel_job(who):
    job = who.opens(machine={"layout": "door_screen_bulkhead"})
    assert who.finds(job, "working", "blower_wheel_fouled").status_code == 200
    return job


def make_safe(who, job):
    who.does(job, who.get(f"/jobs/{job}").json()["safety"])


def test_an_order_is_a_line_once_and_taking_it_back_leaves_nothing_of_it():
    who, job, work = a_technician(), None, str(uuid.uuid4())
    job = who.opens()
    view = orders(who, job, "exhaust_pipe", "clear", work).json()
    line = lines(view)["exhaust_pipe.clear"]
    assert line["because"]["kind"] == "order" and line["because"]["order"] == work and line["wanted"]
    assert orders(who, job, "exhaust_pipe", "clear", work).status_code == 200, "the same write again"
    twice = orders(who, job, "exhaust_pipe", "clear")
    assert (twice.status_code, twice.json()["code"]) == (409, "ordered_already")
    back = who.put(f"/jobs/{job}/facts/{work}/withdrawn", {"withdrawn": True, "at": AT}).json()
    assert "exhaust_pipe.clear" not in lines(back)
    assert orders(who, job, "exhaust_pipe", "clear").status_code == 200
    again = who.put(f"/jobs/{job}/facts/{work}/withdrawn", {"withdrawn": False, "at": AT})
    assert again.json()["code"] == "ordered_already"


@pytest.mark.parametrize(
    ("body", "path"),
    [
        ({"part": "flux_capacitor", "act": "fit"}, "$.part"),
        ({"part": "thermal_fuse", "act": "clean"}, "$.act"),
        ({"part": "hood", "act": "polish"}, "$.act"),
    ],
)
def test_what_nobody_knows_is_refused_by_its_place(body, path):
    who = a_technician()
    answer = orders(who, who.opens(), **body)
    assert (answer.status_code, answer.json()["fields"][0]["path"]) == (422, path)


def test_a_part_that_this_layout_has_no_way_to_stands_and_says_so():
    who = a_technician()
    view = orders(who, who.opens(), "side_outlet", "fit").json()
    assert lines(view)["side_outlet.fit"]["unreached"] == ["outlet to the side"]
    assert view["works"]["unreached"] == ["side_outlet"]


def test_an_offer_is_taken_and_declined_with_a_reason_by_whom():
    who = a_technician()
    job = a_wheel_job(who)
    taken = says(who, job, FELT, "taken").json()
    assert lines(taken)["drum_seal.replace"]["wanted"]
    assert "mend.replace_felt" in [step["id"] for step in taken["mend"]]
    assert says(who, job, FELT, "declined").json()["fields"][0]["path"] == "$.why"
    declined = says(who, job, FELT, "declined", "customer says no").json()
    line = lines(declined)["drum_seal.replace"]
    assert (line["became"], line["why"], line["by"]) == ("declined", "customer says no", "Ada Fell")
    assert "mend.replace_felt" not in [step["id"] for step in declined["mend"]]
    against = who.marks(job, "mend.replace_felt")
    assert (against.status_code, against.json()["code"]) == (409, "against_a_line")
    says(who, job, FELT, "undone")
    assert who.marks(job, "mend.replace_felt").status_code == 200
    late = says(who, job, FELT, "not_needed")
    assert (late.status_code, late.json()["code"]) == (409, "against_a_line")
    history = [row["text"] for row in who.get(f"/jobs/{job}/history").json()]
    assert "took on: replace the drum's felt" in history
    assert "declined: replace the drum's felt, customer says no" in history


@pytest.mark.parametrize(("step", "state"), [("line.hood.polish", "taken"), (FELT, "done"), ("open.drum", "declined")])
def test_a_mark_says_only_what_can_be_said_of_it(step, state):
    who = a_technician()
    assert says(who, a_wheel_job(who), step, state, "because").status_code == 422


def test_what_an_earlier_client_took_along_is_taken():
    who = a_technician()
    job = a_wheel_job(who)
    old = who.put(f"/jobs/{job}/ways/{uuid.uuid4()}", {"also": ["drum_seal"], "at": AT}).json()
    assert lines(old)["drum_seal.replace"]["became"] == "taken"
    other_way = who.put(f"/jobs/{job}/ways/{uuid.uuid4()}", {"avoid": [], "at": AT}).json()
    assert lines(other_way)["drum_seal.replace"]["became"] == "taken", "another way says nothing of it"
    assert [row.also for row in WayChoice.objects.order_by("seq")] == [["drum_seal"], None]
    none = who.put(f"/jobs/{job}/ways/{uuid.uuid4()}", {"also": [], "at": AT}).json()
    assert lines(none)["drum_seal.replace"]["became"] == "open"


def test_the_way_to_a_meter_test_is_on_the_bench_before_any_cause():
    who = a_technician()
    job = who.opens(complaints=["no_start"])
    make_safe(who, job)
    view = orders(who, job, "thermal_fuse", "meter").json()
    assert (view["next"]["code"], view["next"]["stage"]) == ("do_step", "open") and view["bench"]["compartments"]
    who.does(job, view["open"])
    there = who.get(f"/jobs/{job}").json()
    assert (there["next"]["code"], there["next"]["subject"]) == ("check", "meter_thermal_fuse")
    body = {"part": "thermal_fuse", "instrument": "analogue", "isolated": True, "typed": "needle_at_infinity", "at": AT}
    metered = who.put(f"/jobs/{job}/meter/{uuid.uuid4()}", body).json()
    assert lines(metered)["thermal_fuse.meter"]["became"] == "done"
    assert [line["name"] for line in metered["works"]["waiting"]] == ["line.thermal_fuse.replace"]
    cause = who.finds(job, "working", "lint_duct_packed").json()
    assert lines(cause)["thermal_fuse.replace"]["because"]["of"] == "lint_duct_packed"
    # metered again with the new one in: the failed one of before is not displaced
    again = who.put(
        f"/jobs/{job}/meter/{uuid.uuid4()}",
        body | {"typed": "needle_at_zero", "phase": "after"},
    ).json()
    assert [test["verdict"]["verdict"] for test in again["meter"] if test["in_force"]] == ["failed", "good"]
    shown = {(row["part"], row["act"]): row["proven"] for row in again["proof"]["lines"]}
    assert shown["thermal_fuse", "replace"] is True


def test_a_service_is_handed_over_without_a_cause_and_its_record_has_its_lines():
    who = a_technician()
    job = who.opens(complaints=["service_due"])
    make_safe(who, job)
    view = who.get(f"/jobs/{job}").json()
    assert not view["wants_cause"] and {"hood.clear", "lint_duct.clean"} <= set(lines(view))
    for name in lines(view):
        if name not in ("hood.clear", "use.adjust"):
            says(who, job, f"line.{name}", "declined", "not today")
    view = who.get(f"/jobs/{job}").json()
    who.does(job, [*view["open"], *view["mend"], *view["close"]])
    who.proves(job)
    ready = who.get(f"/jobs/{job}").json()
    assert ready["next"]["text"] == "Also: Look at the hood while it runs"
    flap = {"check": "hood_flap_opens", "result": "full", "phase": "after", "at": AT}
    ready = who.put(f"/jobs/{job}/findings/{uuid.uuid4()}", flap).json()
    assert ready["next"]["code"] == "hand_over", ready["next"]
    record = who.put(f"/jobs/{job}/record/{uuid.uuid4()}", {"at": AT}).json()["snapshot"]
    became = {line["name"]: line["became"] for line in record["works"]}
    assert became["line.hood.clear"] == "done" and became["line.lint_duct.clean"] == "declined"
    assert next(line for line in record["works"] if line["became"] == "declined")["why"] == "not today"


def test_a_job_goes_out_and_comes_in_with_its_orders_and_decisions():
    who = a_technician()
    job, taken_back = a_wheel_job(who), str(uuid.uuid4())
    orders(who, job, "hood", "clear", why="while we are there")
    orders(who, job, "inlet", "clear", taken_back)
    who.put(f"/jobs/{job}/facts/{taken_back}/withdrawn", {"withdrawn": True, "at": AT})
    says(who, job, FELT, "declined", "customer says no")
    file = who.get(f"/jobs/{job}/file").json()
    assert [(row["part"], row["act"]) for row in file["works"]] == [("hood", "clear")]
    assert [(row["part"], row["act"]) for row in file["withdrawn"]["works"]] == [("inlet", "clear")]
    assert who.brings(file).status_code == 200, "the same file is the same job"
    there = a_technician()
    document = file | {"x-job": {**file["x-job"], "id": str(uuid.uuid4())}}
    for key in ("works", "marks", "causes", "readings", "findings"):
        if key in document:
            document[key] = [{**row, "id": str(uuid.uuid4())} for row in document[key]]
    document["withdrawn"] = {"works": [{**row, "id": str(uuid.uuid4())} for row in file["withdrawn"]["works"]]}
    document["x-job"] |= {"machine": {"name": "x"}, "place": {"name": "y"}}
    brought = there.brings(document)
    assert brought.status_code == 200, brought.content
    view = brought.json()
    assert lines(view)["drum_seal.replace"]["became"] == "declined" and lines(view)["hood.clear"]["wanted"]


@pytest.mark.parametrize(
    "step", ["mend.replace_igniter", "mend.look_at_burner", "close.gas_on", "open.gas_line", "close.burner"]
)
def test_gas_is_for_the_licensed(step):
    plain, licensed = a_technician(), None
    licensed = a_technician(workshop=plain.workshop, qualified=("gas",))
    job = plain.opens(machine={"energy": "gas", "profile": "full-size-gas"})
    assert plain.marks(job, step).status_code == 403
    assert plain.marks(job, step, "not_possible").status_code == 200
    assert licensed.marks(job, step).status_code == 200


def test_orders_of_two_at_once_are_one_line():
    who = a_technician()
    other = a_technician(workshop=who.workshop)
    job = who.opens()
    assert orders(who, job, "hood", "clear").status_code == 200
    assert orders(other, job, "hood", "clear").json()["code"] == "ordered_already"
    assert [row["part"] for row in who.get(f"/jobs/{job}/file").json()["works"]] == ["hood"]
