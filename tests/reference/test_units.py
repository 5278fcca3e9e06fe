"""Every unit that a file may use, against a general-purpose units library."""

import pint
import pytest

from warmdraft.units import UNITS, from_si, to_si

#: What the library calls our names, where it calls them otherwise.
CALLED = {
    "m3/s": "m**3/s", "L/s": "liter/s", "m3/h": "m**3/hour", "cfm": "foot**3/minute", "in": "inch", "ft": "foot",
    "Btu/h": "Btu/hour", "kohm": "kiloohm", "rpm": "1/minute", "Hz": "1/s", "lb": "pound", "oz": "ounce",
    "min": "minute", "h": "hour", "ft/min": "foot/minute",
}  # fmt: skip
EVERY = [(unit, dimension) for dimension, choice in UNITS.items() for unit in choice.names]


@pytest.fixture(scope="module")
def registry():
    return pint.UnitRegistry()


@pytest.mark.parametrize(("unit", "dimension"), EVERY)
@pytest.mark.parametrize("value", [-40.0, 0.0, 1.0, 212.0, 1e6])
def test_a_number_is_what_the_library_makes_of_it(registry, unit, dimension, value):
    wanted = CALLED.get(UNITS[dimension].canonical, UNITS[dimension].canonical)
    theirs = registry.Quantity(value, CALLED.get(unit, unit)).to(wanted).magnitude
    ours = to_si(value, unit, dimension)
    assert ours == pytest.approx(theirs, rel=1e-12, abs=1e-9)
    assert from_si(ours, unit, dimension) == pytest.approx(value, rel=1e-12, abs=1e-9)


def test_every_unit_is_held():
    assert len(EVERY) == sum(len(choice.names) for choice in UNITS.values()) >= 30
