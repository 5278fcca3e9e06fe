"""Work that keeps a core busy: so much at once, no database connection held meanwhile, and nobody waits for ever."""

import os
import threading
from collections.abc import Iterator
from contextlib import contextmanager

from django.db import connection

from config.problems import Problem

_slots = threading.BoundedSemaphore(max(2, os.cpu_count() or 2))
#: Who finds no slot within this time is told to come again, s.
PATIENCE = 20.0


def give_connection_back() -> None:
    """Give this request's database connection to others, unless it is in the middle of a transaction."""
    if not connection.in_atomic_block:
        connection.close()


@contextmanager
def working() -> Iterator[None]:
    """Hold one of the slots. Raises the problem of a server that is busy."""
    give_connection_back()
    if not _slots.acquire(timeout=PATIENCE):
        raise Problem(503, "busy", "The server has its hands full at this moment; try again in a little while.")
    try:
        yield
    finally:
        _slots.release()
