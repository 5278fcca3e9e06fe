"""The shape of a log over a run."""

import re

import numpy as np
import pytest
from pytest import approx

from warmdraft.errors import DocumentError
from warmdraft.heat import DryingCase, dry
from warmdraft.machine import profile
from warmdraft.trend import Series, read_csv, trend_of

T = np.arange(0, 75, 0.5)


def series(values, noise=0.02, seed=1, kind="outlet_flow"):
    rng = np.random.default_rng(seed)
    return Series(kind, tuple(T), tuple(values * (1 + noise * rng.standard_normal(len(T)))))


def motor(loss, start, over=12.0):
    return 0.07 * (1 - loss * np.clip((T - start) / over, 0, 1))


@pytest.mark.parametrize("seed", range(4))
@pytest.mark.parametrize("noise", [0.005, 0.03])
@pytest.mark.parametrize(
    ("values", "shape"),
    [
        (np.full_like(T, 0.07), "steady"),
        (motor(0.25, 40), "fade"),
        (motor(0.4, 25, over=4), "fade"),
        (0.07 * (1 - 0.3 * T / T[-1]), "slow_decline"),
        (np.where((T % 8) < 4, 22.0, 0.2), "cycling"),
    ],
)
def test_the_shape_of_a_run(values, shape, noise, seed):
    assert trend_of(series(values, noise, seed)).shape == shape


def test_when_and_how_much_it_fades():
    found = trend_of(series(motor(0.3, 40)))
    assert found.start_minute == approx(40, abs=4) and found.drop == approx(0.3, abs=0.05)
    assert found.probability["fade"] > 0.95 and sum(found.probability.values()) == approx(1)


def test_a_cycling_limit_is_found_in_the_heat_of_a_run():
    limits = profile("full-size-electric").heat.limits
    run = dry(DryingCase(0.036, 0.004, 5400, 5400, limits), step_s=10)
    log = Series("heater_box_temperature", tuple(m.minute for m in run.trace), tuple(m.box_c for m in run.trace))
    trips = [trip.minute for trip in run.trips]
    found = trend_of(log)
    assert found.shape == "cycling"
    assert found.period_minutes == approx(np.diff(trips).mean(), rel=0.15)


def test_a_log_comes_from_csv_in_any_unit_and_any_order_of_its_rows():
    rows = [f"{m},outlet_flow,{100 + m},cfm" for m in range(10)][::-1]
    (found,) = read_csv("time,kind,value,unit\n" + "\n".join(rows))
    assert found.minutes == tuple(range(10)) and found.values[0] == approx(100 * 0.000471947, rel=1e-5)
    (clock,) = read_csv("Time,Kind,Value,Unit\n" + "\n".join(f"0:{m:02}:30,blower_speed,1700,rpm" for m in range(8)))
    assert clock.minutes[1] == approx(1.5)


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "line 1.*columns are missing"),
        ("a,b\n1,2", "line 1.*give time, kind, value, unit"),
        ("time,kind,value,unit\n1,outlet_flow,80", "line 2.*3 columns"),
        ("time,kind,value,unit\n1,noise,80,dB", "line 2.*'noise' is no kind"),
        ("time,kind,value,unit\n1,outlet_flow,lots,cfm", "line 2.*'lots' is not a number"),
        ("time,kind,value,unit\n1,outlet_flow,80,furlong", "line 2.*furlong"),
        ("time,kind,value,unit\nsoon,outlet_flow,80,cfm", "line 2.*'soon' is not a time"),
        ("time,kind,value,unit\nnan,outlet_flow,80,cfm", "line 2.*lies outside 0 to 100000 minutes"),
        ("time,kind,value,unit\n1e300,outlet_flow,80,cfm", "line 2.*lies outside 0 to 100000 minutes"),
        ("time,kind,value,unit\n" + ":".join("9" * 400) + ",outlet_flow,80,cfm", "line 2.*is not a time"),
        ('time,kind,value,unit\n1,outlet_flow,80,"' + "x" * 140_000 + '"', "line 2.*no row of a CSV"),
        ("time,kind,value,unit\n1,outlet_flow,80,cfm", "1 points of outlet_flow"),
        ("time,kind,value,unit\n" + "1,outlet_flow,80,cfm\n" * 8, "of one moment"),
        ("time,kind,value,unit\n\n", "holds no points"),
    ],
)
def test_a_damaged_log_is_refused_with_its_line(text, said):
    with pytest.raises(DocumentError) as error:
        read_csv(text)
    assert re.search(said, str(error.value))


@pytest.mark.parametrize("ends", ["\n", "\r\n", "\r"])
@pytest.mark.parametrize("divided_by", [",", ";"])
def test_a_log_is_read_however_its_lines_end_and_its_columns_are_divided(ends, divided_by):
    rows = [["time", "kind", "value", "unit"], *([str(i), "outlet_flow", "80", "cfm"] for i in range(7))]
    (series,) = read_csv(ends.join(divided_by.join(row) for row in rows))
    assert series.minutes == tuple(map(float, range(7)))
