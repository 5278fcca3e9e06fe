"""The worker: takes jobs from the queue until it is told to stop, and comes back when the database was away."""

import asyncio
import logging
import time
from typing import Any

from django.core.management.base import BaseCommand
from procrastinate.contrib.django import app

log = logging.getLogger("warm.worker")
#: Jobs at once, and seconds until the next try when the database does not answer.
AT_ONCE, AGAIN_AFTER = 2, 2.0
#: Jobs in hand get so long to end when the worker is told to stop, s.
GRACE = 10.0


class Command(BaseCommand):
    """Ends on TERM, with what is in hand done."""

    help = __doc__

    def handle(self, *args: Any, **options: Any) -> None:
        while True:
            try:
                asyncio.run(self._work())
                return
            except Exception as error:
                log.error("worker lost its footing", extra={"error": type(error).__name__})
                time.sleep(AGAIN_AFTER)

    async def _work(self) -> None:
        connector = app.connector.get_worker_connector()  # type: ignore[attr-defined]
        with app.replace_connector(connector):
            async with app.open_async():
                await app.run_worker_async(
                    queues=["work"], concurrency=AT_ONCE, delete_jobs="successful", shutdown_graceful_timeout=GRACE
                )
