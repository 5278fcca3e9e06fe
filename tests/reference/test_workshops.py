"""What a workshop's first jobs teach, tried on those that come after. `./warm bench learn` draws more."""

import pytest

from workshops import learn

SEED = 20261127


@pytest.mark.slow  # two workshops, their first 300 jobs and 150 after
def test_a_workshop_of_other_truths_is_judged_better_for_what_it_taught():
    found = learn(0.8, shops=2, jobs=300, tried=150, seed=SEED)
    assert found.taught.first >= found.ours.first + 0.02
    assert found.taught.log_loss <= found.ours.log_loss - 0.05
    assert found.taught.off <= found.ours.off + 0.03  # of 300 jobs this moves by two hundredths


@pytest.mark.slow
def test_a_workshop_that_is_as_we_assume_is_judged_no_worse():
    found = learn(0.0, shops=2, jobs=300, tried=150, seed=SEED)
    assert found.taught.log_loss <= found.ours.log_loss + 0.01
