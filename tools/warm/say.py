"""What the person at the terminal sees: phases with their times, and trouble in plain words. All on stderr, so that
stdout stays the answer's."""

from __future__ import annotations

import subprocess
import sys
import time
from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager


class Trouble(Exception):
    """Something the person has to mend; the message says what to do."""


@contextmanager
def phase(title: str) -> Iterator[None]:
    """Print a phase and how long it took."""
    print(f"  {title} …", end="", file=sys.stderr, flush=True)
    began = time.monotonic()
    try:
        yield
    except BaseException:
        print(" failed", file=sys.stderr, flush=True)
        raise
    print(f" {time.monotonic() - began:.1f} s", file=sys.stderr, flush=True)


def quietly(
    command: Sequence[str], doing: str, remedy: str, env: Mapping[str, str] | None = None, cwd: str | None = None
) -> str:
    """Run a command; its output is shown only if it fails. Returns stdout."""
    try:
        done = subprocess.run(command, capture_output=True, text=True, env=env, cwd=cwd, stdin=subprocess.DEVNULL)
    except FileNotFoundError as error:
        raise Trouble(f"{doing} did not work: {error.filename} is not there. {remedy}") from None
    if done.returncode != 0:
        told = "\n".join((done.stdout + done.stderr).strip().splitlines()[-15:])
        if "No space left" in told:
            remedy = "The disk is full: make room and start again."
        raise Trouble(f"{doing} did not work:\n{told}\n{remedy}")
    return done.stdout
