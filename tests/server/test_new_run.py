"""The plan of a new run through the API: kept or refused, its ways, in works and quote, in history and file."""

import pytest
from tests.server.factories import AT, a_technician
from tests.server.test_catalogue import brought

from demo.shop import SHEET
from jobs.models import Happening, Job

pytestmark = pytest.mark.django_db

PLAN = {
    "cells": [14, 10, 8], "cell": {"value": 1, "unit": "ft"}, "machine": [5, 6, 0], "outdoors": ["+y", "+x"],
    "things": [{"kind": "window", "corner": [4, 9], "opposite": [7, 9]}],
}  # fmt: skip
CHOSEN = {"outlet": "back", "face": "+x", "diameter": {"value": 4, "unit": "in"}, "material": "galvanised",
          "elbow": {"style": "smooth", "radius": {"value": 6, "unit": "in"}}}  # fmt: skip


def draws(technician, job, plan, **body):
    facts = {"plan": plan, "based_on": Job.objects.get(id=job).version, "at": AT}
    return technician.put(f"/jobs/{job}/plan", facts | body)


def ways(technician, job, **build):
    asked = "&".join(f"{key}={value}" for key, value in build.items())
    return technician.get(f"/jobs/{job}/ways-out?{asked}")


def test_a_plan_is_kept_and_its_ways_are_told():
    technician = a_technician()
    job = technician.opens()
    assert ways(technician, job).json() is None
    answer = draws(technician, job, PLAN)
    assert answer.status_code == 200, answer.content
    assert answer.json()["plan"] == PLAN
    found = ways(technician, job).json()
    assert {way["key"] for way in found["side"]} == {"back +x", "back +y"}
    assert [box["kind"] for box in found["boxes"]] == ["machine", "window"]
    assert found["never"] and found["today"] and found["check"]
    wide = ways(technician, job, diameter_in=5, bend="smooth", radius_in=10).json()
    assert wide["side"][0]["pressure_drop"]["value"] < found["side"][0]["pressure_drop"]["value"]
    assert ways(technician, job, diameter_in=40).status_code == 422


def test_chosen_it_is_in_the_works_the_quote_and_the_order():
    lead = a_technician("lead")
    brought(lead, SHEET)
    lead.put("/stock/figures", {"hour": "60", "based_on": 1})
    job = lead.opens()
    answer = draws(lead, job, PLAN | {"chosen": CHOSEN}).json()
    assert ("run", "fit") in {(line["part"], line["act"]) for line in answer["works"]["lines"]}
    way = next(way for way in ways(lead, job).json()["side"] if way["key"] == "back +x")
    assert way["cost"] and not way["unpriced"] and way["bars"]
    quote = lead.get(f"/jobs/{job}/quote").json()
    needed = {row["part"]: row["count"] for row in quote["needed"]}
    assert {row["part"]: row["count"] for row in way["parts"]}.items() <= needed.items()
    ordered = {part: row["count"] for row in quote["order"]["rows"] for part in row["covers"]}
    assert ordered["duct elbow, 90°"] == needed["duct_elbow"]


def test_what_is_drawn_meanwhile_is_a_conflict_and_all_of_it_is_in_the_history():
    technician = a_technician()
    job = technician.opens()
    draws(technician, job, PLAN)
    again = draws(technician, job, PLAN, based_on=1)
    assert again.status_code == 200
    other = draws(technician, job, PLAN | {"outdoors": []}, based_on=1)
    assert other.status_code == 409 and other.json()["recorded"] == PLAN
    draws(technician, job, PLAN | {"chosen": CHOSEN})
    draws(technician, job, None)
    assert Happening.objects.filter(what="plan_drawn").count() == 3
    told = [row["text"] for row in technician.get(f"/jobs/{job}/history").json()]
    assert any(text.endswith("things in the way: 1") for text in told)
    assert any("out of the back, through the wall on the right" in text for text in told)
    assert any(text.endswith("taken away") for text in told)


@pytest.mark.parametrize(
    ("plan", "path"),
    [
        (PLAN | {"machine": [14, 0, 0]}, "$.plan.machine"),
        (PLAN | {"cells": [1000, 1000, 8]}, "$.plan.cells"),
        (PLAN | {"things": PLAN["things"] * 201}, "$.plan.things"),
        (PLAN | {"things": [{"kind": "window", "corner": [4, 9]}]}, "$.plan.things[0].opposite"),
        (PLAN | {"chosen": {"outlet": "back"}}, "$.plan.chosen.face"),
    ],
)
def test_a_plan_that_is_none_is_refused_and_named(plan, path):
    technician = a_technician()
    job = technician.opens()
    answer = draws(technician, job, plan)
    assert answer.status_code == 422 and answer.json()["fields"][0]["path"] == path, answer.content
    assert Job.objects.get(id=job).carried.get("plan") is None


def test_it_comes_back_from_its_own_file():
    lead = a_technician("lead")
    job = lead.opens()
    draws(lead, job, PLAN | {"chosen": CHOSEN})
    file = lead.get(f"/jobs/{job}/file").json()
    assert file["plan"] == PLAN | {"chosen": CHOSEN}
    back = lead.brings({"format": "warm-draft/job", "version": 1, "plan": file["plan"]})
    assert back.status_code == 200, back.content
    assert back.json()["plan"] == PLAN | {"chosen": CHOSEN}


def test_the_room_and_a_riser_are_told_and_refused():
    technician = a_technician()
    job = technician.opens()
    room = technician.get(f"/jobs/{job}/clearance?joins=two_elbows&stands_out=100 mm")
    assert room.status_code == 200 and room.json()["text"]
    assert technician.get(f"/jobs/{job}/clearance?joins=tape").status_code == 422
    assert technician.get(f"/jobs/{job}/makeup?opening_free=40&others=50").json()["spills"] is True
    assert technician.get(f"/jobs/{job}/makeup?opening_free=0").status_code == 422
    riser = technician.get(f"/jobs/{job}/riser?machines=3").json()
    assert [len(row["flows"]) for row in riser["patterns"]] == [3] * 5
    refused = technician.get(f"/jobs/{job}/riser?machines=3&storey=far")
    assert refused.status_code == 422 and "storey" in refused.json()["message"]
