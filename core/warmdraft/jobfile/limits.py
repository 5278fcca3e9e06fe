"""How much a file may hold. Anything far above is no job, and would cost everybody else their answers."""

from __future__ import annotations

import json
from typing import Annotated, Any, TypeVar

from pydantic import BeforeValidator

from warmdraft.errors import DocumentError
from warmdraft.jobfile.parts import refused

#: A file, bytes.
MOST_BYTES = 8_000_000
#: Levels of objects and lists within each other.
MOST_LEVELS = 30
#: A text, characters.
MOST_TEXT = 10_000
#: All keys of one's own that begin with x-, as JSON, bytes.
MOST_OWN_BYTES = 64_000
#: Entries of a job's lists, by key; a log's points are bounded by warmdraft.trend.
MOST_FACTS = {
    "readings": 2_000, "findings": 1_000, "meter": 500, "logs": 20, "marks": 5_000, "counts": 5_000, "ways": 500,
    "causes": 500, "works": 200, "added": 200, "sounds": 100, "old_parts": 200, "parts": 500, "agreements": 100,
    "lint": 300,
}  # fmt: skip
MOST_PIECES = 200
MOST_OPERATIONS = 200

#: Keys beginning with x- that this project writes itself: whoever reads them has bounds of its own for each.
_OURS = frozenset({"x-job", "x-typed", "x-why"})

_Row = TypeVar("_Row")


def no_more_than(most: int, what: str) -> BeforeValidator:
    """A list of at most so many; checked before any entry is looked at."""

    def check(value: Any) -> Any:
        if isinstance(value, list) and len(value) > most:
            raise refused(f"has {len(value)} entries; give at most {most} {what}")
        return value

    return BeforeValidator(check)


Pieces = Annotated[list[_Row], no_more_than(MOST_PIECES, "pieces")]
Operations = Annotated[list[_Row], no_more_than(MOST_OPERATIONS, "operations")]


def check_limits(value: Any) -> None:
    """Raise DocumentError where a parsed JSON value is nested too deeply, or holds too much text or keys of one's own.

    Walks without recursion: depth is what it is about.
    """
    own = 0
    waiting: list[tuple[Any, str, int]] = [(value, "$", 1)]
    while waiting:
        part, path, level = waiting.pop()
        if isinstance(part, str):
            if len(part) > MOST_TEXT:
                raise DocumentError(path, f"has {len(part)} characters; a text has at most {MOST_TEXT}")
        elif isinstance(part, dict | list):
            if level > MOST_LEVELS:
                raise DocumentError(
                    "$", f"is nested over {MOST_LEVELS} levels deep, which no job is; is it the right file?"
                )
            rows = part.items() if isinstance(part, dict) else enumerate(part)
            for key, row in rows:
                where = f"{path}.{key}" if isinstance(key, str) else f"{path}[{key}]"
                if isinstance(key, str) and key.startswith("x-") and key not in _OURS:
                    own += _size(row, where)
                    if own > MOST_OWN_BYTES:
                        raise DocumentError(
                            where, f"keys of your own have over {MOST_OWN_BYTES} bytes together; keep less in the file"
                        )
                waiting.append((row, where, level + 1))


def _size(row: Any, path: str) -> int:
    try:
        return len(json.dumps(row, ensure_ascii=False, separators=(",", ":")).encode("utf-8", "replace"))
    except RecursionError:
        raise DocumentError(path, f"is nested over {MOST_LEVELS} levels deep; is it the right file?") from None
