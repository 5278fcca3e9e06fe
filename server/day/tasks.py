"""Work of the worker about days."""

from day.planning import PLAN_A_DAY, make
from shared.queues import HEAVY, task


@task(PLAN_A_DAY, HEAVY)
def plan_a_day(plan: int) -> None:
    """Plan a day that somebody asked for."""
    make(plan)
