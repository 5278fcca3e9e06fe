"""Work of the worker about whole workshops."""

from shared.queues import tick
from whole.leaving import delete_due, let_go_of_records


@tick("delete_workshops", cron="41 * * * *")
def delete_workshops(timestamp: int) -> None:
    """Workshops whose waiting time is over, and records that need not be kept any longer."""
    delete_due()
    let_go_of_records()
