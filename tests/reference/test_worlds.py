"""Sure only when right, in worlds that the model does not hold. The bench draws more of each (./warm bench worlds)."""

import pytest

from generator import SETS
from worlds import WORLDS, tally

DRAWS = 60


@pytest.mark.parametrize("level", SETS)
@pytest.mark.parametrize("world", WORLDS, ids=lambda world: world.name)
def test_nobody_is_sure_of_a_place_that_is_not_at_fault_without_a_warning(world, level):
    found = tally(world, SETS[level], DRAWS, seed=11)
    assert found.wrong <= 1 / DRAWS
    if world.healthy:
        assert found.vent <= 0.05  # a lawful vent that nobody drew is not blamed
    if world.name == "compact, told full size":
        assert found.warned >= 0.8  # and what is otherwise is said
