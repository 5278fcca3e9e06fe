"""gunicorn's threaded worker, with a limit to how long somebody may take to send a request.

Headers or a body that never end would hold a thread for as long as they like; there are only so many. A proxy that
buffers requests keeps such clients away from here altogether (docs/operating.md).
"""

import contextlib
import socket
import threading
import time
from typing import Any

from gunicorn.workers.gthread import ThreadWorker

#: A request has come in whole within this time, s: a photo of 8 MB over a slow line takes less.
WITHIN = 30.0


class PatientWorker(ThreadWorker):  # type: ignore[misc]  # gunicorn has no types
    """Stops reading from whoever takes too long; what is being answered goes on."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self._begun: dict[Any, float] = {}

    def init_process(self) -> None:
        threading.Thread(target=self._watch, name="patience", daemon=True).start()
        super().init_process()

    def handle(self, conn: Any) -> Any:
        self._begun[conn] = time.monotonic()
        try:
            return super().handle(conn)
        finally:
            self._begun.pop(conn, None)

    def _watch(self) -> None:
        while True:
            time.sleep(1.0)
            late = time.monotonic() - WITHIN
            for conn, begun in list(self._begun.items()):
                if begun < late:
                    self._begun.pop(conn, None)
                    with contextlib.suppress(OSError):  # gone by itself
                        conn.sock.shutdown(socket.SHUT_RD)
