"""Work that keeps a core busy: so much at once, no database connection held meanwhile, and nobody waits for ever."""

import os
import threading
from types import TracebackType

from django.db import connection

from shared.problems import ApiError

CORES = os.cpu_count() or 2


def give_connection_back() -> None:
    """Give this request's database connection to others, unless it is in the middle of a transaction."""
    if not connection.in_atomic_block:
        connection.close()


class Slots:
    """So many places for one kind of work; to be held by `with`. Who finds none in time is told to come again."""

    def __init__(self, places: int, patience_s: float, busy: str) -> None:
        self.free = threading.BoundedSemaphore(places)
        self.patience_s, self.busy = patience_s, busy

    def __enter__(self) -> None:
        give_connection_back()
        if not self.free.acquire(timeout=self.patience_s):
            raise ApiError(503, "busy", self.busy)

    def __exit__(self, kind: type[BaseException] | None, error: BaseException | None, at: TracebackType | None) -> None:
        self.free.release()


#: Verdicts, ways, plans of layouts, files that are read.
working = Slots(max(2, CORES), 20.0, "The server has its hands full at this moment; try again in a little while.")
