"""The queues that work waits in, so that a worker can be kept for each: a long one holds up no mail.

And how often it is tried: a database that went away under a task leaves nothing undone and nothing dead.
"""

import logging
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from functools import wraps
from inspect import iscoroutinefunction
from typing import Any

import psycopg
from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

log = logging.getLogger("warm.worker")
#: Mails; what takes a core for seconds (sounds, prints, plans); all else.
MAIL, HEAVY, WORK = "mail", "heavy", "work"
QUEUES = (MAIL, HEAVY, WORK)
#: Tries of a job and the seconds before the next one; then it is dead and /healthz says so.
TRIES = RetryStrategy(max_attempts=6, exponential_wait=4)
#: What is raised where the database is away, at its root.
AWAY = (psycopg.OperationalError, psycopg.InterfaceError)


def task(name: str, queue: str) -> Callable[[Callable[..., Any]], Any]:
    """A task that somebody's act asks for: tried again until it is done or past hope."""
    return app.task(name=name, queue=queue, retry=TRIES)


def tick(name: str, cron: str) -> Callable[[Callable[..., Any]], Any]:
    """Housekeeping that comes by itself at the times of `cron`, one at a time.

    Where the database goes away under one it says so in the log and is over, for the next does all it did not: trying
    it again could not be told from the next one, which has the same lock. Any other fault leaves it dead, for people.
    """

    @contextmanager
    def left_to_the_next() -> Iterator[None]:
        try:
            yield
        except Exception as error:
            root: BaseException = error
            while root.__cause__ is not None:
                root = root.__cause__
            if not isinstance(root, AWAY):
                raise
            log.warning("the database was away", extra={"kind": name, "error": type(root).__name__})

    def made(function: Callable[..., Any]) -> Any:
        @wraps(function)
        async def waited(timestamp: int) -> None:
            with left_to_the_next():
                await function(timestamp)

        @wraps(function)
        def called(timestamp: int) -> None:
            with left_to_the_next():
                function(timestamp)

        held = waited if iscoroutinefunction(function) else called
        return app.periodic(cron=cron)(app.task(name=name, queue=WORK, queueing_lock=name)(held))

    return made
