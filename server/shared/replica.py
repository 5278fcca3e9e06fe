"""A copy of the database that follows it, for what reads much and may be a moment behind: the desk, reports.

Where none is named (WARM_REPLICA_URL), all is read where it is written.
"""

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from typing import Any

from django.db import connections, transaction
from django.db.utils import OperationalError

REPLICA = "replica"
_reading: ContextVar[bool] = ContextVar("reading from the replica", default=False)


@contextmanager
def from_the_replica() -> Iterator[None]:
    """Read from the copy, where there is one that answers; not within a transaction, which sees what it wrote."""
    there = REPLICA in connections.databases and not transaction.get_connection().in_atomic_block and _answers()
    token = _reading.set(there)
    try:
        yield
    finally:
        _reading.reset(token)


def _answers() -> bool:
    try:
        connections[REPLICA].ensure_connection()
    except OperationalError:
        return False
    return True


class Router:
    """Reads go where `from_the_replica` says; writes never do."""

    def db_for_read(self, model: Any, **hints: Any) -> str | None:
        """The copy, within its context."""
        return REPLICA if _reading.get() else None

    def db_for_write(self, model: Any, **hints: Any) -> str | None:
        """The database itself."""
        return "default"

    def allow_relation(self, one: Any, other: Any, **hints: Any) -> bool | None:
        """Rows of the copy are the same rows."""
        return True

    def allow_migrate(self, db: str, app_label: str, **hints: Any) -> bool | None:
        """A copy follows by itself."""
        return db == "default"
