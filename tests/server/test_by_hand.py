"""A machine of no known layout over the API: opened by hand, closed, and its layout used by the next job."""

import uuid
from datetime import datetime, timedelta

import pytest
from tests.server.factories import AT, a_technician
from tests.server.test_bench import counts, goes, settles

from machines.models import Machine, OwnLayout

pytestmark = pytest.mark.django_db


def operation(name, does, reaches=(), screws=0, **more):
    fasteners = [{"kind": "hex_head", "count": screws, "state": "out"}] if screws else []
    row = {"id": name, "does": does, "open_minutes": 2, "close_minutes": 2, "driver": None, "needs": [],
           "reaches": list(reaches), "fasteners": fasteners}  # fmt: skip
    return row | more


def adds(who, job, document, after="", added=None):
    body = {"operation": document, "after": after, "at": AT}
    return who.put(f"/jobs/{job}/added/{added or uuid.uuid4()}", body)


def test_a_machine_opened_by_hand_has_a_layout_from_then_on_and_a_second_job_uses_it():
    who = a_technician()
    job = who.opens(machine={"layout": ""})
    who.finds(job, "working", "blower_wheel_fouled")
    who.does(job, who.get(f"/jobs/{job}").json()["safety"])
    assert who.get(f"/jobs/{job}").json()["next"]["code"] == "find_way_in"
    at = datetime.fromisoformat(AT) + timedelta(hours=1)
    for i, (name, does, reaches, screws) in enumerate(
        [("own_1", "Back panel off", (), 8), ("own_2", "Duct out", (), 2), ("own_3", "Wheel off", ("blower_wheel",), 1)]
    ):
        added = adds(who, job, operation(name, does, reaches, screws), f"own_{i}" if i else "")
        assert added.status_code == 200, added.content
        body = {"step": f"open.{name}", "state": "done", "at": (at + timedelta(minutes=6 * i)).isoformat()}
        who.put(f"/jobs/{job}/marks/{uuid.uuid4()}", body)
    view = who.get(f"/jobs/{job}").json()
    assert view["by_hand"] and [row["does"] for row in view["added"]] == ["Back panel off", "Duct out", "Wheel off"]
    assert view["next"]["stage"] == "mend"
    counts(who, job, "open.own_1", "fastener", "hex_head", "out", 9)
    goes(who, job, "mend")
    goes(who, job, "close", minutes=3.0)
    settles(who, job)
    who.finds(job, "confirmed", "blower_wheel_fouled")
    who.proves(job)
    record = who.put(f"/jobs/{job}/record/{uuid.uuid4()}", {"at": AT})
    assert record.status_code == 200, record.content
    kept = OwnLayout.objects.get()
    machine = Machine.objects.get(jobs__id=job)
    assert machine.layout == str(kept.id)
    first = kept.document["operations"][0]
    assert first["fasteners"][0]["count"] == 9 and kept.document["operations"][1]["open_minutes"] == 6
    # the next job on a machine of this kind is planned by it
    second = who.opens(machine={"layout": str(kept.id)})
    planned = who.finds(second, "working", "blower_wheel_fouled").json()
    assert [step["operation"] for step in planned["open"]] == ["own_1", "own_2", "own_3"]
    assert planned["bench"]["optimal"] and not planned["by_hand"]


def test_a_change_of_layout_at_the_machine_loses_nothing_that_is_off():
    who = a_technician()
    job = who.opens(machine={"layout": "top_screen_rear_duct"})
    who.finds(job, "working", "lint_duct_packed")
    for name in ("pull_out", "slot_screws", "rear_panel"):
        who.marks(job, f"open.{name}")
    before = {row["operation"]: row for row in who.get(f"/jobs/{job}").json()["bench"]["compartments"]}
    view = who.get(f"/jobs/{job}").json()
    facts = {key: view[key] for key in ("title", "complaints", "circumstances", "told", "said", "booked_for")}
    machine = {key: view["machine"][key] for key in ("id", "name", "profile", "energy", "supply", "version")}
    body = facts | {
        "at": AT, "based_on": view["version"], "place": view["place"] | {"as_known": True},
        "machine": machine | {"layout": "door_screen_bulkhead"},
    }  # fmt: skip
    changed = who.put(f"/jobs/{job}", body)
    assert changed.status_code == 200, changed.content
    after = {row["operation"]: row for row in changed.json()["bench"]["compartments"] if row["state"] == "open"}
    assert set(after) == {"pull_out", "slot_screws", "rear_panel"}
    assert [row["came"] for row in after["rear_panel"]["fasteners"]] == [
        row["came"] for row in before["rear_panel"]["fasteners"]
    ]
    # what is the same in both needs no word; a panel of the same name with other screws keeps those that came out
    assert {row["operation"] for row in changed.json()["added"]} == {"slot_screws", "rear_panel"}
    # it was the first after all: nothing is twice, and what is off frees again what it freed
    body["based_on"] = changed.json()["version"]
    body["machine"] = machine | {"layout": "top_screen_rear_duct", "version": changed.json()["machine"]["version"]}
    back = who.put(f"/jobs/{job}", body)
    assert back.status_code == 200, back.content
    assert back.json()["added"] == [] and back.json()["open"] == view["open"]
    assert {row["operation"]: row for row in back.json()["bench"]["compartments"]} == before


def test_a_step_put_in_is_taken_back_and_one_that_is_not_there_is_said():
    who = a_technician()
    job = who.opens(machine={"layout": "top_screen_rear_duct"})
    who.finds(job, "working", "lint_duct_packed")
    added = str(uuid.uuid4())
    view = adds(who, job, operation("own_9", "Tape over the panel", screws=2), "pull_out", added).json()
    assert [row["operation"] for row in view["added"]] == ["own_9"]
    gone = who.put(f"/jobs/{job}/facts/{added}/withdrawn", {"withdrawn": True, "at": AT}).json()
    assert gone["added"] == []
    bare = who.marks(job, "open.cord_cover", "not_there").json()
    assert bare["absent"][0]["step"] == "open.cord_cover" and "cover plate" in bare["absent"][0]["does"]
    assert "open.cord_cover" not in {step["id"] for step in bare["open"]}
    history = [row["text"] for row in who.get(f"/jobs/{job}/history").json()]
    assert any(text.startswith("found that this machine has none of") for text in history)
    assert "took off what stands in no layout: Tape over the panel" in history


@pytest.mark.parametrize("document", [{"id": "x"}, operation("x", "y") | {"needs": [["z"]]}, {"x" * 9: "y"}])
def test_what_is_no_operation_is_refused_by_its_place(document):
    who = a_technician()
    answer = adds(who, who.opens(), document)
    assert answer.status_code == 422 and answer.json()["fields"][0]["path"].startswith("$.operation")


def test_a_job_by_hand_goes_out_and_comes_in():
    who = a_technician()
    job = who.opens(machine={"layout": ""})
    adds(who, job, operation("own_1", "Back panel off", screws=8))
    file = who.get(f"/jobs/{job}/file").json()
    assert file["added"][0]["operation"]["does"] == "Back panel off"
    assert who.brings(file).status_code == 200, "the same file is the same job"
    file["added"][0]["id"] = str(uuid.uuid4())
    file["x-job"] = {"machine": {"name": "x"}, "place": {"name": "y"}}
    brought = a_technician().brings(file)
    assert brought.status_code == 200, brought.content
    assert [row["does"] for row in brought.json()["added"]] == ["Back panel off"]
