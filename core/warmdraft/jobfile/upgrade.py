"""Job files of earlier releases, read as what they meant.

Up to 0.5 our own export kept marks, counts, ways and causes under `x-job`, and how the machine is fed and what it
differs in under `x-job.machine`; fasteners and wires were named by English words.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from warmdraft.teardown import key_of, modern_step

#: What stood under x-job and stands in the file itself since.
MOVED = ("marks", "counts", "ways", "causes")
#: What stood under x-job.machine: how the machine is fed, in what it differs from others of its layout.
_OF_THE_MACHINE = {"connection": "supply", "variant": "variant"}


def upgraded(value: Any) -> Any:
    """A job's document in today's shape; what is of today's, or of nobody we know, stays as it is."""
    if not isinstance(value, Mapping) or not isinstance(own := value.get("x-job"), Mapping):
        return value
    moved = {key: _without_nulls(own[key]) for key in MOVED if key in own and key not in value}
    if not moved:
        return value
    for row in moved.get("counts", ()):
        if isinstance(row, dict) and all(isinstance(row.get(key), str) for key in ("what", "key")):
            row["key"] = _key(row["what"], row["key"])
            if isinstance(row.get("step"), str):
                row["step"] = modern_step(row["step"])
    kept = {key: part for key, part in own.items() if key not in MOVED}
    told, machine = own.get("machine"), value.get("machine", {})
    document = {**value, **moved, "x-job": kept}
    if isinstance(told, Mapping) and isinstance(machine, Mapping):
        said = {now: told[then] for now, then in _OF_THE_MACHINE.items() if told.get(then)}
        kept["machine"] = {key: part for key, part in told.items() if key not in _OF_THE_MACHINE.values()}
        document["machine"] = {**said, **machine}
    return document


def _key(what: str, key: str) -> str:
    return key_of(what, key) if what in ("fastener", "wire", "part", "tool") else key


def _without_nulls(rows: Any) -> Any:
    """Nulls said nothing there; here a key is left out instead."""
    if not isinstance(rows, list):
        return rows
    return [
        {key: part for key, part in row.items() if part is not None} if isinstance(row, Mapping) else row
        for row in rows
    ]
