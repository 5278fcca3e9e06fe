"""Work of the worker about days."""

from procrastinate.contrib.django import app

from day.planning import PLAN_A_DAY, make


@app.task(name=PLAN_A_DAY, queue="work")
def plan_a_day(plan: int) -> None:
    """Plan a day that somebody asked for."""
    make(plan)
