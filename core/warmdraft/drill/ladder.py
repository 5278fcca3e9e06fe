"""The ladder of cases: from one fault that shows to two at once and a reading that lies."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cache
from typing import Any

from warmdraft.tables import rows

#: Steps of the ladder.
LEVELS = (1, 2, 3)


@dataclass(frozen=True, slots=True)
class Rung:
    """A case. job: parts of a job file that everybody may see; wrong: its `suppose`; lies: kinds whose reading is so
    many times what it should be."""

    name: str
    level: int
    job: Mapping[str, Any]
    wrong: tuple[Mapping[str, Any], ...]
    lies: Mapping[str, float] = field(default_factory=dict)


def _rung(name: str, row: dict[str, Any]) -> Rung:
    seen = {key: part for key, part in row.items() if key not in ("level", "wrong", "lies")}
    return Rung(name, row["level"], seen, tuple(row["wrong"]), row.get("lies", {}))


@cache
def ladder() -> dict[str, Rung]:
    """All cases, the plainest first."""
    return rows("ladder", _rung)
