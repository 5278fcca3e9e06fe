"""Keeps one process running and its log small: `python -m warm.keep LOG COMMAND…`.

A process that dies is started again, a little later each time; one that does not come up at all ends this one too, with
its exit code, so that whoever started it hears of it. TERM is passed on.
"""

from __future__ import annotations

import contextlib
import logging
import os
import signal
import subprocess
import sys
import time
from logging.handlers import RotatingFileHandler
from types import FrameType

#: A log of this size is put aside, and so many of those are kept.
MOST_BYTES, KEPT = 10_000_000, 5
#: A process that lives shorter than this has not come up, s.
COMES_UP_WITHIN = 3.0
#: Seconds until a dead process is started again, doubled each time it dies at once.
AGAIN_AFTER, AT_MOST = 0.5, 30.0


class _Keeper:
    def __init__(self, log: str, command: list[str]) -> None:
        self.command = command
        self.stopping = False
        self.child: subprocess.Popen[str] | None = None
        handler = RotatingFileHandler(log, maxBytes=MOST_BYTES, backupCount=KEPT, encoding="utf-8")
        handler.setFormatter(logging.Formatter("%(message)s"))
        self.lines = logging.getLogger("kept")
        self.lines.propagate = False
        self.lines.setLevel(logging.INFO)
        self.lines.addHandler(handler)
        logging.raiseExceptions = False  # a full disk loses lines, never the process

    def stop(self, _number: int, _frame: FrameType | None) -> None:
        self.stopping = True
        if self.child is not None:
            with contextlib.suppress(ProcessLookupError):
                self.child.send_signal(signal.SIGTERM)

    def run(self) -> int:
        wait, came_up = AGAIN_AFTER, False
        while True:
            began = time.monotonic()
            self.child = subprocess.Popen(self.command, stdin=subprocess.DEVNULL, stdout=subprocess.PIPE,
                                          stderr=subprocess.STDOUT, text=True, errors="replace")  # fmt: skip
            if self.stopping:
                self.child.send_signal(signal.SIGTERM)
            assert self.child.stdout is not None
            for line in self.child.stdout:
                self.lines.info(line.rstrip("\n"))
            code = self.child.wait()
            lived = time.monotonic() - began
            came_up = came_up or lived >= COMES_UP_WITHIN
            if self.stopping or not came_up:
                return code
            wait = AGAIN_AFTER if lived >= AT_MOST else min(2 * wait, AT_MOST)
            self.lines.info('{"level": "ERROR", "from": "warm.keep", "message": "ended with %s, started again"}', code)
            time.sleep(wait)


def main() -> int:
    os.umask(0o077)  # what is in a log is its owner's
    keeper = _Keeper(sys.argv[1], sys.argv[2:])
    for sign in (signal.SIGTERM, signal.SIGINT):
        signal.signal(sign, keeper.stop)
    return keeper.run()


if __name__ == "__main__":
    sys.exit(main())
