"""The bench over the API: the way in, counting, wires, the gate, what is learned, layouts of the workshop's own."""

import json
import uuid
from datetime import datetime, timedelta

import pytest
from tests.server.factories import AT, a_technician

from jobs.models import Job, Lesson
from machines.models import Machine, OwnLayout
from reports.models import Record
from warmdraft.teardown import layout, layout_document

pytestmark = pytest.mark.django_db
C = "lower_panel_keyholes"


def a_wheel_job(who, layout_name=C, **machine):
    job = who.opens(machine={"layout": layout_name} | machine)
    assert who.finds(job, "working", "blower_wheel_fouled").status_code == 200
    return job


def shown(who, job):
    return who.get(f"/jobs/{job}").json()


def counts(who, job, step, what, key, state, count=1, note=""):
    body = {"step": step, "what": what, "key": key, "state": state, "count": count, "note": note, "at": AT}
    return who.put(f"/jobs/{job}/counts/{uuid.uuid4()}", body)


def goes(who, job, stage, minutes=0.0):
    """Mark every step of a stage done, so many minutes apart."""
    view = shown(who, job)
    at = max([datetime.fromisoformat(mark["at"]) for mark in view["marks"]], default=datetime.fromisoformat(AT))
    marks = [
        {"step": step["id"], "state": "done", "at": (at + timedelta(minutes=minutes * (i + 1))).isoformat()}
        for i, step in enumerate(view[stage])
    ]
    who.sends([(f"/jobs/{job}/marks/{uuid.uuid4()}", mark) for mark in marks])


def settles(who, job):
    """Say all that the gate asks for."""
    for problem in shown(who, job)["bench"]["gate"]["discrepancies"]:
        at, subject = problem["step"], problem["subject"]
        match problem["code"]:
            case "still_loose":
                counts(who, job, at, "fastener", subject, "tight", problem["expected"])
            case "wire_off" | "ground_off":
                counts(who, job, at, "wire", subject, "on")
            case "used_up":
                counts(who, job, at, "part", subject, "renewed")
            case "carried_over":
                counts(who, job, at, "part", subject, "stays")
            case "tools":
                counts(who, job, "", "tool", subject, "counted", problem["expected"])
            case other:
                raise AssertionError(other)


def handed_over(who, job, **more):
    who.finds(job, "confirmed", "blower_wheel_fouled")
    who.proves(job)
    return who.put(f"/jobs/{job}/record/{uuid.uuid4()}", {"at": AT} | more)


def test_the_way_in_is_the_planners_and_ways_stand_side_by_side():
    who = a_technician()
    job = a_wheel_job(who)
    view = shown(who, job)
    assert [step["operation"] for step in view["open"]][-1] == "wheel_from_below"
    assert view["bench"]["optimal"] and view["bench"]["drawing"]["shapes"]["wheel"]
    ways = who.get(f"/jobs/{job}/ways").json()
    assert [way["chosen"] for way in ways["ways"]] == [True, False]
    whole = ways["ways"][1]
    assert "by the whole front" in whole["by"] and whole["longer"] > 20 and "drum felt" in whole["also_reaches"]
    assert {tool["text"] for tool in ways["tools"]} >= {"5/16 in hex driver"}
    body = {"avoid": whole["avoid"], "through": whole["through"], "at": AT}
    after = who.put(f"/jobs/{job}/ways/{uuid.uuid4()}", body).json()
    assert "drum" in [step["operation"] for step in after["open"]]
    assert [way["chosen"] for way in who.get(f"/jobs/{job}/ways").json()["ways"]] == [False, True]
    who.put(f"/jobs/{job}/ways/{uuid.uuid4()}", {"avoid": [], "at": AT})
    more = who.put(f"/jobs/{job}/ways/{uuid.uuid4()}", {"also": ["drum_seal"], "at": AT}).json()
    assert "drum" in [step["operation"] for step in more["open"]]


def test_a_stuck_step_is_planned_around():
    who = a_technician()
    job = a_wheel_job(who)
    who.marks(job, "open.lower_panel")
    who.marks(job, "open.wheel_from_below", "not_possible")
    steps = [step["operation"] for step in shown(who, job)["open"]]
    assert steps[0] == "lower_panel" and "wheel_from_below" not in steps and "drum" in steps
    who.marks(job, "open.lower_panel", "undone")
    who.marks(job, "open.lower_panel", "not_possible")
    assert "cannot be reached" in shown(who, job)["bench"]["no_way"]


def test_a_job_is_opened_closed_and_handed_over_only_with_its_gate_shut():
    who = a_technician()
    job = a_wheel_job(who, "door_screen_bulkhead")
    goes(who, job, "open")
    view = shown(who, job)
    came = sum(row["came"] for place in view["bench"]["compartments"] for row in place["fasteners"])
    assert came == sum(f.count for op in layout("door_screen_bulkhead").operations for f in op.fasteners
                       if op.id in {p["operation"] for p in view["bench"]["compartments"]})  # fmt: skip
    goes(who, job, "mend")
    goes(who, job, "close")
    gate = shown(who, job)["bench"]["gate"]
    assert gate["holds"] and {p["code"] for p in gate["discrepancies"]} == {"wire_off", "carried_over", "tools"}
    refused = handed_over(who, job)
    assert (refused.status_code, refused.json()["code"]) == (409, "not_closed")
    assert gate["discrepancies"][0]["text"] in refused.json()["message"]
    settles(who, job)
    view = shown(who, job)
    assert view["bench"]["gate"]["clear"] and view["next"]["code"] != "gate"
    record = handed_over(who, job).json()["snapshot"]
    assert record["left"] == {"came": came, "orders": [], "accepted": [], "problems": []}


def test_the_seventh_screw_stands_on_the_record_with_its_reason_and_as_an_order():
    who = a_technician()
    job = a_wheel_job(who)
    for stage in ("open", "mend", "close"):
        goes(who, job, stage)
    settles(who, job)
    key = "hex_head 18 mm"
    counts(who, job, "open.blower_cover", "fastener", key, "back", 4)
    gate = shown(who, job)["bench"]["gate"]
    assert [p["code"] for p in gate["discrepancies"]] == ["left_over"] and "1 hex head screw, 18 mm" in gate[
        "discrepancies"
    ][0]["text"]
    counts(who, job, "open.blower_cover", "fastener", key, "missing", 1, "fell behind the wall")
    gate = shown(who, job)["bench"]["gate"]
    assert gate["clear"] and gate["orders"][0].startswith("1 hex head screw, 18 mm")
    record = handed_over(who, job).json()["snapshot"]["left"]
    assert "fell behind the wall" in record["accepted"][0] and record["orders"]


def test_a_lead_goes_past_the_gate_with_a_reason():
    who = a_technician("lead")
    job = a_wheel_job(who)
    goes(who, job, "open")
    assert handed_over(who, job).status_code == 409
    record = handed_over(who, job, override="parts come on Monday").json()["snapshot"]
    assert record["override"] == "parts come on Monday" and record["left"]["problems"]


def test_two_notes_that_contradict_are_shown_until_somebody_says_which():
    who = a_technician()
    colleague = a_technician(workshop=who.workshop)
    job = a_wheel_job(who, "rear_shaft_clamp")
    key = "motor · plug"
    counts(who, job, "open.motor_out", "wire", key, "noted", note="white")
    counts(colleague, job, "open.motor_out", "wire", key, "noted", note="grey")

    def tag():
        places = shown(who, job)["bench"]["compartments"]
        place = next(row for row in places if row["operation"] == "motor_out")
        return next(row for row in place["wires"] if row["key"] == key)

    assert tag()["contradicts"] and [note["colour"] for note in tag()["notes"]] == ["white", "grey"]
    counts(who, job, "open.motor_out", "wire", key, "noted", 0, "grey")
    assert not tag()["contradicts"]


def test_the_workshop_learns_its_minutes_and_this_machine_its_screws():
    who = a_technician()
    facts = {"id": str(uuid.uuid4()), "layout": C}
    place = {"id": str(uuid.uuid4())}

    def again():
        job = who.opens(machine=facts, place=place)
        who.finds(job, "working", "blower_wheel_fouled")
        return job

    first = again()
    before = {step["operation"]: step["minutes"] for step in shown(who, first)["open"]}
    for _ in range(3):
        job = again()
        for stage in ("open", "mend", "close"):
            goes(who, job, stage, minutes=8)
        counts(who, job, "open.blower_cover", "fastener", "hex_head 18 mm", "out", 6)
        settles(who, job)
        assert handed_over(who, job).status_code == 200, shown(who, job)["bench"]["gate"]
    assert Lesson.objects.filter(workshop=who.workshop, layout=C).count() == 3
    view = shown(who, first)
    after = {step["operation"]: step["minutes"] for step in view["open"]}
    assert before["blower_cover"] < after["blower_cover"] < 8
    assert after["blower_cover"] > before["blower_cover"] + 1
    cover = next(row for row in view["bench"]["compartments"] if row["operation"] == "blower_cover")
    assert cover["fasteners"][0]["expected"] == 6
    elsewhere = shown(who, a_wheel_job(who))
    cover = next(row for row in elsewhere["bench"]["compartments"] if row["operation"] == "blower_cover")
    assert cover["fasteners"][0]["expected"] == 5  # one machine's surprise is no rule for its kind


def test_what_one_workshop_learns_stays_with_it():
    who, stranger = a_technician(), a_technician()
    job = a_wheel_job(who)
    for stage in ("open", "mend", "close"):
        goes(who, job, stage, minutes=9)
    settles(who, job)
    assert handed_over(who, job).status_code == 200
    minutes = {s["operation"]: s["minutes"] for s in shown(stranger, a_wheel_job(stranger))["open"]}
    assert minutes["blower_cover"] == layout(C).operation("blower_cover").open_minutes


def test_a_layout_of_ones_own_is_kept_used_and_refused_when_it_does_not_hold():
    who, stranger = a_technician(), a_technician()
    mine, own = layout_document(C) | {"title": "The laundry's old one"}, str(uuid.uuid4())
    assert who.put(f"/layouts/{own}", {"document": mine}).status_code == 200
    assert stranger.put(f"/layouts/{own}", {"document": mine}).status_code == 404
    assert stranger.get(f"/layouts/{own}/file").status_code == 404
    assert who.get(f"/layouts/{own}/file").json()["title"] == "The laundry's old one"
    job = a_wheel_job(who, own)
    assert shown(who, job)["bench"]["layout_title"] == "The laundry's old one"
    changed = json.loads(json.dumps(mine))
    changed["operations"][2]["does"] = "The low panel, our way"
    assert who.put(f"/layouts/{own}", {"document": changed}).status_code == 200
    assert OwnLayout.objects.get(id=own).version == 2
    assert "The low panel, our way" in [step["does"] for step in shown(who, job)["open"]]
    changed["operations"][2]["needs"] = [["wheel"]]
    answer = who.put(f"/layouts/{own}", {"document": changed})
    assert answer.status_code == 422 and "circle" in answer.json()["message"]
    assert answer.json()["fields"][0]["path"].startswith("$.document.operations[")
    with pytest.raises(AssertionError, match="is not a layout"):
        stranger.opens(machine={"layout": own})


def test_a_machines_variant_chooses_its_operations():
    who = a_technician()
    job = a_wheel_job(who, variant={"panel_screws": "four"})
    panel = next(p for p in shown(who, job)["bench"]["compartments"] if p["operation"] == "lower_panel")
    assert panel["fasteners"][0]["expected"] == 4
    body = {"machine": {"layout": C, "variant": {"moon": "full"}}}
    with pytest.raises(AssertionError, match=r"variant\.moon"):
        who.opens(**body)
    # a client that knows nothing of variants leaves what was said
    machine = Machine.objects.get(jobs=job)
    assert machine.variant == {"panel_screws": "four"}


def test_looking_finds_the_layout():
    who = a_technician()
    assert who.get("/recognise").json()["next"]["answers"]
    told = who.get("/recognise?motors=two&screen=door").json()
    assert {row["name"]: row["variant"] for row in who.get("/recognise?front_panels=two").json()["layouts"]}[
        "top_screen_rear_duct"
    ] == {"front": "two"}
    assert told["layouts"][0]["name"] == "two_motors"
    assert who.get("/recognise?motors=nine").status_code == 422
    assert who.get("/layouts/top_screen_rear_duct/file?energy=gas&front=two").json()["operations"]
    assert who.get("/layouts/top_screen_rear_duct/file?moon=full").status_code == 422
    assert who.get("/layouts/moon/file").status_code == 404


def test_the_bench_goes_out_with_the_file_and_comes_back():
    who = a_technician("lead")
    job = a_wheel_job(who, variant={"panel_screws": "four"})
    who.marks(job, "open.lower_panel")
    counts(who, job, "open.lower_panel", "fastener", "hex_head 13 mm", "out", 3)
    who.put(f"/jobs/{job}/ways/{uuid.uuid4()}", {"also": ["belt"], "at": AT})
    document, before = who.get(f"/jobs/{job}/file").json(), shown(who, job)["bench"]
    Job.objects.filter(id=job).delete()
    Machine.objects.all().delete()
    assert who.brings(document).status_code == 200
    assert shown(who, job)["bench"] == before
    elsewhere = {"x-job": document["x-job"] | {"id": str(uuid.uuid4())}}
    broken = who.brings(document | elsewhere | {"counts": [{"what": "moon"}], "marks": [], "causes": [], "ways": []})
    assert broken.status_code == 422 and broken.json()["fields"][0]["path"] == "$.counts[0].what"
    assert who.brings(document | elsewhere).status_code == 404  # its marks are another job's


@pytest.mark.parametrize(
    ("change", "path"),
    [
        ({"what": "moon"}, "$.what"),
        ({"state": "moon"}, "$.state"),
        ({"count": -1}, "$.count"),
        ({"count": 501}, "$.count"),
        ({"key": ""}, "$.key"),
    ],
)
def test_a_count_that_cannot_be_is_refused_by_its_field(change, path):
    who = a_technician()
    job = a_wheel_job(who)
    body = {"step": "open.x", "what": "fastener", "key": "nut", "state": "out", "count": 1, "at": AT}
    answer = who.put(f"/jobs/{job}/counts/{uuid.uuid4()}", body | change)
    assert answer.status_code == 422 and answer.json()["fields"][0]["path"] == path


def test_a_record_of_an_earlier_release_is_still_shown():
    who = a_technician()
    job = a_wheel_job(who, "")
    assert handed_over(who, job).status_code == 200
    record = Record.objects.get(job=job)
    for stage in ("safety", "open", "mend", "close"):
        for step in record.snapshot[stage]:
            for name in ("driver_also", "same_driver", "operation", "check", "latch", "gear", "people"):
                del step[name]
    del record.snapshot["left"], record.snapshot["machine"]["variant"]
    record.save()
    told = who.get(f"/jobs/{job}/record").json()["snapshot"]
    assert told["left"] is None and told["mend"][0]["gear"] == []


def test_a_surprise_is_kept_in_the_tray_and_held_at_the_gate():
    who = a_technician()
    job = a_wheel_job(who)
    for stage in ("open", "mend", "close"):
        goes(who, job, stage)
    settles(who, job)
    at = "open.surprise: plate behind the drum"
    counts(who, job, at, "fastener", "screw", "out", 2)
    gate = shown(who, job)["bench"]["gate"]
    assert [p["text"] for p in gate["discrepancies"]] == [
        "2 screws left over: they belong back at: plate behind the drum."
    ]
    counts(who, job, at, "fastener", "screw", "back", 2)
    assert shown(who, job)["bench"]["gate"]["clear"]


def test_alone_and_without_a_tool_the_way_goes_round():
    who = a_technician()
    job = a_wheel_job(who)
    ways = who.get(f"/jobs/{job}/ways").json()
    extension = next(tool for tool in ways["tools"] if "extension" in tool["text"])
    assert extension["operations"] == ["wheel_from_below", "wheel"]
    answer = who.put(f"/jobs/{job}/ways/{uuid.uuid4()}", {"avoid": extension["operations"], "at": AT}).json()
    assert "cannot be reached" in answer["bench"]["no_way"]
    assert who.get(f"/jobs/{job}/ways").json()["avoided"] == ["wheel", "wheel_from_below"]
    lifted = a_wheel_job(who, "lift_out_chassis")
    assert who.get(f"/jobs/{lifted}/ways").json()["for_two"] == ["chassis"]
