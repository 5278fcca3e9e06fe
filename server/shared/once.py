"""Work for the worker that is asked for once, however often somebody asks."""

from contextlib import suppress
from typing import Any

from django.db import transaction
from procrastinate.exceptions import AlreadyEnqueued
from procrastinate.jobs import JobDeferrer


def defer_once(task: JobDeferrer, **arguments: Any) -> None:
    """Queue a task, configured with a queueing lock; nothing where it waits already, and the transaction goes on."""
    with suppress(AlreadyEnqueued), transaction.atomic():
        task.defer(**arguments)
