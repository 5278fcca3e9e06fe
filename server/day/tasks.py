"""Work of the worker about days."""

from procrastinate.contrib.django import app

from day.planning import PLAN_A_DAY, make
from shared.queues import HEAVY


@app.task(name=PLAN_A_DAY, queue=HEAVY)
def plan_a_day(plan: int) -> None:
    """Plan a day that somebody asked for."""
    make(plan)
