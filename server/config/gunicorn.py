"""How the web process runs. A stream holds a thread while it is open; what works is bounded by the database's pool."""

import gc
import os
import signal
import threading
from types import FrameType
from typing import Any

worker_class = "config.worker.PatientWorker"
workers = int(os.environ.get("WARM_WORKERS", "2"))
threads = int(os.environ.get("WARM_THREADS", "32"))
graceful_timeout = 10
keepalive = 15
control_socket_disable = True
# a process that has grown is replaced by a fresh one, not all at once
max_requests = 20_000
max_requests_jitter = 2_000
wsgi_app = "config.wsgi:application"


def post_worker_init(worker: Any) -> None:
    """What the first answer takes is made ready beside the first requests. On TERM the streams end at once; requests in
    flight are answered to their end."""
    from jobs.answer.warm import warm

    def ready() -> None:
        warm()
        # what is there by now stays: to look through it again would hold up a request by a fifth of a second
        gc.freeze()

    threading.Thread(target=ready, name="warm", daemon=True).start()

    def stop(number: int, frame: FrameType | None) -> None:
        from jobs.live.streams import ears

        ears.stop()
        worker.handle_exit(number, frame)

    signal.signal(signal.SIGTERM, stop)
