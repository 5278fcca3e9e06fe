"""What a workshop's own jobs teach: what checks gave and what it was in the end, as counts; what they make of tables.

May import diagnosis, checks, faults, machine, air. Imports numpy and the standard library.
"""

from warmdraft.learning.counts import Counts, LookKey, counted, together
from warmdraft.learning.moves import ODD_JOBS, WORTH_JOBS, Lessons, LookMove, lessons_of, times_of
from warmdraft.learning.right import Rightness, Stretch, rightness, wilson

__all__ = [
    "ODD_JOBS", "WORTH_JOBS", "Counts", "Lessons", "LookKey", "LookMove", "Rightness", "Stretch",
    "counted", "lessons_of", "rightness", "times_of", "together", "wilson",
]  # fmt: skip
