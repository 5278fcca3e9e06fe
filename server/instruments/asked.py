"""Instruments are asked in the background, once a second, while somebody wants to know; everybody gets the same answer.

So a hundred open panels cost an instrument one question, and one that is dead costs nobody a thread.
"""

import threading
import time
from dataclasses import dataclass, field

from instruments.scpi import Instrument, InstrumentTrouble, LiveReading, read
from shared.problems import ApiError
from shared.slots import give_connection_back

#: Seconds between two questions; how long an answer is good; how long after the last request asking goes on.
EVERY, GOOD_FOR, WANTED_FOR = 1.0, 4.0, 5.0
#: Who asks first waits so long for the first answer, s; a dead instrument has said so by then.
PATIENCE = 4.0
#: So many wait for a first answer at once; whoever comes later is told to come again.
MOST_WAITING = 8

Answer = LiveReading | InstrumentTrouble


@dataclass(slots=True)
class _Kind:
    """One kind of reading of one instrument: who wants it, what it last said."""

    wanted_at: float
    asked_at: float = 0.0
    said_at: float = float("-inf")
    said: Answer | None = None


@dataclass(slots=True)
class _Line:
    """One instrument and the thread that asks it, while there is something to ask."""

    instrument: Instrument
    kinds: dict[str, _Kind] = field(default_factory=dict)
    thread: threading.Thread | None = None


class Asked:
    """What instruments last said."""

    def __init__(self) -> None:
        self._news = threading.Condition()
        self._lines: dict[Instrument, _Line] = {}
        self._waiting = 0

    def latest(self, instrument: Instrument, kind: str) -> LiveReading:
        """What it reads now. Raises InstrumentTrouble with what to do, ApiError where too many wait for an answer."""
        give_connection_back()
        with self._news:
            line = self._lines.setdefault(instrument, _Line(instrument))
            row = line.kinds.setdefault(kind, _Kind(time.monotonic()))
            row.wanted_at = time.monotonic()
            if line.thread is None:
                line.thread = threading.Thread(target=self._ask, args=(line,), name="instrument", daemon=True)
                line.thread.start()
            self._await(row)
            said = row.said
        if isinstance(said, LiveReading):
            return said
        raise said or InstrumentTrouble("It has not answered yet; asking again.")

    def _await(self, row: _Kind) -> None:
        if self._fresh(row):
            return
        if self._waiting >= MOST_WAITING:
            raise ApiError(503, "busy", "Many ask for instruments at this moment; asking again in a little while.")
        self._waiting += 1
        try:
            self._news.wait_for(lambda: self._fresh(row), timeout=PATIENCE)
        finally:
            self._waiting -= 1

    @staticmethod
    def _fresh(row: _Kind) -> bool:
        return time.monotonic() - row.said_at < GOOD_FOR

    def _ask(self, line: _Line) -> None:
        """Ask in turn what is wanted, until nobody wants anything."""
        while True:
            with self._news:
                now = time.monotonic()
                line.kinds = {kind: row for kind, row in line.kinds.items() if now - row.wanted_at < WANTED_FOR}
                if not line.kinds:
                    line.thread = None
                    return
                kind, row = min(line.kinds.items(), key=lambda item: item[1].asked_at)
                pause = row.asked_at + EVERY - now
                if pause <= 0:
                    row.asked_at = now
            if pause > 0:
                time.sleep(pause)
                continue
            said: Answer
            try:
                said = read(line.instrument, kind)
            except InstrumentTrouble as trouble:
                said = trouble
            except Exception as error:  # a library's own: the thread lives on, and says so
                said = InstrumentTrouble(f"The {line.instrument.name} cannot be asked ({type(error).__name__}).")
            with self._news:
                row.said, row.said_at = said, time.monotonic()
                self._news.notify_all()


asked = Asked()
