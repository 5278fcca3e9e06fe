"""Work of the worker about whole workshops."""

from procrastinate.contrib.django import app

from shared.queues import WORK
from whole.leaving import delete_due, let_go_of_records


@app.periodic(cron="41 * * * *")
@app.task(name="delete_workshops", queue=WORK, queueing_lock="delete_workshops")
def delete_workshops(timestamp: int) -> None:
    """Workshops whose waiting time is over, and records that need not be kept any longer."""
    delete_due()
    let_go_of_records()
