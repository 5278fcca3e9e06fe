"""Work of the worker about records: printing them."""

from uuid import UUID

from reports.models import Record
from reports.paper import make_print
from shared.once import defer_once
from shared.queues import HEAVY, task

PRINT = "print_record"


@task(PRINT, HEAVY)
def print_record(record: str, language: str, size: str) -> None:
    """Print a record in a language on a size of paper, and keep it."""
    make_print(UUID(record), language, size)


def ask_for_print(record: Record, language: str, size: str) -> None:
    """Have the worker print a record; asked twice, it is printed once."""
    task = print_record.configure(queueing_lock=f"print {record.id} {language} {size}")
    defer_once(task, record=str(record.id), language=language, size=size)
