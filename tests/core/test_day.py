"""The day: what an order costs, how likely it is late, and an order that is as good as any."""

import json
from contextlib import suppress
from itertools import permutations, product

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pytest import approx

from warmdraft.__main__ import main
from warmdraft.day import Day, Stop, Van, Window, kilometres, plan_day, run_day, travel_minutes
from warmdraft.errors import DayError
from warmdraft.jobfile import read_job
from warmdraft.work import ahead_of, state_of

MORNING, AFTERNOON, ANY = Window(480, 720), Window(780, 1020), Window(480, 1020)
#: Minutes between the shop (0) and three places in a row.
ROW = np.array([[0, 10, 20, 30], [10, 0, 10, 20], [20, 10, 0, 10], [30, 20, 10, 0]], dtype=float)


def stop(name, place, minutes=30.0, sd=0.0, windows=(ANY,), **more):
    return Stop(name, place, minutes, sd, windows, **more)


def van(name="v", hours=ANY, **more):
    return Van(name, 0, 0, hours, **more)


def drawn(rng, stops, vans):
    """A day somewhere about a shop."""
    at = np.array([54.4, -3.0]) + rng.uniform(-0.1, 0.1, (stops + 1, 2))
    made = []
    for number in range(stops):
        windows = [(ANY,), (MORNING,), (AFTERNOON,), (MORNING, AFTERNOON)][rng.integers(4)]
        needs = frozenset(["gas"] if rng.random() < 0.25 else [])
        made.append(stop(f"s{number}", number + 1, float(rng.uniform(20, 90)), 5.0, windows, needs=needs))
    crews = [van(f"v{number}", skills=frozenset(["gas"] if number == 0 else [])) for number in range(vans)]
    return Day(travel_minutes(*at.T), tuple(made), tuple(crews))


def test_a_tour_is_driving_work_and_waiting():
    day = Day(ROW, (stop("a", 1), stop("b", 2, windows=(AFTERNOON,)), stop("c", 3)), (van(),))
    run = run_day(day, {"v": ["a", "b", "c"]})
    a, b, c = run.tours[0].calls
    assert (a.arrive, a.begin, a.leave) == (490, 490, 520)
    assert (b.arrive, b.begin, b.leave) == (530, 780, 810)  # waits until one may
    assert (c.begin, run.tours[0].end, run.tours[0].travel) == (820, 880, 60)
    assert run.cost == 60 and not run.missed


@pytest.mark.parametrize(
    ("more", "cost"),
    [
        ({}, 20.0),
        ({"windows": (Window(480, 485),)}, 20 + 2.0 * 5),  # five minutes late
        ({"parts": {"B-1": 1}}, 20 + 45.0),  # another way for the part
        ({"minutes": 540.0}, 20 + 2.0 * 20),  # twenty minutes of overtime
    ],
)
def test_what_an_order_costs(more, cost):
    day = Day(ROW, (stop("a", 1, **more),), (van(),))
    assert run_day(day, {"v": ["a"]}).cost == approx(cost)


def test_what_is_left_out_costs_more_than_any_way_there_and_says_why():
    day = Day(ROW, (stop("a", 1), stop("b", 2, needs=frozenset({"gas"}))), (van(),))
    run = run_day(day, {})
    assert [(row.stop, row.why) for row in run.missed] == [("a", "no_time"), ("b", "nobody_qualified")]
    assert run.cost == 480.0


@given(st.floats(1, 40), st.floats(0, 60))
def test_the_chance_of_being_late_grows_with_the_spread_and_the_hurry(sd, slack):
    def late(sd, slack):
        first = stop("a", 1, 60.0, sd)
        second = stop("b", 2, windows=(Window(480, 480 + 10 + 60 + 10 + slack),))
        return run_day(Day(ROW, (first, second), (van(),)), {"v": ["a", "b"]}).tours[0].calls[1].late_chance

    assert 0 <= late(sd, slack) <= late(sd, 0) <= 1
    assert late(0.0, slack) == 0.0


def test_the_chance_of_being_late_is_that_of_the_first_job_taking_too_long():
    """P(gamma > x): shape 4, scale 15, beyond 85 minutes; Abramowitz and Stegun 26.4 (chi-square, 8 degrees)."""
    first, second = stop("a", 1, 60.0, 30.0), stop("b", 2, windows=(Window(480, 565 - 10 + 10),))
    call = run_day(Day(ROW, (first, second), (van(),)), {"v": ["a", "b"]}).tours[0].calls[1]
    x = (second.windows[0].late - 480 - 20 + 10) / 15
    beyond = np.exp(-x) * sum(x**k / np.prod(range(1, k + 1)) for k in range(4))
    assert call.late_chance == approx(beyond, abs=3 * np.sqrt(beyond * (1 - beyond) / 400))


@pytest.mark.parametrize("seed", range(6))
def test_no_order_is_better_than_the_one_that_is_found(seed):
    rng = np.random.default_rng(seed)
    day = drawn(rng, 5, 2)
    found = plan_day(day, times=0.05)
    best = np.inf
    for assigned in product(range(3), repeat=5):  # to either van, or left out
        groups = [[day.stops[i].id for i in range(5) if assigned[i] == k] for k in range(2)]
        for one, other in product(permutations(groups[0]), permutations(groups[1])):
            with suppress(DayError):
                run = run_day(day, {"v0": one, "v1": other})
                if not any(call.late for tour in run.tours for call in tour.calls):
                    best = min(best, run.cost)
    assert found.cost <= best + 0.1  # it counts whole seconds


@settings(max_examples=15)
@given(st.integers(0, 10_000))
def test_an_order_keeps_to_skills_and_to_the_van_that_was_chosen(seed):
    day = drawn(np.random.default_rng(seed), 7, 2)
    chosen = tuple(Stop(**{**_fields(s), "van": "v1"}) if not s.needs else s for s in day.stops[:3]) + day.stops[3:]
    day = Day(day.travel, chosen, day.vans)
    run = plan_day(day, times=0.01)  # run_day refuses what may not be
    assert sorted([*(name for order in run.orders.values() for name in order), *(row.stop for row in run.missed)]) == [
        s.id for s in day.stops
    ]
    assert all(call.late == 0 for tour in run.tours for call in tour.calls)


def _fields(row):
    return {name: getattr(row, name) for name in Stop.__dataclass_fields__}


def test_the_same_day_has_the_same_order():
    day = drawn(np.random.default_rng(3), 12, 3)
    assert plan_day(day, times=0.02).orders == plan_day(day, times=0.02).orders
    assert plan_day(day, times=0.001, first=plan_day(day, times=0.05)).cost <= plan_day(day, times=0.05).cost


def test_a_day_without_stops_or_vans_is_a_day():
    assert plan_day(Day(ROW, (), (van(),))).cost == 0
    assert [row.why for row in plan_day(Day(ROW, (stop("a", 1),), ())).missed] == ["nobody_qualified"]


@pytest.mark.parametrize(
    ("make", "says"),
    [
        (lambda: Window(600, 500), "holds no moment"),
        (lambda: Day(ROW[:2], (), ()), "one of each for each place"),
        (lambda: Day(ROW, (stop("a", 9),), (van(),)), "none of the 4"),
        (lambda: Day(ROW, (stop("a", 1), stop("a", 2)), (van(),)), "stands twice"),
        (lambda: Day(ROW, (stop("a", 1, van="x"),), (van(),)), "does not drive"),
        (lambda: run_day(Day(ROW, (stop("a", 1),), (van(),)), {"v": ["b"]}), "no stop 'b'"),
        (lambda: run_day(Day(ROW, (stop("a", 1),), (van(),)), {"v": ["a", "a"]}), "twice"),
        (lambda: run_day(Day(ROW, (stop("a", 1, needs=frozenset({"gas"})),), (van(),)), {"v": ["a"]}), "needs gas"),
    ],
)
def test_what_no_day_can_be_is_said(make, says):
    with pytest.raises(DayError, match=says):
        make()


def test_distances_are_those_of_the_globe():
    """A degree of latitude is 111.2 km, one of longitude at 60° half of that: geometry of the sphere."""
    found = kilometres(np.array([60.0, 61.0, 60.0]), np.array([0.0, 0.0, 1.0]))
    assert found[0, 1] == approx(111.19, rel=1e-3) and found[0, 2] == approx(55.6, rel=2e-3)
    minutes = travel_minutes(
        np.array([60.0, np.nan]), np.array([0.0, 0.0]), np.array([[np.nan, 12.0], [np.nan, np.nan]])
    )
    assert minutes[0, 1] == 12.0 and np.isnan(minutes[1, 0]) and minutes[0, 0] == 0


PLACES = [{"id": "shop", "latitude": 54.4, "longitude": -3.0}, {"id": "kennels", "latitude": 54.45, "longitude": -3.05},
          {"id": "hostel"}]  # fmt: skip
DOCUMENT = {
    "format": "warm-draft/day", "version": 1, "places": PLACES,
    "travel": [{"start": "shop", "end": "hostel", "minutes": 25}, {"start": "kennels", "end": "hostel", "minutes": 30}],
    "stops": [
        {"id": "a", "place": "kennels", "minutes": 60, "windows": [{"early": "08:00", "late": "09:00"}]},
        {"id": "b", "place": "hostel", "minutes": 45, "needs": ["gas"]},
    ],
    "vans": [{"id": "Tobin", "start": "shop", "hours": {"early": "08:00", "late": "16:00"}, "skills": ["gas"]}],
}  # fmt: skip


def test_the_command_plans_a_day_and_says_what_an_order_of_ones_own_costs(tmp_path, capsys):
    file = tmp_path / "day.json"
    file.write_text(json.dumps(DOCUMENT))
    assert main(["day", str(file)]) == 0
    best = json.loads(capsys.readouterr().out)
    calls = best["tours"][0]["calls"]
    assert [call["stop"] for call in calls] == ["a", "b"] and calls[1]["travel_minutes"] == 30
    assert best["missed"] == [] and best["best_minutes"] is None
    file.write_text(json.dumps(DOCUMENT | {"orders": {"Tobin": ["b", "a"]}}))
    assert main(["day", str(file)]) == 0
    own = json.loads(capsys.readouterr().out)
    assert own["best_minutes"] == approx(best["cost_minutes"]) and own["cost_minutes"] > own["best_minutes"]
    assert own["tours"][0]["calls"][1]["late_minutes"] == approx(40)  # 25 there, 45 of work, 30 on, for 09:00


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"stops": [{"id": "a", "place": "moon", "minutes": 1}]}, "$.stops[0].place: 'moon' is no place of this day"),
        ({"travel": []}, "$.places[2]: nobody says how far it is"),
        ({"vans": [{"id": "T", "start": "shop", "hours": {"early": "25:00", "late": "16:00"}}]}, "is no time of day"),
        ({"vans": [{"id": "T", "start": "shop", "hours": {"early": "17:00", "late": "16:00"}}]}, "holds no moment"),
        ({"orders": {"Ines": ["a"]}}, "$.orders: there is no van 'Ines'"),
        ({"stops": [{"id": "a", "place": "shop", "minutes": -4}]}, "$.stops[0].minutes"),
        ({"stops": [{"id": "a", "place": "shop", "minutes": 4, "needs": ["magic"]}]}, "$.stops[0].needs[0]"),
    ],
)
def test_a_day_that_nobody_can_mean_is_said_so(change, says, tmp_path, capsys):
    file = tmp_path / "day.json"
    file.write_text(json.dumps(DOCUMENT | change))
    assert main(["day", str(file)]) == 2
    told = capsys.readouterr()
    assert not told.out and says in told.err


READ = [
    {"kind": "outlet_flow", "value": 82, "unit": "cfm"},
    {"kind": "outlet_static_pressure", "value": 1.4, "unit": "inH2O"},
]


def ahead(**more):
    facts = read_job({"format": "warm-draft/job", "version": 1, "complaints": ["long_drying"], "readings": READ} | more)
    return ahead_of(state_of(facts.facts))


def test_a_job_takes_what_its_plan_and_its_verdict_say():
    bare, chosen = ahead(), ahead(causes=[{"kind": "working", "fault": "transition_crushed"}])
    wheel = ahead(
        causes=[{"kind": "working", "fault": "blower_wheel_fouled"}], machine={"layout": "top_screen_rear_duct"}
    )
    assert (bare.by, chosen.by) == ("verdict", "plan")
    assert wheel.minutes > chosen.minutes > 15 and min(bare.sd_minutes, chosen.sd_minutes) > 5
    confirmed = ahead(causes=[{"kind": kind, "fault": "transition_crushed"} for kind in ("working", "confirmed")])
    assert confirmed.minutes < chosen.minutes and confirmed.sd_minutes < chosen.sd_minutes
    assert ahead(handed_over=True).minutes == 0
